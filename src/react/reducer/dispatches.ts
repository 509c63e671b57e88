import { fieldNamed, type FormModel } from '../../form/model.js';
import { codeText } from '../../form/code-text.js';
import { isControlUse, plainChange, type SetNamedUse, type SetUse, type Use } from '../../form/uses.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import { indentAt } from '../../source/style.js';
import type { ChangeRun } from '../change-runs.js';
import { startsAsConstants, valueOf } from '../initial-values.js';
import { type ReducerDraft } from './draft.js';
import { handOnText, handOnAllText, mayHoldMore } from './handed-setters.js';
import { flatProperty, str, property } from './pieces.js';

/** The text that takes the place of a use; undefined where it stays. */
export function textOfUse(use: Use, draft: ReducerDraft): string | undefined {
  if (isControlUse(use)) return undefined;
  switch (use.kind) {
    case 'read':
    case 'depend':
      return undefined;
    case 'set':
      return dispatchOf([use], draft, use.span.start);
    case 'hand-on':
      return handOnText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return `${use.parameters} => ${dispatchOf([plainChange(use)], draft, use.span.start)}`;
    case 'hand-on-all':
      return handOnAllText(use, draft);
    case 'set-all':
      if (!use.merge) {
        needReplaced(draft, codeText(use.code, draft.printer));
        return `${draft.names.dispatch}({ type: ${str(draft, 'replaced')}, ${flatProperty('next', codeText(use.code, draft.printer))} })`;
      }
      draft.needs.changed = true;
      return `${draft.names.dispatch}({ type: ${str(draft, 'changed')}, ${flatProperty('values', codeText(use.code, draft.printer))} })`;
    case 'read-all':
      return undefined;
    default: {
      const never: never = use;
      return never;
    }
  }
}

/** The dispatch that changes a field whose name is told when the form runs. */
function namedText(use: SetNamedUse, draft: ReducerDraft): string {
  draft.needs.named = true;
  const parts = [
    `type: ${str(draft, 'fieldChanged')}`,
    flatProperty('name', codeText(use.key, draft.printer)),
    flatProperty('value', codeText(use.value, draft.printer)),
  ];
  const named = `${draft.names.dispatch}({ ${parts.join(', ')} })`;
  if (!use.rest.length) return named;
  const { style, text } = draft.context;
  const alone = { resetsAll: false, statement: undefined, arrowBody: false, fresh: false, repeats: false };
  const rest: SetUse = {
    ...alone,
    kind: 'set',
    assignments: use.rest,
    called: undefined,
    where: use.where,
    span: use.span,
  };
  const more = (separate(rest) ?? [rest]).map((part) => dispatchOf([part], draft, use.span.start));
  const indent = indentAt(text(use.span.file), use.span.start);
  return [named, ...more].join(`${style.semicolon || ';'}${style.newline}${indent}`);
}

function changeGroup(draft: ReducerDraft, values: Item[]): Group {
  draft.needs.changed = true;
  return {
    open: '{',
    close: '}',
    items: [
      { lead: 'type: ', value: str(draft, 'changed') },
      { lead: 'values: ', value: { open: '{', close: '}', items: values } },
    ],
  };
}

/** Whether a change computes a value from another one that changes with it, so that it cannot be several actions. */
export function isEntangled(use: SetUse): boolean {
  const changed = use.assignments.map(({ field }) => field);
  return use.assignments.some(
    ({ field, value }) =>
      value.kind === 'from-previous' && value.reads.some((read) => read !== field && changed.includes(read)),
  );
}

/** A change of several values, some of them computed from the ones before: each of these is an action of its own. */
export function separate(use: SetUse): SetUse[] | undefined {
  const computed = use.assignments.filter(({ value }) => value.kind === 'from-previous');
  if (use.whole || !computed.length || use.assignments.length < 2 || use.resetsAll) return undefined;
  if (isEntangled(use)) return undefined;
  const rest = use.assignments.filter(({ value }) => value.kind !== 'from-previous');
  const parts = [...(rest.length ? [rest] : []), ...computed.map((one) => [one])];
  return parts.map((assignments) => ({ ...use, assignments, statement: undefined, arrowBody: false }));
}

function separateText(use: SetUse, parts: readonly SetUse[], draft: ReducerDraft): string {
  const { style } = draft.context;
  const source = draft.context.text(use.span.file);
  const indent = indentAt(source, use.span.start);
  const calls = parts.map((part) => dispatchOf([part], draft, use.span.start));
  if (use.statement) return calls.join(`${style.semicolon || ';'}${style.newline}${indent}`);
  if (!use.arrowBody) return `(${calls.join(', ')})`;
  const lines = calls.map((call) => `${indent}${style.indent}${call}${style.semicolon}${style.newline}`).join('');
  return `{${style.newline}${lines}${indent}}`;
}

