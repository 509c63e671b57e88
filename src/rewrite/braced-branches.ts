import * as t from '@babel/types';
import type { RewritePlan } from '../form/ledger.js';
import { editedStretch } from '../source/edits.js';
import { parseScript, type Script } from '../source/script.js';
import { indentAt, styleOf, type TextStyle } from '../source/style.js';
import type { Sources } from './sources.js';

type Edit = RewritePlan['edits'][number];

/**
 * A plan in which no branch without braces becomes several statements, of which only the first would stand under the
 * condition: such a branch gets braces, as does one of which nothing is left.
 */
export function bracedBranches(plan: RewritePlan, sources: Sources): RewritePlan {
  let edits = plan.edits;
  for (const file of new Set(plan.edits.map((edit) => edit.file))) {
    if (!/\.[cm]?[jt]sx?$/.test(file) || plan.deletes.includes(file)) continue;
    const script = sources.script(file);
    for (const branch of bareBranches(script)) edits = braced(branch, edits, script);
  }
  return edits === plan.edits ? plan : { ...plan, edits };
}

/** Branches of conditions and bodies of loops that are one statement without braces, the innermost first. */
function bareBranches({ ast }: Script): t.Statement[] {
  const found: t.Statement[] = [];
  t.traverseFast(ast, (node) => {
    if (t.isIfStatement(node)) found.push(node.consequent, ...(node.alternate ? [node.alternate] : []));
    else if (t.isLoop(node)) found.push(node.body);
  });
  return found
    .filter((one) => !t.isBlockStatement(one) && !t.isEmptyStatement(one))
    .sort((a, b) => (a.end ?? 0) - (a.start ?? 0) - ((b.end ?? 0) - (b.start ?? 0)));
}

function braced(branch: t.Statement, edits: Edit[], script: Script): Edit[] {
  const { file, text } = script;
  const [start, end] = [branch.start ?? 0, branch.end ?? 0];
  const covers = edits.find((edit) => edit.file === file && edit.start <= start && edit.end >= end);
  if (covers) {
    const gone =
      covers.text.trim() === '' && /^\s*$/.test(text.slice(covers.start, start) + text.slice(end, covers.end));
    return gone ? [...edits.filter((edit) => edit !== covers), { file, start, end, text: '{}' }] : edits;
  }
  const within = edits.filter((edit) => edit.file === file && edit.start >= start && edit.end <= end);
  if (!within.length) return edits;
  const statements = statementsOf(editedStretch(text, start, end, within), script);
  if (statements?.length === 1) return edits;
  if (!statements) return edits;
  const block = blockOf(statements, indentAt(text, start), styleOf(text), text.slice(0, start));
  return [...edits.filter((edit) => !within.includes(edit)), { file, start, end, text: block }];
}

/** The statements of a text, each as it stands; undefined where it does not parse. */
function statementsOf(text: string, { file }: Script): string[] | undefined {
  const before = 'async function* all() {';
  const parsed = parseScript(file, `${before}${text}\n}`);
  const only = parsed.ok ? parsed.script.ast.program.body[0] : undefined;
  if (!t.isFunctionDeclaration(only)) return undefined;
  return only.body.body.map(({ start, end }) => text.slice((start ?? 0) - before.length, (end ?? 0) - before.length));
}

/** Statements in braces, one in a line. */
function blockOf(statements: readonly string[], indent: string, style: TextStyle, before: string): string {
  if (!statements.length) return '{}';
  // a branch on a line of its own stands one step deeper than its condition
  const alone = /\n[ \t]*$/.test(before);
  const outer = alone && indent.endsWith(style.indent) ? indent.slice(0, -style.indent.length) : indent;
  const lines = statements.map((one) => `${outer}${style.indent}${one}`);
  return ['{', ...lines, `${outer}}`].join(style.newline);
}
