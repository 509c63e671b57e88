import path from 'node:path';
import type { WriteContext } from '../../form/writing.js';
import { relativeModule } from '../../source/project-files.js';
import { ownCalls, type CallTable } from '../calls/table.js';

/** A hook that keeps a form's values, and where it stands. */
export interface HookFile {
  /** Absolute path; empty where a package has it. */
  file: string;
  name: string;
  /** What its members mean. */
  calls: CallTable;
  /** How the component's file imports it. */
  from: string;
  /** Its text, where it has yet to be written. */
  text: string | undefined;
}

/** Members of what the hook of the project gives for the values. */
export const valueMembers: readonly string[] = ['values', ownCalls.one, 'setValues', ownCalls.reset];

/** Members that give the form's status, and the one that makes a handler of its submit. */
export const statusMembers = {
  errors: { value: 'errors', setter: 'setErrors' },
  touched: { value: 'touched', setter: 'setTouched' },
  submitting: { value: 'submitting', setter: 'setSubmitting' },
} as const;
export const submitMember = 'submit';

/** What tells the hook from any other: the first line of what is said of it. */
export const hookMark = 'Keeps the values and the status of one form together.';

/** What tells the file for forms with a schema. */
export const schemaHookMark = 'export function schemaCheck';

/** Whether a file is one that this program wrote to keep forms. */
export function isMadeHook(text: string): boolean {
  return text.includes(hookMark) || text.includes(schemaHookMark);
}

/** Folders in which a hook of the project may stand already, the nearest first. */
function places(folder: string, name: string, extension: string): string[] {
  const found: string[] = [];
  let at = folder;
  for (let depth = 0; depth < 5; depth++) {
    for (const inner of ['', 'hooks']) found.push(path.join(at, inner, `${name}.${extension}`));
    const up = path.dirname(at);
    if (up === at) break;
    at = up;
  }
  return found;
}

/** What tells a generated file from any other, and what it says. */
export interface GeneratedHook {
  /** Name of the hook and of its file, where the settings say nothing. */
  name: string;
  /** A piece of its text that no other file has. */
  mark: string;
  lines(name: string, typescript: boolean): string[];
}

/**
 * A generated hook for a component's file: the one that stands beside or above it already, or a new one.
 * @param component absolute path of the component's file
 */
export function generatedHook(
  component: string,
  typescript: boolean,
  context: WriteContext,
  hook: GeneratedHook,
): HookFile {
  const extension = typescript ? 'ts' : 'js';
  const folder = path.dirname(component);
  const { name } = hook;
  const wished = path.join(context.hook?.folder ?? folder, `${name}.${extension}`);
  const candidates = context.hook?.folder === undefined ? places(folder, name, extension) : [wished];
  const known = candidates.find((file) => context.exists(file) && context.text(file).includes(hook.mark));
  const file = known ?? wished;
  // imports of scripts that run without a build name the file in full
  const full = /from\s+['"]\.{1,2}\/[^'"]+\.[jt]sx?['"]/.exec(context.text(component))?.[0];
  const bare = relativeModule(component, file);
  return {
    file,
    name,
    calls: ownCalls,
    from: full === undefined ? bare : `${bare}.${/\.(\w+)['"]$/.exec(full)?.[1]?.startsWith('j') ? 'js' : extension}`,
    text: known === undefined ? styledText(hook.lines(name, typescript), context) : undefined,
  };
}

/** The hook that keeps a form's values, for a component's file. */
export function hookFile(component: string, typescript: boolean, context: WriteContext): HookFile {
  const name = context.hook?.name ?? ownCalls.hook;
  const lines = (own: string, typed: boolean): string[] => (typed ? typedLines(own) : plainLines(own));
  return generatedHook(component, typescript, context, { name, mark: hookMark, lines });
}

