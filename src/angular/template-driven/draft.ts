import type { CodePrinter } from '../../form/code-text.js';
import type { FormModel } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import type { WriteContext } from '../../form/writing.js';
import type { OwnDirective } from '../written-once.js';
import { accessText } from '../writing.js';
import type { AngularComponent } from '../component.js';
import { viewAt, type ControlNames } from './names.js';

/** What the parts of the writer share. */
export interface TemplateDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  /** Member of the class that holds the values. */
  values: string;
  /** Name of the form in the template and, where the class asks it too, in the class. */
  form: string;
  needs: { reference: boolean; query: boolean; start: boolean; startMember: boolean };
  /** Name of the constant that a reset goes back to. */
  startName: string;
  typeName: string;
  controls: ControlNames;
  printer: CodePrinter;
  /** Rules that no attribute states, by field or by the path of a group: the member that holds them. */
  /** Members that tell the changes of fields, by field. */
  streams: Map<string, string>;
  ruleMembers: Map<string, { member: string; directive: OwnDirective; codes: string[] }[]>;
}

/** The expression for a field's value, as the template or the class asks for it. */
export function valueText(field: string, inTemplate: boolean, draft: TemplateDraft): string {
  const keys = field.split('.').map(accessText).join('');
  return `${inTemplate ? '' : 'this.'}${draft.values}${keys}`;
}

/** The expression for the whole form, as the template or the class asks for it. */
export function formText(inTemplate: boolean, draft: TemplateDraft): string {
  draft.needs.reference = true;
  if (!inTemplate) draft.needs.query = true;
  return inTemplate ? draft.form : `this.${draft.model.template?.query ?? draft.form}`;
}

/** The expression for a field's control, as the template or the class asks for it. */
export function controlText(field: string, inTemplate: boolean, span: Span, draft: TemplateDraft): string {
  const { component } = draft;
  if (inTemplate) {
    const name = draft.controls.seenFrom(field, viewAt(component, span.start));
    if (name !== undefined) return name;
    return `${formText(true, draft)}.form.get('${field}')`;
  }
  const [first = '', ...rest] = field.split('.');
  const start = `${formText(false, draft)}.controls['${first}']`;
  return rest.length ? `${formText(false, draft)}.form.get('${field}')` : start;
}

/** The parameter that stands for the form at a place of the class. */
export function givenName(span: Span, inTemplate: boolean, { model, context }: TemplateDraft): string | undefined {
  if (inTemplate) return undefined;
  const text = context.text(span.file).slice(span.start, span.end);
  return model.template?.given.find(({ name, of }) => of === undefined && new RegExp(`^${name}\\b`).test(text))?.name;
}
