/** What of a rewrite is to be proven. */
export const proofLevels = ['all', 'types', 'play', 'none'] as const;

export type ProofLevel = (typeof proofLevels)[number];

/** A complaint of a compiler. `file` is absolute; lines count from 1. */
export interface Complaint {
  file: string;
  line: number;
  message: string;
}

/** What a compiler says of a rewrite, compared with what it said before. */
export type TypesProof = { kind: 'same' } | { kind: 'worse'; complaints: Complaint[] } | { kind: 'none'; why: string };

/** What playing both versions gave. */
export type PlayProof =
  { kind: 'same'; steps: number } | { kind: 'different'; why?: string } | { kind: 'none'; why: string };

/** How a reason begins that says what went wrong in a play. */
export const playedWrong = 'the result behaves differently: ';

/** What was proven of a rewrite, and what could not be and why. */
export interface Proof {
  types: TypesProof['kind'];
  play: PlayProof['kind'];
  /** What is wrong, or why something was not proven; empty where all was. */
  why: string;
  complaints: Complaint[];
}

/** The texts of a rewrite as a compiler is to see them: null means the file is gone. */
export type Texts = ReadonlyMap<string, string | null>;

/**
 * Joins what the compiler and the play gave.
 * @param types undefined where it was not asked for
 */
export function proofOf(types: TypesProof | undefined, play: PlayProof | undefined): Proof {
  const reasons: string[] = [];
  if (types?.kind === 'none') reasons.push(`types not proven: ${types.why}`);
  if (types?.kind === 'worse')
    reasons.push(...types.complaints.slice(0, 1).map(({ message }) => `the compiler says: ${message}`));
  if (play?.kind === 'none') reasons.push(`not played: ${play.why}`);
  if (play?.kind === 'different')
    reasons.push(play.why === undefined ? 'the result behaves differently' : `${playedWrong}${play.why}`);
  return {
    types: types?.kind ?? 'none',
    play: play?.kind ?? 'none',
    why: reasons.join('; '),
    complaints: types?.kind === 'worse' ? types.complaints : [],
  };
}

/** Complaints that were not there before. */
export function newComplaints(before: readonly Complaint[], after: readonly Complaint[]): Complaint[] {
  const key = ({ file, message }: Complaint): string => `${file}\n${message}`;
  const left = new Map<string, number>();
  for (const one of before) left.set(key(one), (left.get(key(one)) ?? 0) + 1);
  return after.filter((one) => {
    const count = left.get(key(one)) ?? 0;
    left.set(key(one), count - 1);
    return count <= 0;
  });
}
