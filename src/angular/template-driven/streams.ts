import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, type FormModel } from '../../form/model.js';
import type { AskUse, SetAllUse, SetUse, Use, WatchUse } from '../../form/uses.js';
import type { WriteContext } from '../../form/writing.js';
import { indentAt } from '../../source/style.js';
import { isInTemplate } from '../use-edits.js';
import { valueText, type TemplateDraft } from './draft.js';

/** A use that asks a field for the stream of its changes. */
type StreamUse = AskUse & { of: string };

/** Whether a use asks a field for the stream of its changes: `town.valueChanges`. */
export function isStream(use: Use): use is StreamUse {
  return (
    use.kind === 'ask' &&
    use.member === 'valueChanges' &&
    use.of !== undefined &&
    !use.row &&
    !use.inTemplate &&
    use.asks?.given === undefined
  );
}

/**
 * A model whose streams are told from the first word to `valueChanges`. Code that follows a field stays a stream as well
 * where the class sets that field: an event of the template would not tell it.
 */
export function withStreams(model: FormModel, { text }: WriteContext): FormModel {
  const uses = model.uses.map((use): Use => {
    if (isStream(use)) return use.asks ? { ...use, span: use.asks.span } : use;
    if (use.kind !== 'watch' || use.of === undefined || !isSetByClass(use.of, model)) return use;
    return streamOf(use, text(use.span.file)) ?? use;
  });
  return { ...model, uses };
}

function streamOf({ of, span, where }: WatchUse, text: string): AskUse | undefined {
  const at = text.slice(span.start, span.end).search(/\.valueChanges\b/);
  if (at < 0) return undefined;
  const head = { ...span, end: span.start + at + '.valueChanges'.length };
  const asks = { span: head, statement: false };
  return {
    kind: 'ask',
    of,
    member: 'valueChanges',
    named: undefined,
    joint: '.',
    inTemplate: false,
    asks,
    where,
    span: head,
  };
}

/** Whether the class sets a field, so that its stream tells it. */
function isSetByClass(of: string, { uses }: FormModel): boolean {
  return uses.some(
    (use) =>
      (use.kind === 'set' && use.quiet !== true && use.assignments.some(({ field }) => field === of)) ||
      (use.kind === 'set-all' && use.quiet !== true),
  );
}

/** Why a field's changes cannot be told by its control in the template; undefined where they can. */
export function streamTrouble({ of }: StreamUse, { model, component, context }: TemplateDraft): string | undefined {
  const field = model.fields.find(({ name }) => name === of);
  if (!field || isRowField(of) || field.kind === 'list of rows') return 'values are followed together here';
  if (field.type === undefined) return 'the type of what is followed is not told';
  const own = model.controls.filter(({ field: name }) => name === of);
  if (!own.length) return 'no control of the template tells it';
  if (own.some(({ binding }) => binding?.disabled && !binding.disabled.constant))
    return 'its control is switched on and off, which it would tell as well';
  const lost = model.uses.find(
    (use) =>
      setsStreamed(use, of, context) && (use.row || isInTemplate(use.span, component) || !isStatement(use, context)),
  );
  return lost ? 'it is set in the middle of something else, which it would have to tell' : undefined;
}

/** Whether a use sets a field in the class, and tells those who follow it. */
function setsStreamed(use: Use, of: string, { text }: WriteContext): use is SetUse | SetAllUse {
  if (use.kind === 'set') return use.quiet !== true && use.assignments.some(({ field }) => field === of);
  if (use.kind !== 'set-all' || use.quiet === true) return false;
  const key = of.split('.')[0] ?? of;
  if (!use.merge) return true;
  const given = use.gives?.map((one) => one.key);
  const code = text(use.code.file).slice(use.code.start, use.code.end);
  return given
    ? given.includes(key)
    : !code.trim().startsWith('{') || code.includes('...') || new RegExp(`\\b${key}\\b`).test(code);
}

function isStatement({ span }: Use, { text }: WriteContext): boolean {
  const file = text(span.file);
  return /(?:^|[\n;{}])\s*$/.test(file.slice(0, span.start)) && /^\s*[;\n}]/.test(file.slice(span.end));
}

