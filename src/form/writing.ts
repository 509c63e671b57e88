import type { Script } from '../source/script.js';
import type { TextStyle } from '../source/style.js';
import type { Span } from './code.js';
import type { LedgerEntry, RewritePlan } from './ledger.js';
import type { FormModel } from './model.js';

/** What a writer is given besides the model. */
export interface WriteContext {
  /** A script of the form, parsed. */
  script(file: string): Script;
  /** Text of any file of the form, templates included. */
  text(file: string): string;
  /** Whether a file is there. */
  exists(file: string): boolean;
  style: TextStyle;
  /** What the project's settings say of a hook that is generated: its name, and the absolute folder it stands in. */
  hook?: { name: string | undefined; folder: string | undefined } | undefined;
  /** Way of stating rules that was asked for, where the approach allows several. */
  rules?: string | undefined;
  /** Other scripts of the project that import a name from a file; undefined where there are too many to ask. */
  importers(file: string, name: string): string[] | undefined;
  /** A name that stands nowhere in the files of the form: the wished one, or one like it. Each answer is given once. */
  freeName(wished: string, ...others: string[]): string;
}

/** Turns a form model into edits and the account of them. */
export type Writer = (model: FormModel, context: WriteContext) => RewritePlan;

/** A plan that changes nothing, because places are left by hand. */
export function leftByHand(ledger: LedgerEntry[]): RewritePlan {
  return { edits: [], creates: [], deletes: [], dependencies: [], ledger };
}

/** A place of the form that is left by hand, with its text. */
export function placeByHand(span: Span, context: Pick<WriteContext, 'text'>, why: string): LedgerEntry {
  return { entry: 'by-hand', span, what: context.text(span.file).slice(span.start, span.end), why };
}

/**
 * What the reader could not understand, as entries left by hand.
 * @param signals whether the target keeps the values in signals
 */
export function unclearEntries(model: FormModel, signals = false): LedgerEntry[] {
  const unclear = model.unclear.filter(({ unlessSignal }) => !signals || !unlessSignal);
  return unclear.map(({ span, what, why }) => ({ entry: 'by-hand', span, what, why }));
}
