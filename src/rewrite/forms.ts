import type { FormModel } from '../form/model.js';
import type { Writer } from '../form/writing.js';
import { plainTemplates, withPlainTemplates } from '../angular/plain-templates.js';
import { reactForms, type ReactSettings } from '../react/index.js';
import { isTooDeep, tooDeep } from '../source/depth.js';
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
  /** The writer of one step to an approach for this form; undefined where there is none. */
  writer(to: string): Writer | undefined;
  /** Its first step leads out of the approach; what it leads to is told by the result. */
  leaves?: boolean;
  /** The approaches on the way to another one, itself included; undefined where the rewrite is not covered. */
  route(to: string): string[] | undefined;
  /** What keeps the form from being rewritten to anything. */
  obstacle?: string | undefined;
  /** What the framework itself would not accept of this form and did accept of the file as it was. */
  trouble?(before: Script, workspace: Workspace): { name: string; why: string }[];
}

export type FormsResult = { ok: true; forms: FoundForm[]; script: Script } | { ok: false; problem: ParseProblem };

/** Settings that decide how forms are read. */
export type ReadSettings = ReactSettings;

/** The texts of a form's files, in which the spans of its model count; an empty one where there is no such file. */
export function textsIn(workspace: Workspace): (file: string) => string {
  const plain = withPlainTemplates(workspace);
  return (file) => {
    const read = plain.read(file);
    return read.ok ? read.text : '';
  };
}

/** A text without any of these words holds no form and need not be parsed. */
const formWords =
  /<form\b|onSubmit|useState|useReducer|useForm|createFormHook|formik|Formik|setState|FormData|\bon(Change|Click|Input)=/;

function isAngular(text: string): boolean {
  return /@Component\s*\(/.test(text);
}

/** Whether a script could hold a form at all: a cheap look at its text. */
export function mayHoldForm(text: string): boolean {
  return (
    (formWords.test(text) && /<(form|input|select|textarea|[A-Z][\w.]*)\b/.test(text)) ||
    (/<template\b/.test(text) && /v-model|<form\b|@submit|v-on:submit/.test(text)) ||
    (isAngular(text) && /templateUrl|<(form|input|select|textarea)\b|form/i.test(text))
  );
}

/**
 * Finds the forms of one file.
 * @param file absolute path
 * @param workspace where its other files are; where it has plain templates, the text has them too
 */
export async function formsOfFile(
  file: string,
  text: string,
  workspace: Workspace,
  settings: ReadSettings,
): Promise<FormsResult> {
  if (/\.vue$/.test(file)) return formsOfVue(file, text, workspace);
  const parsed = parseScript(file, workspace.hasPlainTemplates ? text : plainTemplates(text));
  if (!parsed.ok) return parsed;
  try {
    return await formsOfScript(parsed.script, withPlainTemplates(workspace), settings);
  } catch (error) {
    if (isTooDeep(error)) return { ok: false, problem: { file, line: 1, column: 1, reason: tooDeep } };
    throw error;
  }
}

/** Forms of a Vue file: they are seen and shown, and rewritten to nothing yet. */
async function formsOfVue(file: string, text: string, workspace: Workspace): Promise<FormsResult> {
  // Vue's compiler is heavy; only its files pay for it
  const { vueForms } = await import('../vue/index.js');
  const found = vueForms(file, text, workspace);
  if (!found.ok) return found;
  const empty = parseScript(`${file}.js`, '');
  if (!empty.ok) return empty;
  const forms = found.forms.map((form): FoundForm => ({
    ...form,
    framework: 'vue',
    writer: () => undefined,
    route: () => undefined,
    obstacle: 'forms of Vue are shown, and not rewritten yet',
  }));
  return { ok: true, forms, script: { ...empty.script, file } };
}

async function formsOfScript(script: Script, workspace: Workspace, settings: ReadSettings): Promise<FormsResult> {
  if (isAngular(script.text)) {
    // the template compiler is heavy; only Angular's files pay for it
    const { angularForms } = await import('../angular/index.js');
    const { forms, problems } = angularForms(script, workspace);
    const [problem] = problems;
    if (problem && !forms.length) return { ok: false, problem };
    return { ok: true, forms: forms.map((form): FoundForm => ({ ...form, framework: 'angular' })), script };
  }
  const forms = reactForms(script, workspace, settings).map(({ approach, ...form }): FoundForm => ({
    ...form,
    framework: 'react',
    approach: approach.id,
  }));
  return { ok: true, forms, script };
}
