import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Edit } from '../../source/edits.js';
import { indentAt } from '../../source/style.js';
import type { ClassDraft, ClassMember } from './class-draft.js';
import { walk } from '../../source/traverse.js';

/** What code that runs once a change was made becomes where it runs along with it. */
export interface AfterChange {
  edits: Edit[];
  /** Reads of the state in that code by what they stand for: the values that were just set. */
  known: Map<t.Node, string>;
}

/** What a change sets, by name; undefined where a name is computed. */
function valuesSet(given: NodePath): Map<string, t.Node> | undefined {
  const set = new Map<string, t.Node>();
  if (!given.isObjectExpression()) return undefined;
  for (const property of given.node.properties) {
    if (!t.isObjectProperty(property) || property.computed || !t.isIdentifier(property.key)) return undefined;
    set.set(property.key.name, property.value);
  }
  return set;
}

/** Whether nothing of a function runs after a statement. */
function isLast(statement: NodePath): boolean {
  for (let at = statement; at.parentPath; at = at.parentPath) {
    const outer: NodePath = at.parentPath;
    if (outer.isBlockStatement()) {
      const rest = outer.node.body.slice(outer.node.body.indexOf(at.node as t.Statement) + 1);
      const [next] = rest;
      if (t.isReturnStatement(next) && !next.argument) return true;
      if (next) return false;
      if (outer.parentPath.isFunction() || outer.parentPath.isClassMethod()) return true;
    } else if (!outer.isIfStatement()) return false;
  }
  return false;
}

/** Reads of `this.state` below a path: the member that is read, or undefined for the state as a whole. */
function stateReads(root: NodePath): { path: NodePath; name: string | undefined }[] {
  const reads: { path: NodePath; name: string | undefined }[] = [];
  walk(root, {
    MemberExpression(member) {
      if (!t.isThisExpression(member.node.object) || !t.isIdentifier(member.node.property, { name: 'state' })) return;
      const outer = member.parentPath;
      const named = outer.isMemberExpression() && member.key === 'object' && !outer.node.computed;
      reads.push(
        named && t.isIdentifier(outer.node.property)
          ? { path: outer, name: outer.node.property.name }
          : { path: member, name: undefined },
      );
    },
  });
  return reads;
}

/** The methods of the class that run when some code runs, by name. */
export function methodsCalled(
  root: NodePath,
  draft: ClassDraft,
  found = new Map<string, NodePath>(),
): Map<string, NodePath> {
  const take = (name: string): void => {
    if (found.has(name)) return;
    const member = draft.path
      .get('body')
      .get('body')
      .find((one) => t.isIdentifier((one.node as ClassMember).key, { name }));
    if (!member) return;
    found.set(name, member);
    methodsCalled(member, draft, found);
  };
  const visit = (member: NodePath): void => {
    if (!member.isMemberExpression() || !t.isThisExpression(member.node.object)) return;
    if (t.isIdentifier(member.node.property)) take(member.node.property.name);
  };
  visit(root);
  walk(root, { MemberExpression: visit });
  return found;
}

/** A value that can stand in two places: a name that nothing assigns anew, or a literal. */
function repeatable(node: t.Node, call: NodePath, text: string): string | undefined {
  if (t.isIdentifier(node)) return call.scope.getBinding(node.name)?.constant === true ? node.name : undefined;
  return t.isLiteral(node) && !t.isTemplateLiteral(node) && !t.isRegExpLiteral(node)
    ? text.slice(node.start ?? 0, node.end ?? 0)
    : undefined;
}

/**
 * Says code that runs once a change was made, as code that runs along with it: it knows what was set, and whatever
 * else it reads of the state has not changed. Code that looks at the page has to wait until the change is shown.
 * @param call a call of `this.setState` with an object and a function
 * @returns the edits, or why the code cannot run along with the change
 */
