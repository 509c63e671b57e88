import * as t from '@babel/types';
import { applyEdits, type Edit } from '../source/edits.js';
import { parseScript } from '../source/script.js';
import { indentAt, styleOf, type TextStyle } from '../source/style.js';

/** Where a line that is too long can be broken: the span that grows over several lines, and how. */
interface Break {
  start: number;
  end: number;
  edits: Edit[];
}

interface Page {
  text: string;
  style: TextStyle;
  comments: readonly { start: number; end: number }[];
}

/** Passes over a text: what was broken once may hold something that is still too long. */
const passes = 5;

/**
 * Breaks lines of a script that a rewrite made too long, as a formatter would: attributes of an element, members,
 * arguments, imported names and the body of a function each on a line of their own. Lines that were there before stay.
 * @param before the text before the rewrite; how it is written tells the width
 * @param after the text with the rewrite
 */
export function brokenLines(file: string, before: string, after: string): string {
  const style = styleOf(before);
  const known = new Set(before.split(/\r?\n/));
  let text = after;
  for (let pass = 0; pass < passes; pass++) {
    const long = longLines(text, known, style.width);
    const edits = long.length ? breaksOf(file, text, long, style) : [];
    if (!edits.length) break;
    text = applyEdits(text, edits);
  }
  return bare(text) === bare(after) ? text : after;
}

/** A text without white space, and without commas and semicolons that only end a list over several lines. */
function bare(text: string): string {
  return text.replace(/\s+/g, '').replace(/,(?=[\])}])|;(?=\})/g, '');
}

function longLines(text: string, known: ReadonlySet<string>, width: number): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  let start = 0;
  for (const line of text.split('\n')) {
    const shown = line.replace(/\r$/, '');
    if (shown.length > width && !known.has(shown)) found.push({ start, end: start + shown.length });
    start += line.length + 1;
  }
  return found;
}

function breaksOf(
  file: string,
  text: string,
  long: readonly { start: number; end: number }[],
  style: TextStyle,
): Edit[] {
  const parsed = parseScript(file, text);
  if (!parsed.ok) return [];
  const { ast } = parsed.script;
  const comments = (ast.comments ?? []).map(({ start, end }) => ({ start: start ?? 0, end: end ?? 0 }));
  const page: Page = { text, style, comments };
  const best = new Map<number, Break>();
  t.traverseFast(ast, (node) => {
    const start = node.start ?? 0;
    const end = node.end ?? 0;
    const line = long.find((one) => start >= one.start && end <= one.end);
    if (!line || comments.some((one) => one.start < line.end && one.end > line.start)) return;
    const found = breakOf(node, page);
    const known = best.get(line.start);
    if (found && (!known || found.end - found.start > known.end - known.start)) best.set(line.start, found);
  });
  return [...best.values()].flatMap(({ edits }) => edits);
}

/** How a node that stands on one line goes over several. */
function breakOf(node: t.Node, page: Page): Break | undefined {
  if (t.isJSXOpeningElement(node)) return brokenElement(node, page);
  if (t.isJSXAttribute(node)) return brokenHandler(node, page);
  if (t.isObjectExpression(node)) return brokenList(node, node.properties, page);
  if (t.isObjectPattern(node)) {
    // its type stands behind its brace
    const typed = node.typeAnnotation?.start ?? undefined;
    const end = typed === undefined ? (node.end ?? 0) : page.text.lastIndexOf('}', typed) + 1;
    return brokenList({ ...node, end }, node.properties, page);
  }
  if (t.isArrayExpression(node)) return brokenList(node, node.elements, page);
  if (t.isCallExpression(node)) return brokenCall(node, page);
  if (t.isBlockStatement(node)) return brokenBlock(node, page);
  if (t.isImportDeclaration(node)) return brokenImport(node, page);
  if (t.isConditionalExpression(node)) return brokenChoice(node, page);
  return undefined;
}

function baseOf({ text }: Page, { start }: t.Node): string {
  return indentAt(text, start ?? 0);
}

/** Whether nothing but white space stands before a node on its line. */
function beginsLine({ text }: Page, { start }: t.Node): boolean {
  const at = start ?? 0;
  return text.slice(text.lastIndexOf('\n', at - 1) + 1, at).trim() === '';
}

function brokenElement(node: t.JSXOpeningElement, page: Page): Break | undefined {
  if (!node.attributes.length) return undefined;
  const { newline, indent } = page.style;
  const base = baseOf(page, node);
  const edits = node.attributes.map((one) => gapBefore(one.start ?? 0, newline + base + indent, page));
  const last = node.attributes.at(-1)?.end ?? 0;
  const close = (node.end ?? 0) - (node.selfClosing ? 2 : 1);
  edits.push({ start: last, end: close, text: newline + base });
  return { start: node.start ?? 0, end: node.end ?? 0, edits };
}

