import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import type { Edit } from '../../source/edits.js';
import { wholeLines } from '../../source/removal.js';
import { indentAt } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { reactImportEdits } from '../import-edits.js';
import { namedReferences } from '../references.js';
import { argumentEdits, type GivenArguments } from './arguments.js';
import { membersOf, returnedBy, takenBy, type HookCall } from './hook-call.js';
import { spreadEdits } from './spreads.js';
import { type Move, leave, moved, calleeName } from './move.js';
import { askedMembers, nameMembers } from './move-names.js';
import { typeEdits } from './move-types.js';
import { moduleParts, importEdits } from './move-imports.js';
import { walk } from '../../source/traverse.js';

/** Writes what a hook of the project does into the component that calls it. */
export function writeInlined(model: FormModel, context: WriteContext, site: FormSite, hook: HookCall): RewritePlan {
  const move: Move = { site, context, hook, edits: [], renamed: new Map(), ledger: [] };
  const { script } = site;
  const place = spanOf(script.file, hook.declarator);
  const what = script.text.slice(place.start, place.end).split('\n')[0] ?? '';
  const returned = returnedBy(hook.fn);
  const members = returned && membersOf(returned);
  const taken = takenBy(hook.declarator);
  if (!members || !taken || hook.declaration.node.declarations.length !== 1)
    leave(move, place, what, 'what the hook gives is not told by one return of an object or a list');
  if (hook.fn.node.async || hook.fn.node.generator) leave(move, place, what, 'it is no plain function');
  const componentEdits: Edit[] = [];
  const asked = taken && members && askedMembers(move, taken, members, componentEdits);
  const given = argumentEdits(move, componentEdits);
  if (!members || !taken || !given || !asked || byHandOf(move).length) return leftByHand(byHandOf(move));
  nameMembers(move, asked, members);
  typeEdits(move);
  const spreads = spreadEdits(move, asked, members);
  const call = spanOf(script.file, hook.declaration);
  const isWritten = (edit: Edit): boolean =>
    [...spreads.edits, call].some(({ start, end }) => edit.start >= start && edit.end <= end);
  const ownEdits = [...componentEdits.filter((edit) => !isWritten(edit)), ...spreads.edits];
  if (byHandOf(move).length) return leftByHand(byHandOf(move));
  const lines = namedAsHere(move, bodyLines(move, given, asked, members, spreads.only));
  const spread = spreads.edits.map(({ text }) => text);
  const above = moduleParts(move, [...given.above, ...lines, ...spread].join('\n'), given.above);
  if (byHandOf(move).length) return leftByHand(byHandOf(move));
  const indent = indentAt(script.text, hook.declaration.node.start ?? 0);
  const joint = context.style.newline + indent;
  const edits: RewritePlan['edits'] = [
    { ...spanOf(script.file, hook.declaration), text: lines.join(joint) },
    ...ownEdits.map((edit) => ({ file: script.file, ...edit })),
  ];
  if (above.text !== '') edits.push({ file: model.file, start: model.before, end: model.before, text: above.text });
  edits.push(...importEdits(move, above.imports, lines.join('\n') + above.text));
  if (hook.from === undefined) edits.push(...ownDeclaration(move));
  for (const control of model.controls)
    move.ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same value',
    });
  move.ledger.push({ entry: 'carried', span: place, what, why: 'what the hook does stands in the component now' });
  if (hook.from !== undefined)
    move.ledger.push({
      entry: 'kept',
      span: { file: hook.script.file, start: hook.fn.node.start ?? 0, end: hook.fn.node.start ?? 0 },
      what: 'the hook itself',
      why: 'other components may use it',
    });
  return { edits, creates: [], deletes: [], dependencies: [], ledger: move.ledger };
}

/** Hooks of React that the hook's file imports by name, called as the component's file calls them. */
function namedAsHere({ hook, site }: Move, lines: string[]): string[] {
  if (hook.script === site.script) return lines;
  const names = hook.script.ast.program.body.flatMap((node) =>
    t.isImportDeclaration(node) && node.source.value === 'react'
      ? node.specifiers.flatMap((one) =>
          t.isImportSpecifier(one) && t.isIdentifier(one.imported, { name: one.local.name }) ? [one.local.name] : [],
        )
      : [],
  );
  const hooks = names.filter((name) => /^use[A-Z]/.test(name) && lines.some((line) => line.includes(name)));
  const { call } = reactImportEdits(site.script, { add: hooks, drop: [] }, (name) =>
    namedReferences(site.script, name),
  );
  return lines.map((line) =>
    hooks.reduce((text, name) => text.replace(new RegExp(`(?<![.\\w$])${name}(?=[(<])`, 'g'), () => call(name)), line),
  );
}

