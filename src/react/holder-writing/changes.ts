import { fieldNamed } from '../../form/model.js';
import { codeText, movedText, type CodePrinter } from '../../form/code-text.js';
import {
  isControlUse,
  type Assignment,
  type HandOnUse,
  type NewValue,
  type SetAllUse,
  type SetNamedUse,
  type SetUse,
  type Use,
} from '../../form/uses.js';
import type { ChangeRun } from '../change-runs.js';
import { fleeting } from '../effects.js';
import { parameterFor, pascal } from '../form-names.js';
import { startsAsConstants, valueOf } from '../initial-values.js';
import { functionAt, isOneBlock } from '../handed-functions.js';
import { stepArguments } from '../step-functions.js';
import { indentAt, quoted } from '../../source/style.js';
import type { Draft, HookWords } from './draft.js';

/** A name for the previous values that stands nowhere in a text. */
function previousName(text: string): string {
  return ['prev', 'previous', 'before'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'previousValues';
}

function keyed(hole: { shorthand?: string }, text: string): string {
  return hole.shorthand !== undefined && hole.shorthand !== text ? `${hole.shorthand}: ${text}` : text;
}

/** Prints code of a change, in which the previous values have a name. */
function changeCode(code: Parameters<typeof codeText>[0], draft: Draft, previous: string, field: string): string {
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

function property(name: string, value: string): string {
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
function setterCall(assignments: readonly Assignment[], draft: Draft, repeats: boolean, place?: ChangePlace): string {
  const one = oneSetterCall(assignments, draft) ?? oneByOne(assignments, draft, place);
  if (one !== undefined) return repeats && place?.statement ? guarded(one, assignments, draft) : one;
  const early = place ? workedOutAtOnce(assignments, draft) : [];
  const builds = assignments.some(({ value }) => value.kind === 'from-previous');
  if (place && early.length && (builds || !place.fresh) && (place.statement || place.arrowBody))
    return workedOutFirst(assignments, early, draft, place);
  return mergingCall(assignments, draft, repeats, early.length > 0);
}

/** The values of the surrounding view. */
function valuesOf(draft: Draft): string {
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

function fieldText(field: string, draft: Draft): string {
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

/** The object that the values begin as, where it stands by itself. */
function startText(draft: Draft): string {
  draft.needs.reset = true;
  return draft.names.initial;
}

/** What takes the place of a use of the form; undefined leaves its text. */
export function useText(use: Use, draft: Draft): string | undefined {
  if (isControlUse(use)) return undefined;
  switch (use.kind) {
    case 'read':
    case 'depend':
      return undefined;
    case 'read-all':
      draft.needs.values = true;
      return draft.model.holder ? undefined : draft.names.values;
    case 'set':
      return setText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return `${use.parameters} => ${setterCall(use.assignments, draft, false)}`;
    case 'hand-on': {
      const text = use.stable
        ? `change${pascal(use.field)}`
        : functionAt(handlerText(use, draft), draft.context.text(use.span.file), use.span);
      return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
    }
    case 'hand-on-all':
      draft.hook?.called.add('all');
      return use.shorthand === undefined ? draft.names.setter : `${use.shorthand}: ${draft.names.setter}`;
    case 'set-all': {
      draft.hook?.called.add('all');
      if (use.step) return stepText(use, use.step, draft);
      const code = codeText(use.code, draft.printer);
      if (!use.merge) return `${draft.names.setter}(${code})`;
      const previous = previousName(code);
      return `${draft.names.setter}((${previous}) => ({ ...${previous}, ...${code} }))`;
    }
    default: {
      const never: never = use;
      return never;
    }
  }
}

/** New values that a function works out from the ones before. */
function stepText(use: SetAllUse, { name, takesValues }: NonNullable<SetAllUse['step']>, draft: Draft): string {
  const given = stepArguments(use, draft.printer);
  const { setter } = draft.names;
  if (!takesValues) return `${setter}(${name}(${given.join(', ')}))`;
  // what is gone by the time React asks for it is asked now
  if (fleeting.test(given.join(' '))) return `${setter}(${name}(${[valuesOf(draft), ...given].join(', ')}))`;
  const previous = previousName(given.join(' '));
  return `${setter}((${previous}) => ${name}(${[previous, ...given].join(', ')}))`;
}

function setText(use: SetUse, draft: Draft): string {
  if (use.resetsAll && startsAsConstants(draft.model) && !comesAround(draft)) return resetText(draft);
  if (use.whole) {
    draft.hook?.called.add('all');
    return `${draft.names.setter}(${codeText(use.whole.code, draft.printer)})`;
  }
  return setterCall(use.assignments, draft, use.repeats, use);
}

/** Whether a reset by the hook would be told to the code that asks for it, again and again. */
function comesAround({ hook, model }: Draft): boolean {
  return hook?.file.calls.resetsPage === true && model.life?.().followsReset === true;
}

function resetText(draft: Draft): string {
  if (!draft.hook) return `${draft.names.setter}(${startText(draft)})`;
  draft.hook.called.add('reset');
  return `${draft.hook.reset}()`;
}

/** One change in the place of several that follow one another. */
export function runText(run: ChangeRun, draft: Draft): string {
  if (run.resetsAll && !comesAround(draft)) return resetText(draft);
  const assignments = run.uses.flatMap((use) => use.assignments);
  const last = assignments.filter(
    (one, index) => assignments.findLastIndex(({ field }) => field === one.field) === index,
  );
  const [first] = run.uses;
  const fresh = run.uses.every((use) => use.fresh);
  return setterCall(last, draft, false, first && { ...first, fresh });
}

function namedText(use: SetNamedUse, draft: Draft): string {
  const key = codeText(use.key, draft.printer);
  const value = codeText(use.value, draft.printer);
  // a package may take only names that it knows, of which nobody can say here whether this is one
  const byName = draft.hook?.file.calls.anyName || !draft.model.typescript;
  if (draft.hook?.file.calls.from && byName && !use.rest.length) {
    draft.hook.called.add('one');
    return `${draft.hook.one}(${key}, ${value})`;
  }
  draft.hook?.called.add('all');
  const previous = previousName(`${key} ${value}`);
  const rest = use.rest.map(({ field, value: given }) =>
    property(
      field,
      given.kind === 'initial'
        ? valueOf(fieldNamed(draft.model, field), draft.printer)
        : changeCode(given.kind === 'value' ? given.code : given.body, draft, previous, field),
    ),
  );
  return `${draft.names.setter}((${previous}) => ({ ...${previous}, ${[`[${key}]: ${value}`, ...rest].join(', ')} }))`;
}

/** A function that takes the place of a setter that is handed on. */
export function handlerText(use: HandOnUse, draft: Draft): string {
  const type = fieldNamed(draft.model, use.field).type ?? 'unknown';
  const { typescript } = draft.model;
  const { setter } = draft.names;
  const typed = typescript && (!use.typed || use.stable);
  const { hook } = draft;
  if (hook && (use.takes === 'value' || hook.file.calls.looksBack?.by === 'function')) {
    hook.called.add('one');
    const name = use.takes === 'value' ? parameterFor(use.field) : 'next';
    const own = use.takes === 'value' ? type : `${type} | ((${use.field}: ${type}) => ${type})`;
    return `(${name}${typed || (typescript && use.takes !== 'value') ? `: ${own}` : ''}) => ${hook.one}(${fieldText(use.field, draft)}, ${name})`;
  }
  hook?.called.add('all');
  if (use.takes === 'value') {
    const name = parameterFor(use.field);
    return `(${name}${typed ? `: ${type}` : ''}) => ${setter}((prev) => ({ ...prev, ${property(use.field, name)} }))`;
  }
  const parameter = typescript ? `(next: ${type} | ((${use.field}: ${type}) => ${type}))` : '(next)';
  const quote = draft.context.style.quote;
  return `${parameter} => ${setter}((prev) => ({ ...prev, ${use.field}: typeof next === ${quote}function${quote} ? next(prev.${use.field}) : next }))`;
}
