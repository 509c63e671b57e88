import { parse, type ParseResult, type ParserOptions } from '@babel/parser';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { traverse } from './traverse.js';
import { isTooDeep, tooDeep } from './depth.js';
import { lineIndex, type LineIndex } from './lines.js';

/** A parsed TypeScript or JavaScript file, JSX included. Offsets count UTF-16 units of `text`. */
export interface Script {
  file: string;
  text: string;
  ast: t.File;
  program: NodePath<t.Program>;
  lines: LineIndex;
  typescript: boolean;
}

/** Why a file could not be parsed, with the place. Lines and columns count from 1. */
export interface ParseProblem {
  file: string;
  line: number;
  column: number;
  reason: string;
}

export type ScriptResult = { ok: true; script: Script } | { ok: false; problem: ParseProblem };

function isTypeScript(file: string): boolean {
  return /\.[cm]?tsx?$/.test(file);
}

/**
 * Parses a script with decorators: those of the language, or the older ones, which parameters may bear as well.
 * @throws SyntaxError as the parser gives it
 */
export function parseDecorated(text: string, options: ParserOptions): ParseResult<t.File> {
  const having = (decorators: 'decorators' | 'decorators-legacy'): ParserOptions => ({
    ...options,
    plugins: [...(options.plugins ?? []), decorators],
  });
  try {
    return parse(text, having('decorators'));
  } catch (error) {
    if (!/decorate parameters/.test(String(error))) throw error;
    return parse(text, having('decorators-legacy'));
  }
}

/**
 * Parses without looking at scopes.
 * @throws SyntaxError as the parser gives it
 */
function parseText(file: string, text: string): t.File {
  const language: ('typescript' | 'flow')[] = isTypeScript(file) ? ['typescript'] : [];
  const jsx: 'jsx'[] = /\.[cm]?ts$/.test(file) ? [] : ['jsx'];
  return parseDecorated(text, {
    sourceType: 'unambiguous',
    sourceFilename: file,
    allowReturnOutsideFunction: true,
    plugins: [...language, ...jsx, 'decoratorAutoAccessors', 'explicitResourceManagement'],
  });
}

/**
 * Parses a script and builds its scopes.
 * @param file its path; the ending tells the language
 * @param text its text
 */
export function parseScript(file: string, text: string): ScriptResult {
  try {
    const ast = parseText(file, text);
    let program: NodePath<t.Program> | undefined;
    traverse(ast, {
      Program(path) {
        program = path;
        path.stop();
      },
    });
    if (!program) throw new Error('the parser gave no program');
    return { ok: true, script: { file, text, ast, program, lines: lineIndex(text), typescript: isTypeScript(file) } };
  } catch (error) {
    return { ok: false, problem: problemOf(file, error) };
  }
}

/**
 * Parses a JSON file as the one expression it is; offsets count in the file's own text.
 * @param file its path
 */
export function parseData(file: string, text: string): ScriptResult {
  // an object at the start of a script would be a block
  const parsed = parseScript(file, `(${text})`);
  if (!parsed.ok) return parsed;
  const { script } = parsed;
  t.traverseFast(script.ast, (node) => {
    if (typeof node.start === 'number') node.start -= 1;
    if (typeof node.end === 'number') node.end -= 1;
  });
  return { ok: true, script: { ...script, text, lines: lineIndex(text) } };
}

function problemOf(file: string, error: unknown): ParseProblem {
  if (isTooDeep(error)) return { file, line: 1, column: 1, reason: tooDeep };
  const reason = error instanceof Error ? error.message.replace(/\s*\(\d+:\d+\)$/, '') : String(error);
  const place =
    error instanceof Error && 'loc' in error ? (error.loc as { line?: number; column?: number } | null) : null;
  return { file, line: place?.line ?? 1, column: (place?.column ?? 0) + 1, reason };
}