export function afterChange(
  call: NodePath<t.CallExpression>,
  given: NodePath,
  callback: NodePath,
  draft: ClassDraft,
): AfterChange | string {
  const { text } = draft.script;
  const statement = call.parentPath;
  const waits = 'it runs once the change is shown; a function does that in an effect';
  if (!statement.isExpressionStatement() || !statement.parentPath.isBlockStatement() || !isLast(statement))
    return `${waits}, and more follows here`;
  const isMethod = callback.isMemberExpression() && t.isThisExpression(callback.node.object);
  const fn = callback.isArrowFunctionExpression() ? callback : undefined;
  if (!isMethod && (!fn || fn.node.params.length || fn.node.async)) return waits;
  const methods = methodsCalled(callback, draft);
  if ([callback, ...methods.values()].some((one) => /\.current\b|\bdocument\.|\brefs\b|\.focus\(/.test(textOf(one))))
    return waits;
  const set = valuesSet(given);
  for (const [name, member] of methods) {
    const stale = stateReads(member).find((read) => !set || read.name === undefined || set.has(read.name));
    if (stale) return `${waits}: ${name} reads ${stale.name ?? 'the state'}, which has changed by then`;
  }
  const known = new Map<t.Node, string>();
  for (const { path, name } of fn ? stateReads(fn) : []) {
    if (set && name !== undefined && !set.has(name)) continue;
    const values = [...(set ?? [])].flatMap(([key, node]) => {
      const value = repeatable(node, call, text);
      return value === undefined ? [] : [[key, value] as const];
    });
    const value = values.find(([key]) => key === name)?.[1];
    const whole = path.parentPath?.isVariableDeclarator() !== true && set?.size === values.length;
    if (name !== undefined && value !== undefined) known.set(path.node, value);
    else if (name === undefined && whole && set) {
      const members = values.map(([key, one]) => (key === one ? key : `${key}: ${one}`));
      known.set(path.node, `{ ${[`...${draft.names.state}`, ...members].join(', ')} }`);
    } else return `${waits}: it reads ${name ?? 'the state'}, which has changed by then`;
  }
  return { edits: inlined(call, given, callback, draft), known };

  function textOf(path: NodePath): string {
    return text.slice(path.node.start ?? 0, path.node.end ?? 0);
  }
}

/** Edits that bring lines of a stretch to another depth; text that spans lines keeps them. */
function atDepth(root: NodePath, from: number, to: number, indent: string, { script }: ClassDraft): Edit[] {
  const texts: t.Node[] = [];
  walk(root, { TemplateLiteral: ({ node }) => void texts.push(node) });
  const own = indentAt(script.text, from);
  const edits: Edit[] = [];
  for (let at = script.text.indexOf('\n', from) + 1; at > 0 && at < to; at = script.text.indexOf('\n', at) + 1) {
    const inText = texts.some((node) => (node.start ?? 0) < at && (node.end ?? 0) > at);
    if (!inText && script.text.startsWith(own, at) && own.startsWith(indent))
      edits.push({ start: at, end: at + own.length - indent.length, text: '' });
  }
  return edits;
}

/** The edits that put the code of a callback behind the change it was handed to. */
function inlined(call: NodePath, given: NodePath, callback: NodePath, draft: ClassDraft): Edit[] {
  const { script, style } = draft;
  const start = given.node.end ?? 0;
  const end = call.node.end ?? 0;
  const indent = indentAt(script.text, call.node.start ?? 0);
  const behind = (next: string): string => {
    const stop = style.semicolon === '' && /^(?!\/[/*])[([`/+-]/.test(next) ? ';' : style.semicolon;
    return `)${stop}${style.newline}${indent}`;
  };
  const body = callback.isArrowFunctionExpression() ? (callback.get('body') as NodePath) : undefined;
  const runs = body ?? callback;
  const from = runs.node.start ?? 0;
  const to = runs.node.end ?? 0;
  if (!runs.isBlockStatement())
    return [
      { start, end: from, text: behind(script.text.slice(from)) },
      { start: to, end, text: body ? '' : '()' },
    ];
  const close = script.text[end] === ';' ? end + 1 : end;
  const [first] = runs.node.body;
  const last = runs.node.body.at(-1);
  // names of its own keep their block
  if (!first || !last || runs.node.body.some((one) => t.isDeclaration(one)))
    return [
      { start, end: from, text: behind('{') },
      ...atDepth(runs, from, to, indent, draft),
      { start: to, end: close, text: '' },
    ];
  const open = first.leadingComments?.[0]?.start ?? first.start ?? 0;
  const tail = last.trailingComments?.at(-1)?.end ?? last.end ?? 0;
  return [
    { start, end: open, text: behind(script.text.slice(open)) },
    ...atDepth(runs, open, tail, indent, draft),
    { start: tail, end: close, text: '' },
  ];
}
