import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, type Field } from '../../form/model.js';
import { indentAt } from '../../source/style.js';
import { accessOf, fieldsWithComments, groupMember, heldAnew } from '../spare-code.js';
import { interfaceText, startDeclaration, typesAreTold, valuesText } from '../values-text.js';
import { behindProperties, memberIndent, pathText, type FileEdit } from '../writing.js';
import type { SignalDraft } from './draft.js';
import { streamLines } from './changes.js';
import { pathName } from './rule-texts.js';

/** The class: the model's signal and the form over it come where the old form, or its values, were. */
export function classEdits(draft: SignalDraft, rules: readonly string[], ledger: LedgerEntry[]): FileEdit[] {
  const { context, component } = draft;
  const { script } = component;
  const { style } = context;
  const group = groupMember(draft);
  if (!group) return [];
  const place = { start: group.node.start ?? 0, end: group.node.end ?? 0 };
  const indent = indentAt(script.text, place.start);
  const told = new Map(fieldsWithComments(draft, group).map((field) => [field.name, field]));
  const all = draft.fields.map((field): Field => ({
    ...field,
    commentsBefore: told.get(field.name)?.commentsBefore ?? [],
    commentBehind: told.get(field.name)?.commentBehind,
  }));
  const fields = all.filter(({ name }) => !isRowField(name));
  const typed = !draft.typeWritten && typesAreTold(fields);
  const lead = `${accessOf(group)}${'readonly' in group.node && group.node.readonly === true ? 'readonly ' : ''}`;
  const values = (at: string, used: number): string =>
    valuesText(
      fields,
      (field) => (field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text),
      context,
      at,
      used,
    );
  const signal = `${lead}${draft.values} = signal${typed || draft.needs.start ? '' : `<${draft.typeName}>`}(`;
  const start = draft.needs.start
    ? draft.startName
    : (draft.start?.text ?? values(indent, indent.length + signal.length + 2));
  const kept =
    draft.start?.signal === true && draft.start.constant === (draft.needs.start ? start : draft.start.constant);
  const held = kept ? script.text.slice(place.start, place.end) : `${signal}${start})${style.semicolon}`;
  const lines = [held, `${lead}${draft.form} = ${formText(draft, rules, indent)}`];
  if (draft.needs.startMember)
    lines.unshift(`protected readonly ${draft.startName} = ${draft.startName}${style.semicolon}`);
  lines.push(...streamLines(draft, pathText));
  if (draft.needs.submitted) lines.push(`protected readonly ${draft.submitted} = signal(false)${style.semicolon}`);
  const above: string[] = [];
  if (!typed && !draft.typeWritten) above.push(interfaceText(draft.typeName, all, context));
  if (draft.needs.start && draft.start?.constant === undefined)
    above.push(startDeclaration({ ...draft, told: typed, flat: true }, values));
  const anew = {
    lines,
    above,
    held: `${draft.values} holds the values, and ${draft.form} is made over it`,
    gone: `${draft.form} has a field of its own for it`,
  };
  return [...heldAnew(draft, group, anew, ledger), ...ownMethods(draft)];
}

/** The call that makes the form, with the rules as a function over its paths. */
function formText({ values, context }: SignalDraft, rules: readonly string[], indent: string): string {
  const { style } = context;
  if (!rules.length) return `form(this.${values})${style.semicolon}`;
  const inner = indent + style.indent;
  const lines = rules.map(
    (text) => `${inner}${text.replaceAll(style.newline, style.newline + inner)}${style.semicolon}`,
  );
  return [`form(this.${values}, (${pathName}) => {`, ...lines, `${indent}})${style.semicolon}`].join(style.newline);
}

/** The methods that the template needs: it asks a field for one of its errors, or changes rows. */
function ownMethods(draft: SignalDraft): FileEdit[] {
  const { component, context } = draft;
  const { newline, indent: step, semicolon } = context.style;
  const methods = [...draft.rowMethods.values()].map(({ name, parameter, body }) => [
    `protected ${name}(${parameter}): void {`,
    `${step}${body}${semicolon}`,
    '}',
  ]);
  if (draft.needs.hasError)
    methods.push([
      `protected ${draft.hasError}(field: FieldTree<unknown>, kind: string): boolean {`,
      `${step}return field().errors().some((error) => error.kind === kind)${semicolon}`,
      '}',
    ]);
  if (!methods.length) return [];
  const indent = memberIndent(component);
  const place = component.path.node.body.body.at(-1)?.end ?? behindProperties(component);
  const text = methods.map((lines) => newline + newline + lines.map((line) => indent + line).join(newline)).join('');
  return [{ file: component.script.file, start: place, end: place, text }];
}
