import { fieldsOf, type Control, type Field, type FormModel, type ValueKind } from '../form/model.js';
import { nativeKind } from '../markup/element-kinds.js';
import { jsonOf, type Json } from '../rules/json-schema/schema.js';

/** A field as a person counts them: a value that a control edits, not a group of them. */
export interface LeafField {
  name: string;
  kind: ValueKind;
  type: string | undefined;
  /** Initial value as source text. */
  initial: string;
  once: boolean;
  /** The name under which rules of the form know it. */
  path: string;
}

function kindOf({ element, type }: Control, initial: Json | undefined): ValueKind {
  const told = nativeKind({ tag: element, type, multiple: false, list: Array.isArray(initial) });
  if (told) return told;
  return typeof initial === 'number' || typeof initial === 'boolean' ? (typeof initial as ValueKind) : 'text';
}

function memberOf(value: Json | undefined, path: readonly string[]): Json | undefined {
  let at = value;
  for (const name of path) {
    if (typeof at !== 'object' || at === null || Array.isArray(at)) return undefined;
    at = at[name];
  }
  return at;
}

/**
 * Whether a person has to do with a value: of those that only the type tells of, because one expression begins them
 * all, a control shows it or a change is about it. The others are sent along as they came.
 */
function isEntered({ name, initial }: Field, model: FormModel): boolean {
  if (!initial.text.startsWith('...')) return true;
  const isOf = (field: string): boolean => field === name || /^[.[]/.test(field.slice(name.length));
  return (
    model.controls.some(({ field }) => field.startsWith(name) && isOf(field)) ||
    model.uses.some((use) =>
      use.kind === 'set'
        ? use.assignments.length < model.fields.length && use.assignments.some(({ field }) => field === name)
        : use.kind !== 'read' && 'field' in use && use.field === name,
    )
  );
}

/**
 * The fields of a form, groups taken apart into the values that controls edit: `address.town`. A group that holds all
 * fields, beside status, is only where they are kept: its name is left out.
 */
export function leafFields(model: FormModel): LeafField[] {
  const fields = fieldsOf(model).filter((field) => isEntered(field, model));
  return fields.flatMap((field): LeafField[] => {
    const prefix = `${field.name}.`;
    const inside = model.controls.filter(
      (control) => control.field.startsWith(prefix) && !control.field.includes('[]'),
    );
    const whole = { name: field.name, kind: field.kind, type: field.type, path: field.name };
    const once = field.initial.when === 'once';
    // a group whose type another name stands for is known by its controls
    if (!/^(?:group|other)$/.test(field.kind) || !inside.length)
      return [{ ...whole, initial: field.initial.text, once }];
    const initial = jsonOf(field.initial.text);
    const byPath = new Map(inside.map((control) => [control.field, control]));
    return [...byPath].map(([path, control]) => {
      const value = memberOf(initial, path.slice(prefix.length).split('.'));
      const text = value === undefined ? `${field.initial.text}.${path.slice(prefix.length)}` : JSON.stringify(value);
      return {
        name: fields.length === 1 ? path.slice(prefix.length) : path,
        kind: kindOf(control, value),
        type: undefined,
        initial: initial === undefined && /[{(]/.test(field.initial.text) ? '' : text,
        once,
        path,
      };
    });
  });
}
