import type { LedgerEntry } from '../form/ledger.js';

/** One file of a rewrite: whole texts before and after; null where there is no file. Paths are absolute. */
export interface FileChange {
  file: string;
  change: 'edit' | 'create' | 'delete';
  before: string | null;
  after: string | null;
}

export interface Figures {
  lines: number;
  stateVariables: number;
  handlers: number;
}

/** A rewrite of one form, ready to be shown or written. Lines of the ledger count in the texts before. */
export interface Rewrite {
  form: string;
  from: string;
  to: string;
  route: string[];
  files: FileChange[];
  ledger: (Omit<LedgerEntry, 'span'> & { file: string; line: number })[];
  figures: { before: Figures; after: Figures };
  dependencies: { name: string; range: string }[];
}

/** Why there is no rewrite: what was asked for cannot be done with what is there. `next` says what to do. */
export interface Refusal {
  kind: 'refusal';
  message: string;
  next: string;
}

/** A self-check that failed: a fault of the tool. */
export interface Fault {
  kind: 'fault';
  failed: string[];
}

export type RewriteResult =
  { kind: 'rewrite'; rewrite: Rewrite } | { kind: 'same'; form: string; approach: string } | Refusal | Fault;

export interface RewriteRequest {
  /** Absolute path of the file. */
  file: string;
  to: string;
  form?: string | undefined;
  acceptByHand?: boolean;
  /** Way of stating rules, where the approach allows several. */
  rules?: string | undefined;
  /** Writes packages that the result needs into the project's package.json. */
  addDependency?: boolean;
}
