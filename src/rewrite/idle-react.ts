import * as t from '@babel/types';
import { wholeLines } from '../source/removal.js';
import { importsMarkupItself } from '../source/jsx-runtime.js';
import { parseScript } from '../source/script.js';
import { tokensOf } from '../source/tokens.js';

/**
 * A script without an import of React as a whole that only what went has needed: types of events, most often. It stays
 * where markup may need it.
 */
export function withoutIdleReact(file: string, before: string, after: string): string {
  if (!importsMarkupItself(file)) return after;
  const parsed = parseScript(file, after);
  if (!parsed.ok) return after;
  for (const node of parsed.script.ast.program.body) {
    const whole = t.isImportDeclaration(node)
      ? node.specifiers.find((one) => t.isImportDefaultSpecifier(one) || t.isImportNamespaceSpecifier(one))
      : undefined;
    if (!whole || !t.isImportDeclaration(node) || node.source.value !== 'react') continue;
    const { name } = whole.local;
    const count = (text: string): number => tokensOf(file, text).filter(({ value }) => value === name).length;
    if (count(after) !== 1 || count(before) < 2) continue;
    const [next] = node.specifiers.filter((one) => one !== whole);
    const line = wholeLines(after, { start: node.start ?? 0, end: node.end ?? 0 });
    if (!next) return after.slice(0, line.start) + after.slice(line.end);
    const brace = after.indexOf('{', whole.end ?? 0);
    return after.slice(0, whole.start ?? 0) + after.slice(brace);
  }
  return after;
}