/** A hook of the component's own file goes when nothing else calls it. */
function ownDeclaration({ hook, site }: Move): RewritePlan['edits'] {
  const statement = hook.fn.getStatementParent() ?? hook.fn;
  const exported = statement.parentPath?.isExportNamedDeclaration() === true || statement.isExportNamedDeclaration();
  const uses = hook.call.scope.getBinding(calleeName(hook))?.references ?? 2;
  if (exported || uses > 1) return [];
  const { text } = site.script;
  const { start, end } = wholeLines(text, spanOf(site.script.file, statement));
  return [{ file: site.script.file, start, end, text: '' }];
}

function byHandOf(move: Move): LedgerEntry[] {
  return move.ledger.filter(({ entry }) => entry === 'by-hand');
}

/** The hook's statements as they stand in the component; what nothing there needs is left out. */
function bodyLines(
  move: Move,
  given: GivenArguments,
  asked: ReadonlyMap<string, string>,
  members: ReadonlyMap<string, NodePath>,
  spreadOnly: ReadonlyMap<string, NodePath>,
): string[] {
  const { hook, context } = move;
  const body = hook.fn.get('body') as NodePath<t.BlockStatement>;
  const statements = body.get('body').filter((statement) => !statement.isReturnStatement());
  const wanted = new Set<string>();
  const want = (root: NodePath): void => {
    const visit = (inner: NodePath): void => {
      if (!inner.isIdentifier() || !inner.isReferencedIdentifier()) return;
      if (inner.scope.getBinding(inner.node.name)?.scope.path.node === hook.fn.node) wanted.add(inner.node.name);
    };
    visit(root);
    walk(root, { Identifier: visit });
  };
  for (const [key] of asked) want(spreadOnly.get(key) ?? (members.get(key) as NodePath));
  for (const path of given.kept) want(path);
  const kept = new Set<NodePath>();
  for (let changed = true; changed;) {
    changed = false;
    for (const statement of statements) {
      if (kept.has(statement) || given.gone.has(statement.node)) continue;
      const names = Object.keys(t.getBindingIdentifiers(statement.node, false, true));
      const declares = statement.isVariableDeclaration() || statement.isFunctionDeclaration();
      if (declares && !names.some((name) => wanted.has(name))) continue;
      kept.add(statement);
      want(statement);
      changed = true;
    }
  }
  const own = indentAt(hook.script.text, statements[0]?.node.start ?? 0);
  const to = indentAt(move.site.script.text, hook.declaration.node.start ?? 0);
  const placed = (text: string, from = own): string =>
    text
      .split('\n')
      .map((line, index) => (index > 0 && line.startsWith(from) ? to + line.slice(from.length) : line))
      .join('\n');
  const lines = [...given.lines];
  for (const statement of statements) {
    if (!kept.has(statement)) continue;
    trimPattern(move, statement, wanted);
    const comments = (statement.node.leadingComments ?? [])
      .filter((comment) => (comment.start ?? 0) > (body.node.start ?? 0))
      .map((comment) => hook.script.text.slice(comment.start ?? 0, comment.end ?? 0));
    lines.push(...comments, placed(moved(move, statement.node)));
  }
  for (const [key, local] of asked) {
    const value = members.get(key);
    if (!value || spreadOnly.has(key)) continue;
    const depth = indentAt(hook.script.text, value.node.start ?? 0);
    if (value.isObjectMethod()) {
      const open = hook.script.text.indexOf('(', value.node.key.end ?? 0);
      const text = moved(move, value.node).slice(open - (value.node.start ?? 0));
      lines.push(placed(`${value.node.async ? 'async ' : ''}function ${local}${text}`, depth));
    } else if (!value.isIdentifier() || move.renamed.get(value.node.name) !== local) {
      const same = value.isIdentifier() && (move.renamed.get(value.node.name) ?? value.node.name) === local;
      if (!same) lines.push(`const ${local} = ${placed(moved(move, value.node), depth)}${context.style.semicolon}`);
    }
  }
  return lines;
}

/** A pair of which the component needs one half only. */
function trimPattern(move: Move, statement: NodePath, wanted: ReadonlySet<string>): void {
  if (!statement.isVariableDeclaration()) return;
  for (const { id } of statement.node.declarations) {
    if (!t.isArrayPattern(id)) continue;
    const [first, second] = id.elements;
    const isUsed = (node: t.Node | null | undefined): boolean => t.isIdentifier(node) && wanted.has(node.name);
    if (!t.isIdentifier(first) || !t.isIdentifier(second)) continue;
    if (!isUsed(second)) move.edits.push({ start: first.end ?? 0, end: second.end ?? 0, text: '' });
    else if (!isUsed(first)) {
      move.edits = move.edits.filter((edit) => edit.start !== first.start);
      move.edits.push({ start: first.start ?? 0, end: first.end ?? 0, text: '' });
    }
  }
}
