import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { Field, FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import type { VariableNames } from './names.js';

export interface Draft {
  model: FormModel;
  context: WriteContext;
  names: Map<string, VariableNames>;
  printer: CodePrinter;
  /** Setters and values that the new code calls by their names. */
  used: { setters: Set<string>; values: Set<string>; whole: boolean };
}

/** The names of a field's state variable and its setter. */
export function namesOf(draft: Draft, field: string): VariableNames {
  const names = draft.names.get(field);
  if (!names) throw new Error(`no field ${field}`);
  return names;
}

/** The name of a field's state variable, which the new code reads. */
export function valueName(draft: Draft, field: string): string {
  draft.used.values.add(field);
  return namesOf(draft, field).value;
}

/** A field's initial value as source text. */
export function initialText(field: Field, draft: Draft): string {
  return field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text;
}
