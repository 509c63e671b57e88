import type { Span } from './code.js';

/** What became of one use, control, rule or declaration. */
export type Fate = 'carried' | 'kept' | 'retired' | 'by-hand';

export interface LedgerEntry {
  entry: Fate;
  span: Span;
  what: string;
  why: string;
  /** It is carried by code elsewhere, and its own text stays: a name that still means the same values, an attribute that stays beside a rule. */
  untouched?: true;
  /** Code of the approach that goes is stated anew in full by what takes it over; statement for statement it was matched. */
  takenOver?: true;
}

/** What a writer wants done: edits of files, new files, and the account of it. Offsets count in the original text. */
export interface RewritePlan {
  edits: { file: string; start: number; end: number; text: string }[];
  creates: { file: string; text: string }[];
  deletes: string[];
  ledger: LedgerEntry[];
  /** npm packages the result imports. */
  dependencies: { name: string; range: string }[];
  /** Names of the author's that had to give way to another one: old to new. */
  renamed?: ReadonlyMap<string, string>;
}
