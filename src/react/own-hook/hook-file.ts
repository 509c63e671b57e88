import path from 'node:path';
import type { WriteContext } from '../../form/writing.js';

/** The hook that is written once into a project, and where it stands. */
export interface HookFile {
  /** Absolute path. */
  file: string;
  name: string;
  /** How the component's file imports it. */
  from: string;
  /** Its text, where it has yet to be written. */
  text: string | undefined;
}

export const hookName = 'useFormValues';

/** Members of what the hook gives. */
export const hookMembers = { values: 'values', one: 'setValue', all: 'setValues', reset: 'resetValues' } as const;

/** What tells the hook from any other: the last statement of it. */
export const hookMark = 'return { values, setValue, setValues, resetValues }';

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

function specifier(from: string, to: string): string {
  const relative = path
    .relative(path.dirname(from), to)
    .split(path.sep)
    .join('/')
    .replace(/\.[jt]sx?$/, '');
  return relative.startsWith('.') ? relative : `./${relative}`;
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
  const bare = specifier(component, file);
  return {
    file,
    name,
    from: full === undefined ? bare : `${bare}.${/\.(\w+)['"]$/.exec(full)?.[1]?.startsWith('j') ? 'js' : extension}`,
    text: known === undefined ? styledText(hook.lines(name, typescript), context) : undefined,
  };
}

/** The hook that keeps a form's values, for a component's file. */
export function hookFile(component: string, typescript: boolean, context: WriteContext): HookFile {
  const name = context.hook?.name ?? hookName;
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
  ' * Keeps the values of one form together, from the first render on.',
  ' *',
  ' * `setValue` changes one value, by the value itself or by a function of the one before it; giving the same value',
  ' * again renders nothing. `setValues` changes several at once, `resetValues` brings back what the form began with.',
  ' * All three stay the same functions for as long as the form is shown.',
];

function typedLines(name: string): string[] {
  return [
    "import { useCallback, useState, type Dispatch, type SetStateAction } from 'react';",
    '',
    '/** What a form is given by `' + name + '`. */',
    'export interface FormValues<Values> {',
    '  values: Values;',
    '  setValue: <Name extends keyof Values>(name: Name, next: SetStateAction<Values[Name]>) => void;',
    '  setValues: Dispatch<SetStateAction<Values>>;',
    '  resetValues: () => void;',
    '}',
    '',
    ...words,
    ' *',
    ' * @param initial what the form begins with, or a function that gives it; later ones are not looked at',
    ' */',
    `export function ${name}<Values extends object>(initial: Values | (() => Values)): FormValues<Values> {`,
    '  const [start] = useState(initial);',
    '  const [values, setValues] = useState(start);',
    '  const setValue = useCallback(<Name extends keyof Values>(name: Name, next: SetStateAction<Values[Name]>) => {',
    '    setValues((before) => {',
    '      const value = next instanceof Function ? next(before[name]) : next;',
    '      return Object.is(value, before[name]) ? before : { ...before, [name]: value };',
    '    });',
    '  }, []);',
    '  const resetValues = useCallback(() => setValues(start), [start]);',
    `  ${hookMark};`,
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
    ' */',
    `export function ${name}(initial) {`,
    '  const [start] = useState(initial);',
    '  const [values, setValues] = useState(start);',
    '  const setValue = useCallback((name, next) => {',
    '    setValues((before) => {',
    "      const value = typeof next === 'function' ? next(before[name]) : next;",
    '      return Object.is(value, before[name]) ? before : { ...before, [name]: value };',
    '    });',
    '  }, []);',
    '  const resetValues = useCallback(() => setValues(start), [start]);',
    `  ${hookMark};`,
    '}',
    '',
  ];
}