/** The dispatch that makes the changes of one or several uses. */
function dispatchOf(uses: readonly SetUse[], draft: ReducerDraft, start: number): string {
  const [only, ...others] = uses;
  const parts = only && !others.length ? separate(only) : undefined;
  if (only && parts) return separateText(only, parts, draft);
  const { style } = draft.context;
  const source = draft.context.script(draft.model.file).text;
  const group = actionGroup(uses, draft);
  const indent = indentAt(source, start);
  const lineStart = source.lastIndexOf('\n', start - 1) + 1;
  const first = uses[0];
  const used =
    first?.arrowBody !== true
      ? start - lineStart + 1
      : startsAttributeLine(first, source)
        ? indent.length + style.indent.length
        : 0;
  const call = { ...group, open: `${draft.names.dispatch}(${group.open}`, close: `${group.close})` };
  if (!group.items.length) return call.open + call.close;
  return laidOut(call, style, indent, used);
}

/** Whether a change is the body of a handler whose attribute stands alone on its line. */
export function startsAttributeLine(use: SetUse, source: string): boolean {
  const lineStart = source.lastIndexOf('\n', use.span.start - 1) + 1;
  return (
    use.arrowBody &&
    source[use.span.end] === '}' &&
    /^\s*[\w-]+=\{[^{}]*=>\s*$/.test(source.slice(lineStart, use.span.start))
  );
}

/** A change of all values; where they may hold more than the fields, what replaces them is not laid over them. */
function replacing(whole: NonNullable<SetUse['whole']>, model: FormModel): NonNullable<SetUse['whole']> {
  return whole.merges === whole.code && mayHoldMore(model) ? { code: whole.code, merges: undefined } : whole;
}

/** Notes that some action takes all values. Anything but an object may be a function of the ones before. */
function needReplaced(draft: ReducerDraft, given: string): void {
  draft.needs.replaced = true;
  if (!given.startsWith('{')) draft.needs.updated = true;
}

function actionGroup(uses: readonly SetUse[], draft: ReducerDraft): Group {
  const first = uses[0];
  const assignment = first?.assignments[0];
  if (!first || !assignment) throw new Error('a change without an assignment');
  const field = fieldNamed(draft.model, assignment.field);
  if (first.whole && !first.resetsAll && uses.length === 1) {
    const { code, merges } = replacing(first.whole, draft.model);
    if (merges) draft.needs.changed = true;
    // what is read member by member is an object
    else if (first.whole.merges === first.whole.code) draft.needs.replaced = true;
    else needReplaced(draft, codeText(code, draft.printer));
    const type = { lead: 'type: ', value: str(draft, merges ? 'changed' : 'replaced') };
    const value = { lead: merges ? 'values: ' : 'next: ', value: codeText(merges ?? code, draft.printer) };
    // an object on several lines keeps them
    if (value.value.includes('\n'))
      return { open: `{ ${type.lead}${type.value}, ${value.lead}${value.value} }`, close: '', items: [] };
    return { open: '{', close: '}', items: [type, value] };
  }
  if (first.resetsAll && startsAsConstants(draft.model)) {
    draft.needs.reset = true;
    return { open: '{', close: '}', items: [{ lead: 'type: ', value: str(draft, 'reset') }] };
  }
  const isTogether = uses.length === 1 && isEntangled(first);
  if (isTogether || assignment.value.kind === 'from-previous') {
    const together = isTogether ? draft.actions.actionForAll(first) : undefined;
    const action =
      together ??
      (assignment.value.kind === 'from-previous' ? draft.actions.actionFor(field, assignment.value, first) : undefined);
    if (!action) throw new Error('values that are computed from one another have no action');
    const items = [
      { lead: 'type: ', value: str(draft, action.type) },
      ...action.payload.map(({ name, argument }) => property(name, argument)),
    ];
    return { open: '{', close: '}', items };
  }
  const values = uses
    .flatMap((use) => use.assignments)
    .map(({ field: name, value }) => property(name, valueText(value, draft, name)));
  if (first.repeats && values[0]) {
    if (!draft.needs.guardedFields.includes(field.name)) draft.needs.guardedFields.push(field.name);
    return { open: '{', close: '}', items: [{ lead: 'type: ', value: str(draft, `${field.name}Changed`) }, values[0]] };
  }
  return changeGroup(draft, values);
}

function valueText(value: SetUse['assignments'][number]['value'], draft: ReducerDraft, field: string): string {
  if (value.kind === 'initial') return valueOf(fieldNamed(draft.model, field), draft.printer);
  if (value.kind === 'from-previous') throw new Error(`the change of ${field} is computed from its previous value`);
  return codeText(value.code, draft.printer) || 'undefined';
}

/** One dispatch in the place of several changes that follow one another. */
export function runText(run: ChangeRun, draft: ReducerDraft): string {
  if (run.resetsAll) {
    draft.needs.reset = true;
    return `${draft.names.dispatch}({ type: ${str(draft, 'reset')} })`;
  }
  return dispatchOf(run.uses, draft, run.start);
}
