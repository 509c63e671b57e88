import type { FormModel } from '../form/model.js';
import type { Span } from '../form/code.js';

export type FindingLevel = 'note' | 'warning' | 'error';

/** A mistake in the form code as it stands. */
export interface Finding {
  code: string;
  level: FindingLevel;
  span: Span;
  message: string;
  remedy: string;
}

/** A kind of mistake, and how it is found in a form. */
export interface FindingKind {
  code: string;
  level: FindingLevel;
  find(model: FormModel): { span: Span; message: string; remedy: string }[];
}

/** The name a rule's message is kept under. */
export function keyOf(rule: FormModel['rules'][number]): string | undefined {
  return rule.key ?? rule.fields[0];
}

/** Whether a name is a field of the form, a member of one, or a value that stands beside the fields. */
export function isField(name: string, model: FormModel): boolean {
  const base = name.split(/[.[]/)[0] ?? name;
  return (
    model.fields.some((field) => field.name === name || field.name === base || field.name.startsWith(`${name}.`)) ||
    model.controls.some(({ field }) => field.endsWith(`.${name}`) || field.includes(`.${name}.`))
  );
}