/** The member through which a control of the template tells its changes. */
export function streamName(of: string, draft: TemplateDraft): string {
  const known = draft.streams.get(of);
  if (known !== undefined) return known;
  const word = (of.split('.').at(-1) ?? of).replace(/\W/g, '');
  const taken = (name: string): boolean =>
    draft.component.members.has(name) || [...draft.streams.values()].includes(name);
  const name = [`${word}Changes`, `${word}Stream`].find((one) => !taken(one)) ?? `${word}ChangesOfForm`;
  draft.streams.set(of, name);
  return name;
}

/** The attribute by which a control tells its changes, where something follows them. */
export function streamAttribute(field: string, draft: TemplateDraft): string[] {
  const isFollowed = draft.model.uses.some((use) => isStream(use) && use.of === field);
  return isFollowed ? [`(ngModelChange)="${streamName(field, draft)}.next($event)"`] : [];
}

/** Statements behind a change of the class, which tell it to those who follow the field. */
export function toldText(use: SetUse | SetAllUse, draft: TemplateDraft): string {
  const { model, context } = draft;
  const followed = [...new Set(model.uses.flatMap((one) => (isStream(one) ? [one.of] : [])))];
  const { style, text } = context;
  const indent = indentAt(text(use.span.file), use.span.start);
  return followed
    .filter((of) => setsStreamed(use, of, context))
    .map((of) => {
      const given = givenTo(of, use, draft);
      const value =
        given !== undefined && /^(?:[\w$.]+|'[^']*'|"[^"]*")$/.test(given) ? given : valueText(of, false, draft);
      return `${style.semicolon || ';'}${style.newline}${indent}this.${streamName(of, draft)}.next(${value})`;
    })
    .join('');
}

/** What a change of the class gives a field, as an expression. */
function givenTo(of: string, use: SetUse | SetAllUse, { printer }: TemplateDraft): string | undefined {
  if (use.kind === 'set-all') {
    const object = codeText(use.code, printer).trim();
    const key = of.split('.')[0] ?? of;
    const [, own, value] =
      new RegExp(`[{,]\\s*(${key})\\s*(?::\\s*([\\w$.]+|'[^']*'|"[^"]*")\\s*)?[,}]`).exec(object) ?? [];
    return of.includes('.') || !object.startsWith('{') ? undefined : (value ?? own);
  }
  const [only, ...more] = use.assignments;
  const isPlain = only?.value.kind === 'value' && !more.length && only.value.operator === undefined;
  return isPlain && only.value.kind === 'value' ? codeText(only.value.code, printer) : undefined;
}

/** The members that tell changes, for the class. */
export function streamLines(draft: TemplateDraft): string[] {
  const { model, context } = draft;
  return [...draft.streams].map(([of, name]) => {
    const field = model.fields.find((one) => one.name === of);
    const resets = model.uses.some((use) => use.kind === 'reset');
    const type = field?.type ?? 'unknown';
    const isNull = resets && field?.resets === 'null' && !/\bnull\b/.test(type) && !isParameterTyped(of, draft);
    return `protected readonly ${name} = new Subject<${type}${isNull ? ' | null' : ''}>()${context.style.semicolon}`;
  });
}

/** Whether the author says the type of what comes, so that null is not among it: `subscribe((text: string) => …)`. */
function isParameterTyped(of: string, { model, context }: TemplateDraft): boolean {
  return model.uses.some((use) => {
    if (!isStream(use) || use.of !== of) return false;
    const rest = context.text(use.span.file).slice(use.span.end);
    const typed = /^[^;]*?\bsubscribe\(\s*\(\s*\w+\s*:\s*([^)]+)\)/.exec(rest)?.[1];
    return typed !== undefined && !/\bnull\b/.test(typed);
  });
}

/** What takes the place of a stream that is asked for, and its account. */
export function streamText(use: StreamUse, draft: TemplateDraft): string {
  return `this.${streamName(use.of, draft)}`;
}

/** Entries of streams that stay by hand. */
export function streamEntries(draft: TemplateDraft): LedgerEntry[] {
  return draft.model.uses.flatMap((use): LedgerEntry[] => {
    const why = isStream(use) ? streamTrouble(use, draft) : undefined;
    if (why === undefined) return [];
    const what = draft.context.text(use.span.file).slice(use.span.start, use.span.end);
    return [{ entry: 'by-hand', span: use.span, what, why }];
  });
}
