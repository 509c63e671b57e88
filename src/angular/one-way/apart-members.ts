import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Field, FormModel } from '../../form/model.js';
import { indentAt } from '../../source/style.js';
import type { AngularComponent } from '../component.js';
import { accessOf, fieldsWithComments, groupMember, heldAnew, type ClassDraft } from '../spare-code.js';
import { interfaceText, typesAreTold, valuesText } from '../values-text.js';
import type { FileEdit } from '../writing.js';

/** Whether each value of a form lives in a member of its own, and nothing in another object. */
export function livesApart({ fields, controls }: FormModel, { members }: AngularComponent): boolean {
  const edited = fields.filter(({ name }) => controls.some(({ field }) => field === name));
  return (
    edited.length > 0 &&
    fields.every(
      ({ name, names, kind }) =>
        !name.includes('.') && kind !== 'list of rows' && names.value !== undefined && members.has(names.value),
    )
  );
}

/** The members of a form's values become one signal of all of them. */
export function joinedEdits(
  draft: ClassDraft & { root: string; printer: CodePrinter },
  ledger: LedgerEntry[],
): FileEdit[] {
  const { component, context, root, printer } = draft;
  const { script } = component;
  const group = groupMember(draft);
  if (!group) return [];
  const indent = indentAt(script.text, group.node.start ?? 0);
  const fields = fieldsWithComments(draft, group);
  const told = typesAreTold(fields);
  const base = component.name.replace(/(Form)?Component$|Form$/, '') || component.name;
  const type = told ? undefined : context.freeName(`${base}Values`, `${base}Model`);
  const lead = `${accessOf(group)}readonly ${root} = signal${type === undefined ? '' : `<${type}>`}(`;
  const start = (field: Field): string =>
    field.initial.code ? codeText(field.initial.code, printer) : field.initial.text;
  const values = valuesText(fields, start, context, indent, indent.length + lead.length + 2);
  const anew = {
    lines: [`${lead}${values})${context.style.semicolon}`],
    above: type === undefined ? [] : [interfaceText(type, fields, context)],
    held: `${root} holds all values`,
    gone: `${root} has a value of its own for it`,
  };
  return heldAnew(draft, group, anew, ledger);
}
