import * as t from '@babel/types';
import { parseDecorated } from './script.js';
import { lineIndex } from './lines.js';

/** What a stretch of code may be a part of, so that it parses. */
const around: readonly (readonly [string, string])[] = [
  ['async function* f() {', '\n}'],
  ['(', '\n)'],
  ['({', '\n})'],
  ['class C {', '\n}'],
  ['switch (0) {', '\n}'],
];

/**
 * Changes the depth of each line of a stretch of code; lines that begin inside of a text keep theirs.
 * @param text statements, an expression, or members of a class or of an object
 * @param move a line at another depth; asked for the first line too
 * @returns the text; as it was where it has a text of several lines and is not understood
 */
export function movedLines(text: string, move: (line: string, index: number) => string): string {
  const inText = linesInText(text);
  if (!inText) return text;
  return text
    .split('\n')
    .map((line, index) => (inText.has(index) ? line : move(line, index)))
    .join('\n');
}

/** Indices of the lines that begin inside of a text. */
function linesInText(text: string): ReadonlySet<number> | undefined {
  if (!/`[^`]*\n/.test(text)) return new Set();
  for (const [open, close] of around) {
    const ast = parsed(open + text + close);
    if (!ast) continue;
    const lines = lineIndex(text);
    const inside = new Set<number>();
    t.traverseFast(ast, (node) => {
      if (!t.isTemplateElement(node)) return;
      const [first, last] = [node.start ?? 0, node.end ?? 0].map((at) => lines.lineAt(at - open.length));
      for (let line = first ?? 0; line < (last ?? 0); line += 1) inside.add(line);
    });
    return inside;
  }
  return undefined;
}

function parsed(code: string): t.File | undefined {
  for (const language of ['typescript', 'flow'] as const) {
    try {
      return parseDecorated(code, { sourceType: 'unambiguous', plugins: [language, 'jsx'] });
    } catch {
      // the next way of reading it
    }
  }
  return undefined;
}
