import type { Code } from '../form/code.js';
import type { Field, FormModel } from '../form/model.js';

type TextOf = (file: string) => string;

/** The text that a piece of code comes down to, where it is nothing but what a hole of it stands for. */
function plainText(code: Code, textOf: TextOf): string {
  const [only] = code.holes;
  if (code.holes.length === 1 && only && only.start === code.start && only.end === code.end) {
    if (only.kind === 'text') return only.text;
    if (only.kind === 'given' && only.suffix === '') return plainText(only.code, textOf);
  }
  return textOf(code.file).slice(code.start, code.end);
}

/** Whether code gives a control's own text: `e.target.value`. */
function givesText(code: Code, textOf: TextOf): boolean {
  return /(^|\.)(target|currentTarget)\.value$/.test(plainText(code, textOf).trim());
}

function isTyped(field: Field): boolean {
  const type = field.type?.replace(/\s*\|\s*(null|undefined)\b/g, '').trim();
  return type === 'number' || type === 'boolean';
}

/** Whether a field is said to hold a number or a text: `number | ''`. */
function isMixed(field: Field): boolean {
  const parts = field.type?.split('|').map((part) => part.trim()) ?? [];
  return parts.includes('number') && parts.some((part) => part === 'string' || /^['"]/.test(part));
}

/**
 * Marks the fields that begin as a number or a boolean and are given a control's text later.
 * @param textOf text of one of the form's files
 */
export function withDrifts(model: FormModel, textOf: TextOf): FormModel {
  const typed = new Set(model.fields.filter(isTyped).map(({ name }) => name));
  const drifting = new Set(model.fields.filter(isMixed).map(({ name }) => name));
  if (!typed.size && !drifting.size) return model;
  for (const use of model.uses) {
    const assignments =
      use.kind === 'set' || use.kind === 'made-handler' ? use.assignments : use.kind === 'set-named' ? use.choices : [];
    for (const { field, value } of assignments)
      if (typed.has(field) && value.kind === 'value' && givesText(value.code, textOf)) drifting.add(field);
  }
  if (!drifting.size) return model;
  return {
    ...model,
    fields: model.fields.map((field) => (drifting.has(field.name) ? { ...field, drifts: true } : field)),
  };
}