/** `onChange={(event) => …}` that begins a line: what it does stands on a line of its own. */
function brokenHandler(node: t.JSXAttribute, page: Page): Break | undefined {
  const value = t.isJSXExpressionContainer(node.value) ? node.value.expression : undefined;
  if (!t.isArrowFunctionExpression(value) || t.isBlockStatement(value.body) || !beginsLine(page, node))
    return undefined;
  const { newline, indent } = page.style;
  const base = baseOf(page, node);
  const arrow = page.text.lastIndexOf('=>', value.body.start ?? 0) + 2;
  const end = (node.end ?? 0) - 1;
  return {
    start: node.start ?? 0,
    end: node.end ?? 0,
    edits: [gapAfter(arrow, newline + base + indent, page), { start: end, end, text: newline + base }],
  };
}

/** A list in brackets with every part on a line of its own. */
function brokenList(node: t.Node, parts: readonly (t.Node | null)[], page: Page): Break | undefined {
  const whole = parts.filter((part) => part !== null);
  if (!whole.length || whole.length !== parts.length) return undefined;
  return {
    start: node.start ?? 0,
    end: node.end ?? 0,
    edits: onLines(whole, (node.end ?? 0) - 1, baseOf(page, node), page),
  };
}

/** An import with each name on a line of its own. */
function brokenImport(node: t.ImportDeclaration, page: Page): Break | undefined {
  const named = node.specifiers.filter((one) => t.isImportSpecifier(one));
  const close = page.text.indexOf('}', named.at(-1)?.end ?? 0);
  return named.length
    ? { start: node.start ?? 0, end: node.end ?? 0, edits: onLines(named, close, baseOf(page, node), page) }
    : undefined;
}

/** A choice between two values, each on a line of its own. */
function brokenChoice(node: t.ConditionalExpression, page: Page): Break | undefined {
  const { newline, indent } = page.style;
  const lead = newline + baseOf(page, node) + indent;
  const before = (from: t.Node, sign: string): number => page.text.indexOf(sign, from.end ?? 0);
  const marks = [before(node.test, '?'), before(node.consequent, ':')];
  return {
    start: node.start ?? 0,
    end: node.end ?? 0,
    edits: marks.map((at) => gapBefore(at, lead, page)),
  };
}

function onLines(parts: readonly t.Node[], close: number, base: string, page: Page): Edit[] {
  const { newline, indent, trailingComma } = page.style;
  const edits = parts.map((part) => gapBefore(part.start ?? 0, newline + base + indent, page));
  const last = parts.at(-1);
  const end = last?.end ?? 0;
  const comma = trailingComma && !t.isRestElement(last) && !t.isSpreadElement(last) ? ',' : '';
  const hasComma = page.text.slice(end, close).includes(',');
  edits.push({ start: end, end: close, text: (hasComma ? ',' : comma) + newline + base });
  return edits;
}

/** A block with every statement on a line of its own. */
function brokenBlock(node: t.BlockStatement, page: Page): Break | undefined {
  if (!node.body.length || node.directives.length) return undefined;
  const { newline, indent } = page.style;
  const base = baseOf(page, node);
  const edits = node.body.map((one) => gapBefore(one.start ?? 0, newline + base + indent, page));
  const close = (node.end ?? 0) - 1;
  const end = node.body.at(-1)?.end ?? 0;
  const isEnded = /[;}]$/.test(page.text.slice(0, end));
  edits.push({ start: end, end: close, text: (isEnded ? '' : page.style.semicolon) + newline + base });
  return { start: node.start ?? 0, end: node.end ?? 0, edits };
}

/** A call: its last object, the function it is given, or each of its arguments on a line of its own. */
function brokenCall(node: t.CallExpression, page: Page): Break | undefined {
  const { arguments: given } = node;
  const last = given.at(-1);
  const span = { start: node.start ?? 0, end: node.end ?? 0 };
  const open = page.text.indexOf('(', node.typeParameters?.end ?? node.callee.end ?? 0);
  if (!last || given.some((one) => t.isTemplateLiteral(one)) || page.text.charAt((node.end ?? 0) - 1) !== ')')
    return undefined;
  const inner = t.isArrowFunctionExpression(last) && !t.isBlockStatement(last.body) ? last.body : last;
  if (t.isObjectExpression(inner) && inner.properties.length) {
    const found = brokenList(inner, inner.properties, page);
    return found && { ...span, edits: found.edits };
  }
  const base = baseOf(page, node);
  const close = (node.end ?? 0) - 1;
  if (given.length === 1 && inner !== last && t.isArrowFunctionExpression(last)) {
    const { newline, indent, trailingComma } = page.style;
    const arrow = page.text.lastIndexOf('=>', inner.start ?? 0) + 2;
    return {
      ...span,
      edits: [
        gapAfter(arrow, newline + base + indent, page),
        { start: close, end: close, text: (trailingComma ? ',' : '') + newline + base },
      ],
    };
  }
  if (given.length === 1 && !t.isCallExpression(last) && !t.isConditionalExpression(last)) return undefined;
  return open < (given[0]?.start ?? 0) ? { ...span, edits: onLines(given, close, base, page) } : undefined;
}

/** White space before a place gives way to a line's end. */
function gapBefore(at: number, text: string, page: Page): Edit {
  let start = at;
  while (/[ \t]/.test(page.text.charAt(start - 1))) start--;
  return { start, end: at, text };
}

function gapAfter(at: number, text: string, page: Page): Edit {
  let end = at;
  while (/[ \t]/.test(page.text.charAt(end))) end++;
  return { start: at, end, text };
}