/** Lines of a generated file as the component's file is written. */
function styledText(lines: readonly string[], { style }: WriteContext): string {
  const { semicolon: end, indent: step, quote, newline } = style;
  return lines
    .map((line) => {
      const depth = /^ */.exec(line)?.[0].length ?? 0;
      const text = line.slice(depth).replace(/'/g, quote);
      const lead = depth % 2 ? ' ' : step.repeat(depth / 2);
      return lead + (end === '' ? text.replace(/;$/, '') : text);
    })
    .join(newline);
}

const words = [
  '/**',
  ` * ${hookMark}`,
  ' *',
  ' * `setValue` changes one value, by the value itself or by a function of the one before it; giving the same value',
  ' * again renders nothing. `setValues` changes several at once, `resetValues` brings back what the form began with.',
  ' * These three stay the same functions for as long as the form is shown. Errors, touched controls and the submitting',
  ' * flag are the form’s own to set. `submit` makes the handler of a form’s submit: it asks the rules, keeps the errors,',
  ' * sends where there are none, and is submitting until an answer is there.',
];

/** The handler that `submit` makes; also what stands in a component that does without the hook. */
export function submitLines(typed: { values: string; errors: string } | undefined, rules: string): string[] {
  const send = typed ? `(send: (values: ${typed.values}) => void | Promise<void>)` : '(send)';
  const event = typed ? '(event: FormEvent<HTMLFormElement>)' : '(event)';
  return [
    `const submit = ${send} => ${event} => {`,
    '  event.preventDefault();',
    `  const found${typed ? `: ${typed.errors}` : ''} = ${rules};`,
    '  setErrors(found);',
    '  if (Object.values(found).some(Boolean)) return;',
    '  const sent = send(values);',
    '  if (!sent) return;',
    '  setSubmitting(true);',
    '  void sent.finally(() => setSubmitting(false));',
    '};',
  ];
}

/** Members of what every generated hook gives, as its interface declares them. */
export const memberLines = [
  '  values: Values;',
  '  setValue: <Name extends keyof Values>(name: Name, next: SetStateAction<Values[Name]>) => void;',
  '  setValues: Dispatch<SetStateAction<Values>>;',
  '  resetValues: () => void;',
  '  errors: FormErrors<Values>;',
  '  setErrors: Dispatch<SetStateAction<FormErrors<Values>>>;',
  '  touched: FormTouched<Values>;',
  '  setTouched: Dispatch<SetStateAction<FormTouched<Values>>>;',
  '  submitting: boolean;',
  '  setSubmitting: Dispatch<SetStateAction<boolean>>;',
];

const given = [
  ' * @param initial what the form begins with, or a function that gives it; later ones are not looked at',
  ' * @param rules gives the message of each value that breaks a rule',
];

/** State variables for a form's status, in a generated hook. */
export function statusLines(typed: boolean): string[] {
  return [
    `  const [errors, setErrors] = useState${typed ? '<FormErrors<Values>>' : ''}({});`,
    `  const [touched, setTouched] = useState${typed ? '<FormTouched<Values>>' : ''}({});`,
    '  const [submitting, setSubmitting] = useState(false);',
  ];
}

const returned = [
  '  return {',
  ...[
    'values',
    'setValue',
    'setValues',
    'resetValues',
    'errors',
    'setErrors',
    'touched',
    'setTouched',
    'submitting',
    'setSubmitting',
    'submit',
  ].map((name) => `    ${name},`),
  '  };',
];

function typedLines(name: string): string[] {
  return [
    "import { useCallback, useState, type Dispatch, type FormEvent, type SetStateAction } from 'react';",
    '',
    '/** The message of each value that has one. */',
    'export type FormErrors<Values> = { [Name in keyof Values]?: string };',
    '',
    '/** The values whose controls a person has left once. */',
    'export type FormTouched<Values> = { [Name in keyof Values]?: boolean };',
    '',
    '/** What a form is given by `' + name + '`. */',
    'export interface FormValues<Values> {',
    ...memberLines,
    '  submit: (send: (values: Values) => void | Promise<void>) => (event: FormEvent<HTMLFormElement>) => void;',
    '}',
    '',
    ...words,
    ' *',
    ...given,
    ' */',
    `export function ${name}<Values extends object>(`,
    '  initial: Values | (() => Values),',
    '  rules?: (values: Values) => FormErrors<Values>,',
    '): FormValues<Values> {',
    '  const [start] = useState(initial);',
    '  const [values, setValues] = useState(start);',
    ...statusLines(true),
    '  const setValue = useCallback(<Name extends keyof Values>(name: Name, next: SetStateAction<Values[Name]>) => {',
    '    setValues((before) => {',
    '      const value = next instanceof Function ? next(before[name]) : next;',
    '      return Object.is(value, before[name]) ? before : { ...before, [name]: value };',
    '    });',
    '  }, []);',
    '  const resetValues = useCallback(() => setValues(start), [start]);',
    ...submitLines({ values: 'Values', errors: 'FormErrors<Values>' }, 'rules?.(values) ?? {}').map(
      (line) => `  ${line}`,
    ),
    ...returned,
    '}',
    '',
  ];
}

function plainLines(name: string): string[] {
  return [
    "import { useCallback, useState } from 'react';",
    '',
    ...words,
    ' *',
    ' * @template {object} Values',
    ' * @param {Values | (() => Values)} initial what the form begins with; later ones are not looked at',
    ' * @param {(values: Values) => { [Name in keyof Values]?: string }} [rules] gives the message of each value that breaks a rule',
    ' */',
    `export function ${name}(initial, rules) {`,
    '  const [start] = useState(initial);',
    '  const [values, setValues] = useState(start);',
    ...statusLines(false),
    '  const setValue = useCallback((name, next) => {',
    '    setValues((before) => {',
    "      const value = typeof next === 'function' ? next(before[name]) : next;",
    '      return Object.is(value, before[name]) ? before : { ...before, [name]: value };',
    '    });',
    '  }, []);',
    '  const resetValues = useCallback(() => setValues(start), [start]);',
    ...submitLines(undefined, 'rules?.(values) ?? {}').map((line) => `  ${line}`),
    ...returned,
    '}',
    '',
  ];
}
