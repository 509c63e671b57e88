import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { Rule } from '../../form/rules.js';
import type { Span } from '../../form/code.js';
import type { WriteContext } from '../../form/writing.js';
import { plainComment } from '../../source/comments.js';
import { wholeLines } from '../../source/removal.js';
import type { Script } from '../../source/script.js';
import { indentAt } from '../../source/style.js';

/** Where a node begins together with the comments that belong to it. */
export function startWithComments(statement: NodePath, script: Script): number {
  const leading = statement.node.leadingComments?.filter(({ start }) => start !== undefined) ?? [];
  let start = statement.node.start ?? 0;
  for (const comment of [...leading].reverse())
    if (/^[ \t]*\r?\n?[ \t]*$/.test(script.text.slice(comment.end ?? 0, start))) start = comment.start ?? start;
  return start;
}

/** Spans in order, without those that are named twice. */
export function uniqueSpans(spans: readonly Span[]): Span[] {
  return [...new Map(spans.map((span) => [span.start, span])).values()].sort((a, b) => a.start - b.start);
}

/** Statements of a body that stay. */
export function restOf(body: NodePath, pieces: readonly Span[]): t.Statement[] {
  return body.isBlockStatement()
    ? body.node.body.filter(({ start }) => !pieces.some((piece) => piece.start === start))
    : [];
}

/** Pieces taken away with their lines and the comments above them. */
export function removals(pieces: readonly Span[], script: Script): RewritePlan['edits'] {
  const edits: RewritePlan['edits'] = [];
  for (const piece of pieces) {
    let { start } = piece;
    const above = (script.ast.comments ?? []).filter((comment) => (comment.end ?? 0) <= piece.start);
    for (const comment of [...above].reverse()) {
      const between = script.text.slice(comment.end ?? 0, start);
      const ownLine = /(^|\n)[ \t]*$/.test(script.text.slice(0, comment.start ?? 0));
      if (!/^[ \t]*\r?\n[ \t]*$/.test(between) || !ownLine) break;
      start = comment.start ?? start;
    }
    let { end } = piece;
    const behind = /^[ \t]*(\/\/[^\n]*|\/\*[^\n]*?\*\/[ \t]*(?=\r?\n))/.exec(script.text.slice(end));
    if (behind) end += behind[0].replace(/\r$/, '').length;
    edits.push({ file: piece.file, ...wholeLines(script.text, { start, end }), text: '' });
  }
  return edits;
}

/** An object that a function gives, with the `return` or the parentheses around it. */
export function replacedObject(
  object: NodePath<t.ObjectExpression>,
  text: string,
  script: Script,
): RewritePlan['edits'] {
  let start = object.node.start ?? 0;
  let end = object.node.end ?? 0;
  if (object.parentPath.isArrowFunctionExpression() && /\(\s*$/.test(script.text.slice(0, start))) {
    start = script.text.lastIndexOf('(', start - 1);
    end = script.text.indexOf(')', end) + 1;
  }
  return [{ file: script.file, start, end, text }];
}

/** A property with the comma behind it and its line. */
export function withComma(piece: Span, text: string, stop: number): { start: number; end: number } {
  const comma = /^\s*,/.exec(text.slice(piece.end, stop));
  const end = piece.end + (comma?.[0].length ?? 0);
  const lines = wholeLines(text, { start: piece.start, end });
  return lines.end > stop ? { start: piece.start, end } : lines;
}

/** Puts the answer of the schema where no other branch answers. */
export function answerOtherwise(
  branches: NodePath<t.SwitchStatement>,
  other: NodePath<t.SwitchCase> | undefined,
  answer: string,
  script: Script,
  { style }: WriteContext,
): RewritePlan['edits'] {
  const file = script.file;
  if (other) {
    const [first] = other.node.consequent;
    const last = other.node.consequent.at(-1);
    if (!first || !last) return [{ file, start: other.node.end ?? 0, end: other.node.end ?? 0, text: ` ${answer}` }];
    return [{ file, start: first.start ?? 0, end: last.end ?? 0, text: answer }];
  }
  const close = (branches.node.end ?? 1) - 1;
  const indent = indentAt(script.text, branches.node.start ?? 0);
  const { newline } = style;
  const lineStart = script.text.lastIndexOf('\n', close) + 1;
  const step = indent + style.indent;
  return [
    {
      file,
      start: lineStart,
      end: lineStart,
      text: `${step}default:${newline}${step}${style.indent}${answer}${newline}`,
    },
  ];
}

/** The comments that go with the pieces, each with the rule it stands nearest to. */
export function commentsOfPieces(
  rules: readonly Rule[],
  fn: NodePath<t.Function>,
  pieces: readonly Span[],
  script: Script,
  replaced: boolean,
): Map<Rule, string[]> {
  const found = new Map<Rule, string[]>();
  const body = fn.node.body;
  const gone = removals(pieces, script);
  for (const comment of script.ast.comments ?? []) {
    const start = comment.start ?? 0;
    const end = comment.end ?? 0;
    const inGone = gone.some((edit) => start >= edit.start && end <= edit.end);
    const inBody = replaced && start >= (body.start ?? 0) && end <= (body.end ?? 0);
    if (!inGone && !inBody) continue;
    const nearest =
      rules.find(({ span }) => span.start >= end && onNextLines(script.text.slice(end, span.start))) ??
      [...rules].reverse().find(({ span }) => span.start <= start) ??
      rules[0];
    if (nearest) found.set(nearest, [...(found.get(nearest) ?? []), plainComment(comment.value)]);
  }
  return found;
}

/** Whether nothing but the start of a condition stands between a comment and a rule. */
function onNextLines(between: string): boolean {
  return between.split(/\r?\n/).length <= 3;
}
