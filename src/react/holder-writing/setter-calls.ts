import { fieldNamed } from '../../form/model.js';
import { codeText, movedText, type CodePrinter } from '../../form/code-text.js';
import type { Assignment, NewValue, SetUse } from '../../form/uses.js';
import { fleeting } from '../effects.js';
import { pascal } from '../form-names.js';
import { valueOf } from '../initial-values.js';
import { isOneBlock } from '../handed-functions.js';
import { indentAt, quoted } from '../../source/style.js';
import type { Draft, HookWords } from './draft.js';

/** A name for the previous values that stands nowhere in a text. */
export function previousName(text: string): string {
  return ['prev', 'previous', 'before'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'previousValues';
}

function keyed(hole: { shorthand?: string }, text: string): string {
  return hole.shorthand !== undefined && hole.shorthand !== text ? `${hole.shorthand}: ${text}` : text;
}

/** Prints code of a change, in which the previous values have a name. */
export function changeCode(
  code: Parameters<typeof codeText>[0],
  draft: Draft,
  previous: string,
  field: string,
): string {
  const printer: CodePrinter = {
    ...draft.printer,
    hole(hole) {
      switch (hole.kind) {
        case 'previous':
          return keyed(hole, `${previous}.${hole.field}`);
        case 'returned':
          return hole.unchanged ? previous : `{ ...${previous}, ${field}: ${codeText(hole.value, printer)} }`;
        case 'given':
        case 'text':
          return movedText(hole, printer);
        case 'captured':
        case 'previous-all':
          return undefined;
        default: {
          const never: never = hole;
          return never;
        }
      }
    },
  };
  return codeText(code, printer);
}

/** A property of an object, short where its value has its name. */
export function property(name: string, value: string): string {
  return name === value ? name : `${name}: ${value}`;
}

/** Where a change stands, as far as it decides how it can be written. */
export type ChangePlace = Pick<SetUse, 'fresh' | 'statement' | 'arrowBody' | 'span'>;

/** Changes whose value has to be worked out at once: later it would be another one, or something would happen twice. */
export function workedOutAtOnce(assignments: readonly Assignment[], draft: Pick<Draft, 'context'>): Assignment[] {
  return assignments.filter(({ value }) => {
    if (value.kind !== 'value') return false;
    const { file, start, end } = value.code;
    return value.effects === true || fleeting.test(draft.context.text(file).slice(start, end));
  });
}

/** Constants for values that are worked out at once, in front of the change that takes them. */
function workedOutFirst(
  assignments: readonly Assignment[],
  early: readonly Assignment[],
  draft: Draft,
  place: ChangePlace,
): string {
  const { style } = draft.context;
  const indent = indentAt(draft.context.text(place.span.file), place.span.start);
  const inner = place.statement ? indent : indent + style.indent;
  const lines: string[] = [];
  const rest = assignments.map((one): Assignment => {
    if (!early.includes(one) || one.value.kind !== 'value') return one;
    const { type } = fieldNamed(draft.model, one.field);
    const name = constantName(one.field, draft);
    const typed = draft.model.typescript && type !== undefined ? `: ${type}` : '';
    lines.push(`const ${name}${typed} = ${changeCode(one.value.code, draft, 'previous', one.field)}`);
    const { code } = one.value;
    const hole = { kind: 'text' as const, start: code.start, end: code.end, text: name };
    return { field: one.field, value: { kind: 'value', code: { ...code, holes: [hole] } } };
  });
  lines.push(mergingCall(rest, draft, false));
  const joint = (style.semicolon || ';') + style.newline;
  if (place.statement) return lines.join(joint + indent);
  return `{${style.newline}${lines.map((line) => inner + line + style.semicolon + style.newline).join('')}${indent}}`;
}

function constantName(field: string, draft: Draft): string {
  const wished = `next${pascal(field)}`;
  let name = draft.context.freeName(wished, `${wished}Value`);
  for (let count = 2; draft.constants.has(name); count += 1) name = `${wished}${count}`;
  draft.constants.add(name);
  return name;
}

/** The setter call that makes some changes in one step. */
export function setterCall(
  assignments: readonly Assignment[],
  draft: Draft,
  repeats: boolean,
  place?: ChangePlace,
): string {
  const one = oneSetterCall(assignments, draft) ?? oneByOne(assignments, draft, place);
  if (one !== undefined) return repeats && place?.statement ? guarded(one, assignments, draft) : one;
  const early = place ? workedOutAtOnce(assignments, draft) : [];
  const builds = assignments.some(({ value }) => value.kind === 'from-previous');
  if (place && early.length && (builds || !place.fresh) && (place.statement || place.arrowBody))
    return workedOutFirst(assignments, early, draft, place);
  return mergingCall(assignments, draft, repeats, early.length > 0);
}

/** The values of the surrounding view. */
export function valuesOf(draft: Draft): string {
  draft.needs.values = true;
  return draft.names.values;
}

/** A change that is made only where it changes something: a package shows the form anew also for an equal value. */
function guarded(call: string, [first]: readonly Assignment[], draft: Draft): string {
  if (!draft.hook?.file.calls.from || first?.value.kind !== 'value') return call;
  const now = draft.model.holder
    ? `${valuesOf(draft)}.${first.field}`
    : (fieldNamed(draft.model, first.field).names.value ?? first.field);
  const next = changeCode(first.value.code, draft, 'previous', first.field);
  return `if (!Object.is(${next}, ${now})) ${call}`;
}

/** The call that lays some values over the ones before; `now`: those of the surrounding view are the ones before. */
function mergingCall(assignments: readonly Assignment[], draft: Draft, repeats: boolean, now = false): string {
  draft.hook?.called.add('all');
  const { setter } = draft.names;
  const source = assignments
    .map(({ value }) => (value.kind === 'value' ? value.code : value.kind === 'from-previous' ? value.body : undefined))
    .map((code) => (code ? draft.context.text(code.file).slice(code.start, code.end) : ''))
    .join(' ');
  const [first] = assignments;
  const named = first?.value.kind === 'from-previous' ? first.value.parameter : undefined;
  const fits = named !== undefined && (assignments.length === 1 || !/^\w$/.test(named));
  const previous = fits && first?.field !== named ? named : previousName(source);
  if (first?.value.kind === 'from-previous' && assignments.length === 1 && first.value.block) {
    const body = changeCode(first.value.body, draft, previous, first.field);
    const { newline, indent } = draft.context.style;
    const block = isOneBlock(body) ? body : `{${newline}${indent}${body}${newline}}`;
    return `${setter}((${previous}) => ${block})`;
  }
  const parts = assignments.map(({ field, value }) => {
    if (value.kind === 'initial') return property(field, valueOf(fieldNamed(draft.model, field), draft.printer));
    if (value.kind === 'value') return property(field, changeCode(value.code, draft, previous, field) || 'undefined');
    if (value.whole && value.body.start === value.whole.start && value.body.end === value.whole.end)
      return `${field}: (${changeCode(value.whole, draft, previous, field)})(${previous}.${field})`;
    return property(field, changeCode(value.body, draft, previous, field));
  });
  if ((now || fleeting.test(source)) && assignments.every(({ value }) => value.kind !== 'from-previous'))
    return `${setter}({ ...${valuesOf(draft)}, ${parts.join(', ')} })`;
  const next = `{ ...${previous}, ${parts.join(', ')} }`;
  // what gives every value fills the form
  const given = new Set(assignments.flatMap(({ field, value }) => (value.kind === 'from-previous' ? [] : [field])));
  if (draft.model.holder?.start?.empty && draft.model.fields.every(({ name }) => given.has(name)))
    return `${setter}({ ${parts.join(', ')} })`;
  // where nothing is held yet, there is nothing to change
  if (draft.model.typescript && draft.model.holder?.start?.empty)
    return `${setter}((${previous}) => ${previous} && ${next})`;
  if (repeats && first?.value.kind === 'value') {
    const value = changeCode(first.value.code, draft, previous, first.field);
    return `${setter}((${previous}) => (Object.is(${previous}.${first.field}, ${value}) ? ${previous} : ${next}))`;
  }
  return `${setter}((${previous}) => (${next}))`;
}

/** The call that changes one value of the hook's; undefined where the change is about more, or no hook holds it. */
function oneSetterCall(assignments: readonly Assignment[], draft: Draft): string | undefined {
  const { hook } = draft;
  const [first, ...more] = assignments;
  if (!hook || !first || more.length) return undefined;
  const { field, value } = first;
  const next =
    value.kind === 'from-previous'
      ? lookingBack(field, value, draft, hook)
      : value.kind === 'initial'
        ? valueOf(fieldNamed(draft.model, field), draft.printer)
        : changeCode(value.code, draft, 'previous', field) || 'undefined';
  if (next === undefined) return undefined;
  hook.called.add('one');
  return `${hook.one}(${fieldText(field, draft)}, ${next})`;
}

/** A field's name as a text of the file. */
export function fieldText(field: string, draft: Draft): string {
  return quoted(field, draft.context.style);
}

/** The next value of a field that looks at the one before, as a hook takes it; undefined where it has no word for that. */
function lookingBack(
  field: string,
  value: Extract<NewValue, { kind: 'from-previous' }>,
  draft: Draft,
  hook: HookWords,
): string | undefined {
  const { looksBack } = hook.file.calls;
  const isWhole = value.whole && value.body.start === value.whole.start && value.body.end === value.whole.end;
  if (!looksBack) return undefined;
  if (looksBack.by === 'call') {
    if (value.block) return undefined;
    hook.called.add('look');
    const asked = (name: string): string => `${hook.look}(${fieldText(name, draft)})`;
    if (isWhole && value.whole) return `(${codeText(value.whole, draft.printer)})(${asked(field)})`;
    return codeText(
      value.body,
      previousPrinter(draft, (hole) => keyed(hole, asked(hole.field)), asked(field)),
    );
  }
  if (value.reads.some((read) => read !== field)) return undefined;
  if (isWhole && value.whole) return codeText(value.whole, draft.printer);
  const source = draft.context.text(value.body.file).slice(value.body.start, value.body.end);
  const previous = value.parameter ?? previousName(source);
  const body = codeText(
    value.body,
    previousPrinter(draft, (hole) => keyed(hole, previous), previous),
  );
  if (value.block && !isOneBlock(body)) return undefined;
  return `(${previous}) => ${/^\{/.test(body) && !value.block ? `(${body})` : body}`;
}

/** Prints code in which the values before stand as holes. */
function previousPrinter(
  draft: Draft,
  previous: (hole: { shorthand?: string; field: string }) => string,
  unchanged: string,
): CodePrinter {
  const printer: CodePrinter = {
    ...draft.printer,
    hole(hole) {
      if (hole.kind === 'previous') return previous(hole);
      if (hole.kind === 'returned') return hole.unchanged ? unchanged : codeText(hole.value, printer);
      return hole.kind === 'captured' ? undefined : movedText(hole, printer);
    },
  };
  return printer;
}

/** Several changes as one call each, as a package's hook takes them; undefined where there is no room for statements. */
function oneByOne(
  assignments: readonly Assignment[],
  draft: Draft,
  place: ChangePlace | undefined,
): string | undefined {
  const { hook } = draft;
  if (!hook?.file.calls.from || assignments.length < 2 || !(place?.statement || place?.arrowBody)) return undefined;
  // a later call would see what an earlier one brought
  const changed = new Set(assignments.map(({ field }) => field));
  const crossed = assignments.some(
    ({ field, value }) =>
      value.kind === 'from-previous' && value.reads.some((read) => read !== field && changed.has(read)),
  );
  const lines = crossed ? [] : assignments.map((one) => oneSetterCall([one], draft));
  if (!lines.length || lines.includes(undefined)) return undefined;
  const { style } = draft.context;
  const indent = indentAt(draft.context.text(place.span.file), place.span.start);
  const source = draft.context.text(place.span.file);
  const alone = source.slice(source.lastIndexOf('\n', place.span.start - 1) + 1, place.span.start).trim() === '';
  if (place.statement) return lines.join(alone ? style.semicolon + style.newline + indent : '; ');
  const inner = lines.map((line) => `${indent}${style.indent}${line ?? ''}${style.semicolon}${style.newline}`);
  return `{${style.newline}${inner.join('')}${indent}}`;
}
