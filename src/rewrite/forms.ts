import type { FormModel } from '../form/model.js';
import { reactForms, type ReactSettings } from '../react/index.js';
import { parseScript, type ParseProblem, type Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';

/** A form of a file, whatever its framework. */
export interface FoundForm {
  name: string;
  component: string;
  line: number;
  framework: 'react' | 'angular' | 'vue';
  approach: string;
  fieldNames: string[];
  /** The form in full; undefined where its approach is only recognised. */
  read: (() => FormModel) | undefined;
}

export type FormsResult = { ok: true; forms: FoundForm[]; script: Script } | { ok: false; problem: ParseProblem };

/** Settings that decide how forms are read. */
export type ReadSettings = ReactSettings;

/** A text without any of these words holds no form and need not be parsed. */
const formWords =
  /<form\b|onSubmit|useState|useReducer|useForm|createFormHook|formik|Formik|setState|FormData|\bon(Change|Click|Input)=/;

/** Whether a script could hold a form at all: a cheap look at its text. */
export function mayHoldForm(text: string): boolean {
  return formWords.test(text) && /<(form|input|select|textarea|[A-Z][\w.]*)\b/.test(text);
}

/**
 * Finds the forms of one file.
 * @param file absolute path
 */
export function formsOfFile(file: string, text: string, workspace: Workspace, settings: ReadSettings): FormsResult {
  const parsed = parseScript(file, text);
  if (!parsed.ok) return parsed;
  const forms = reactForms(parsed.script, workspace, settings).map(({ approach, ...form }): FoundForm => ({
    ...form,
    framework: 'react',
    approach: approach.id,
  }));
  return { ok: true, forms, script: parsed.script };
}
