import path from 'node:path';
import { playedWrong, type Proof } from '../proof/proof.js';
import type { Paint } from './paint.js';
import { columns } from './table.js';

const typesWords = {
  same: 'the compiler says what it said before',
  worse: 'the compiler has new complaints',
  none: '',
};

/** What was proven of a rewrite, what could not be and why, in a line each. */
export function proofText(proof: Proof, cwd: string, paint: Paint): string {
  const reasons = proof.why.split('; ');
  const reason = (start: string): string =>
    reasons.find((one) => one.startsWith(start))?.slice(start.length) ?? 'not asked for';
  const mark = (kind: string, good: string): string =>
    kind === 'none' ? paint.yellow('not proven') : kind === 'same' ? paint.green(good) : paint.red('refuted');
  const rows = [
    [
      mark(proof.types, 'proven'),
      'types',
      paint.dim(proof.types === 'none' ? reason('types not proven: ') : typesWords[proof.types]),
    ],
    [
      mark(proof.play, 'proven'),
      'behaviour',
      paint.dim(
        proof.play === 'none'
          ? proof.types === 'worse'
            ? 'not played: the types are wrong'
            : reason('not played: ')
          : proof.play === 'same'
            ? 'both versions behave the same'
            : howDifferent(proof),
      ),
    ],
  ];
  const complaints = proof.complaints.map(
    ({ file, line, message }) => `  ${path.relative(cwd, file)}:${line}  ${message}`,
  );
  return [paint.bold('Proof'), columns(rows, { indent: '  ' }), ...complaints].join('\n');
}

/** What a play found, in the words of the proof. The reason of the play is its last. */
function howDifferent({ why }: Proof): string {
  const at = why.indexOf(playedWrong);
  return at < 0 ? 'the result behaves differently' : why.slice(at);
}
