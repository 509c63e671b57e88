import { outermostUses } from '../../form/code-text.js';
import type { Span } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { AskUse, Use, WatchUse } from '../../form/uses.js';
import { hasDisabled } from '../disabled.js';
import type { FileEdit } from '../writing.js';
import { wholeUses, type SignalDraft } from './draft.js';

/** A use that asks for the stream of changes of a field or of the whole form, and the span of that. */
interface Stream {
  of: string | undefined;
  span: Span;
  use: Use;
}

/** The streams of changes that code follows: `town.valueChanges`. */
export function followedStreams(draft: SignalDraft): Stream[] {
  const { model, context } = draft;
  return wholeUses(model).flatMap((use): Stream[] => {
    if (use.row || (use.kind !== 'watch' && use.kind !== 'ask')) return [];
    if (use.kind === 'ask') return asksChanges(use) ? [{ of: use.of, span: use.span, use }] : [];
    const text = context.text(use.span.file).slice(use.span.start, use.span.end);
    const end = text.indexOf('.valueChanges');
    return end < 0
      ? []
      : [{ of: use.of, span: { ...use.span, end: use.span.start + end + '.valueChanges'.length }, use }];
  });
}

function asksChanges({ member, asks, inTemplate }: AskUse): boolean {
  return member === 'valueChanges' && asks?.given === undefined && !inTemplate;
}

/** Why a stream cannot be followed over a signal; undefined where it can. */
export function streamTrouble({ of, use }: Pick<Stream, 'of' | 'use'>, draft: SignalDraft): string | undefined {
  const { model, fields, context } = draft;
  if (of === undefined && hasDisabled(model))
    return 'values of disabled controls are left out here, and a form over a signal keeps them';
  if (of !== undefined && !fields.some(({ name }) => name === of)) return 'the values of a group are followed together';
  // a signal tells a change after the fact, and what it holds by then is where it begins
  if (isSetByClass(of, model))
    return 'the class sets this as well, which a signal would tell later, or not at all where it is set early';
  const resets = model.uses.some((one) => one.kind === 'reset' && (one.of === undefined || one.of === of));
  return resets && use.kind === 'watch' && !isRepeatable(use, context.text(use.code.file))
    ? 'a reset tells its value once more, and here that would count'
    : undefined;
}

/** Whether code of the class sets a field, or any where none is named; a reset is none of that. */
export function isSetByClass(of: string | undefined, { uses }: FormModel): boolean {
  return uses.some(
    (one) =>
      one.kind === 'set-all' ||
      (one.kind === 'change-rows' && (of === undefined || of === one.list)) ||
      (one.kind === 'set' && (of === undefined || one.assignments.some(({ field }) => field === of))),
  );
}

/** Whether it makes no difference how often code runs for the same value: it only assigns what follows from that. */
function isRepeatable({ code }: WatchUse, text: string): boolean {
  const body = text.slice(code.start, code.end).replace(/^[^=]*=>/, '');
  return !/\+\+|--|[-+*/]=|\b(?:emit|push|unshift|splice|next|subscribe|then|fetch|alert|open|navigate\w*)\(/.test(
    body,
  );
}

/** The member that tells the changes of a field, or of all values. */
export function memberName(of: string | undefined, draft: SignalDraft): string {
  const key = of ?? '';
  const known = draft.streams.get(key);
  if (known !== undefined) return known;
  const word = of === undefined ? 'value' : (of.split('.').at(-1) ?? of).replace(/\W/g, '');
  const name = draft.freeMember(`${word}Changes`, `${word}Stream`);
  draft.streams.set(key, name);
  return name;
}

/** Edits by which code follows the signal instead of the form's own stream. */
export function streamEdits(draft: SignalDraft, ledger: LedgerEntry[]): FileEdit[] {
  return followedStreams(draft).map(({ of, span, use }) => {
    const text = `this.${memberName(of, draft)}`;
    ledger.push({
      entry: 'carried',
      span: use.kind === 'watch' ? span : use.span,
      what: 'changes followed',
      why: text,
    });
    if (use.kind === 'watch') ledger.push({ entry: 'carried', span: use.span, what: 'changes followed', why: text });
    return { ...span, text };
  });
}

/** The members that tell changes, for the class. */
export function streamLines({ streams, values, context }: SignalDraft, path: (of: string) => string): string[] {
  return [...streams].map(([of, name]) => {
    const source = of === '' ? `this.${values}` : `computed(() => this.${values}()${path(of)})`;
    // what it holds at first is no change
    return `private readonly ${name} = toObservable(${source}).pipe(skip(1))${context.style.semicolon}`;
  });
}

/** The uses without those that follow changes: what these do stands inside of them. */
export function withoutStreams(uses: readonly Use[]): Use[] {
  return outermostUses(uses.filter((use) => use.kind !== 'watch' && !(use.kind === 'ask' && asksChanges(use))));
}
