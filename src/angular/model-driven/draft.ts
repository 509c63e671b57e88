import type { CodePrinter } from '../../form/code-text.js';
import { isRowField, type Field, type FormModel } from '../../form/model.js';
import { type RowPlace } from '../../form/uses.js';
import { type Span } from '../../form/code.js';
import type { WriteContext } from '../../form/writing.js';
import type { AngularComponent } from '../component.js';
import { accessText } from '../writing.js';
import { rowControlText, type RowNames } from './rows-text.js';

/** What the parts of the writer share. */
export interface ModelDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  /** Name of the class's member that holds the group. */
  group: string;
  /** The directive keeps its name in the template, because its submitted state is asked for. */
  keepsDirective: boolean;
  /** Fields that a reset without values leaves null. */
  nullable: ReadonlySet<string>;
  printer: CodePrinter;
  /** Names under which the class offers a field's control. */
  aliases: Map<string, string>;
  /** Names for the rows of each list. */
  rows: RowNames[];
  /** Functions that build rows and that the template calls. */
  rowMembers: Set<string>;
  /** Types of rows that the result speaks of. */
  rowTypesNeeded: Set<string>;
  /** Fields whose changes the class follows: a reset changes them as well, which no event of an element tells. */
  followed: ReadonlySet<string>;
  /** The signal of all values that code follows, and the places of that code. */
  signal: { name: string; places: readonly Span[] } | undefined;
}

/** Fields that are controls of the group; others stand by themselves. */
export function inGroup(draft: ModelDraft): Field[] {
  return draft.model.fields.filter((field) => !isStandalone(field.name, draft) && !isRowField(field.name));
}

/** Whether a control stands outside of the form's group. */
export function isStandalone(field: string, { model }: ModelDraft): boolean {
  if (isRowField(field)) return false;
  const controls = model.controls.filter((control) => control.field === field);
  return (
    model.template?.element !== undefined &&
    controls.length > 0 &&
    controls.every(({ binding }) => binding?.standalone === true)
  );
}

/** Controls that the template asks by a name of their own keep that name, as members of the class. */
export function nameAliases(draft: ModelDraft): void {
  const { model, component } = draft;
  const gone = new Set(model.names.map(({ name }) => name));
  const named = new Map<string, string>();
  for (const { field, binding } of model.controls)
    if (binding?.reference !== undefined && !binding.rows) named.set(field, binding.reference);
  for (const { name, reference } of model.template?.groups ?? [])
    if (reference !== undefined) named.set(name, reference);
  for (const [field, reference] of named) {
    const asked = model.uses.filter((use) => use.kind === 'ask' && use.inTemplate && use.of === field);
    const reads = model.uses.filter(
      (use) => use.kind === 'read' && use.field === field && use.span.file === model.template?.file,
    );
    if (
      !asked.length &&
      !reads.some(({ span }) => draft.context.text(span.file).slice(span.start).startsWith(reference))
    )
      continue;
    const free = !component.members.has(reference) || (gone.has(reference) && reference !== draft.group);
    const shadowed = component.template.variables.some(
      (variable) =>
        variable.name === reference && variable.exportAs !== 'ngModel' && variable.exportAs !== 'ngModelGroup',
    );
    if (free && !shadowed && reference !== draft.group) draft.aliases.set(field, reference);
  }
}

/** The expression for a control of the model in the class. */
export function pathText(field: string, draft: ModelDraft): string {
  if (isStandalone(field, draft)) return memberOfStandalone(field);
  const [first = '', ...rest] = field.split('.');
  const steps = [first, ...rest].map((key) => `controls${accessText(key)}`);
  return [draft.group, ...steps].join('.');
}

/** The name of the class member for a control outside of the group. */
export function memberOfStandalone(field: string): string {
  return field.replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
}

/** A field's control, as an expression of the class or of the template. */
export function controlText(field: string, inTemplate: boolean, draft: ModelDraft, row?: RowPlace): string {
  if (row) return rowControlText(field, row, inTemplate, draft);
  const alias = draft.aliases.get(field);
  if (alias !== undefined) return inTemplate ? alias : `this.${alias}`;
  return inTemplate ? pathText(field, draft) : `this.${pathText(field, draft)}`;
}

/** The name by which the template or the class asks for the whole form. */
export function formText(inTemplate: boolean, draft: ModelDraft): string {
  return inTemplate ? draft.group : `this.${draft.group}`;
}

/** The binding itself comes first: what takes its place stands where it stood. */
export function rank(span: Span, text: string): number {
  const attribute = text.slice(span.start, span.end);
  return /^\[?\(?\[?ngModel(\)|\]|=|$)/.test(attribute) ? 0 : 1;
}
