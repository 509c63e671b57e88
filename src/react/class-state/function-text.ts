import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { editedStretch } from '../../source/edits.js';
import { movedLines } from '../../source/moved-lines.js';
import { indentAt } from '../../source/style.js';
import { spanOf } from '../code.js';
import type { ClassDraft, ClassMember } from './class-draft.js';
import { runsLater } from './later.js';
import { isStale } from './stale-reads.js';
import { stateChangeText } from './state-changes.js';
import { walk } from '../../source/traverse.js';

/** What a method is called once it is a function beside the variables of all others. */
export function functionName(draft: Pick<ClassDraft, 'renamed'>, method: string): string {
  return draft.renamed.get(method) ?? method;
}

/** Other names for methods whose own name is taken by a variable: `getTotal` for `total`. */
export function renamedMethods(
  path: NodePath<t.Class>,
  members: ReadonlyMap<string, ClassMember>,
): Map<string, string> {
  const taken = new Set<string>();
  walk(path, {
    Scopable(inner) {
      if (inner.scope.path.node !== inner.node) return;
      for (const name of Object.keys(inner.scope.bindings)) taken.add(name);
    },
  });
  const renamed = new Map<string, string>();
  for (const name of members.keys()) {
    if (!taken.has(name)) continue;
    const wished = `get${name.charAt(0).toUpperCase()}${name.slice(1)}`;
    let free = wished;
    for (let number = 2; taken.has(free) || members.has(free); number++) free = `${wished}${number}`;
    renamed.set(name, free);
  }
  return renamed;
}

/** Leaves a place of the class by hand. */
export function byHand(draft: ClassDraft, node: t.Node, why: string): void {
  const span = { file: draft.script.file, start: node.start ?? 0, end: node.end ?? 0 };
  draft.ledger.push({ entry: 'by-hand', span, what: draft.script.text.slice(span.start, span.end), why });
}

/** A stretch of the class's text with everything that is asked of `this` said in the function's words. */
export function textWithin(draft: ClassDraft, start: number, end: number): string {
  return editedStretch(draft.script.text, start, end, draft.edits);
}

/** Says every use of `this` in the function's words: state, props, methods, refs, and what changes the state. */
export function replaceThis(draft: ClassDraft, members: ReadonlyMap<string, ClassMember>): void {
  const { script, names } = draft;
  const edit = (path: NodePath, text: string): void => {
    draft.edits.push({ start: path.node.start ?? 0, end: path.node.end ?? 0, text });
  };
  walk(draft.path, {
    Class: (inner) => inner.skip(),
    Super(path) {
      if (!path.parentPath.isCallExpression()) byHand(draft, path.parent, 'it is asked of the class it extends');
    },
    ThisExpression(path) {
      if (isOtherThis(path, draft.path)) return;
      const member = path.parentPath;
      if (path.listKey === 'arguments' && isBind(member)) return;
      if (member.isVariableDeclarator() && takesMembers(member, draft, members)) return;
      if (!member.isMemberExpression() || member.node.computed || !t.isIdentifier(member.node.property)) {
        if (!member.isMemberExpression() || !t.isPrivateName(member.node.property))
          byHand(draft, path.parent, 'the component itself is handed on, which a function does not have');
        else byHand(draft, path.parent, 'a private member is not followed');
        return;
      }
      const { name } = member.node.property;
      const call = member.parentPath.isCallExpression() && member.key === 'callee' ? member.parentPath : undefined;
      if (name === 'state') {
        if (member.parentPath.isAssignmentExpression() && member.key === 'left') {
          if (!inConstructor(path)) byHand(draft, member.parent, 'the state is replaced in place');
          return;
        }
        const outer = draft.known.has(member.node) ? member : member.parentPath;
        const known = draft.known.get(outer.node);
        if (known !== undefined) return edit(outer, known);
        if (!isStale(member, draft.path) && !runsLater(member, draft, 'methods')) return edit(member, names.state);
        draft.needs.add('latest');
        return edit(member, `${names.latest}.current`);
      }
      if (name === 'props') {
        if (!runsLater(member, draft, 'mounted')) return edit(member, names.props);
        draft.needs.add('latestProps');
        return edit(member, `${names.latestProps}.current`);
      }
      if (name === 'setState') {
        if (!call) return byHand(draft, member.node, 'setState is handed on');
        const change = stateChangeText(call, draft);
        if (change.why !== undefined) return byHand(draft, call.node, change.why);
        draft.edits.push(...change.edits);
        return;
      }
      if (name === 'context' || name === 'forceUpdate' || name === 'refs')
        return byHand(draft, member.node, `this.${name} has no counterpart in a function`);
      const known = members.get(name);
      const isMethod = t.isClassMethod(known) || (t.isClassProperty(known) && isFunctionNode(known.value));
      if (isMethod) {
        const own = functionName(draft, name);
        if (t.isClassMethod(known) && known.kind === 'get') return edit(member, `${own}()`);
        const bind = bindingCall(member);
        if (bind) return edit(bind.path, bind.rest === undefined ? own : `${own}.bind(null, ${bind.rest})`);
        if (member.parentPath.isAssignmentExpression() && member.key === 'left') {
          if (!inConstructor(path)) byHand(draft, member.parent, 'a method is exchanged');
          return;
        }
        return edit(member, own);
      }
      const ref = refNamed(name, draft);
      edit(member, ref.isRefObject ? name : `${name}.current`);
    },
  });

  function bindingCall(member: NodePath): { path: NodePath; rest: string | undefined } | undefined {
    const access = member.parentPath;
    const call = access?.parentPath;
    if (!access?.isMemberExpression() || member.key !== 'object' || !call || !isBind(call)) return undefined;
    const [, ...rest] = (call.node as t.CallExpression).arguments;
    const [first] = rest;
    const last = rest.at(-1);
    if (!first || !last) return { path: call, rest: undefined };
    return { path: call, rest: script.text.slice(first.start ?? 0, last.end ?? 0) };
  }
}

/** A ref for a member of the instance that is declared nowhere, or where it is declared. */
function refNamed(name: string, draft: ClassDraft): { text: string; isRefObject: boolean } {
  const known = draft.refs.get(name);
  if (known) return known;
  const made = { text: draft.script.typescript ? `<unknown>(undefined)` : '(undefined)', isRefObject: false };
  draft.refs.set(name, made);
  return made;
}

function isBind(path: NodePath): boolean {
  return (
    path.isCallExpression() &&
    t.isMemberExpression(path.node.callee) &&
    t.isIdentifier(path.node.callee.property, { name: 'bind' }) &&
    t.isThisExpression(path.node.arguments[0])
  );
}

/** Whether a node is a function that is a value. */
export function isFunctionNode(node: t.Node | null | undefined): boolean {
  return t.isArrowFunctionExpression(node) || t.isFunctionExpression(node);
}

/** Whether `this` is that of a function inside, not of the component. */
function isOtherThis(path: NodePath, root: NodePath): boolean {
  const around = path.findParent(
    (parent) =>
      parent.isFunctionDeclaration() ||
      parent.isFunctionExpression() ||
      parent.isObjectMethod() ||
      parent.node === root.node,
  );
  return around?.node !== root.node && !around?.parentPath?.isClassProperty();
}

function inConstructor(path: NodePath): boolean {
  const method = path.findParent((parent) => parent.isClassMethod());
  return method?.isClassMethod() === true && method.node.kind === 'constructor';
}

/** `const { state, props, save } = this;`: the function has them under these names already. */
function takesMembers(
  declarator: NodePath<t.VariableDeclarator>,
  draft: ClassDraft,
  members: ReadonlyMap<string, ClassMember>,
): boolean {
  const { id } = declarator.node;
  const statement = declarator.parentPath;
  if (!t.isObjectPattern(id) || !statement.isVariableDeclaration() || statement.node.declarations.length !== 1)
    return false;
  const plain = id.properties.every(
    (property) =>
      t.isObjectProperty(property) &&
      property.shorthand &&
      t.isIdentifier(property.key) &&
      (property.key.name === draft.names.state ||
        property.key.name === draft.names.props ||
        (members.has(property.key.name) && !draft.renamed.has(property.key.name))),
  );
  if (!plain) return false;
  const { text } = draft.script;
  const start = statement.node.start ?? 0;
  let end = statement.node.end ?? 0;
  while (/[ \t\r]/.test(text[end] ?? '')) end++;
  if (text[end] === '\n') end++;
  let from = start;
  while (/[ \t]/.test(text[from - 1] ?? '')) from--;
  draft.edits.push({ start: from, end, text: '' });
  draft.ledger.push({
    entry: 'retired',
    span: spanOf(draft.script.file, statement),
    what: 'members taken out of the component',
    why: 'the function knows them by these names',
  });
  return true;
}

/** A body's statements, one level deeper or as deep as they stood. */
export function bodyText(draft: ClassDraft, body: t.BlockStatement): string {
  const start = (body.start ?? 0) + 1;
  const end = (body.end ?? 0) - 1;
  const inner = textWithin(draft, start, end);
  return inner.replace(/^[ \t]*\r?\n/, '').replace(/\s*$/, '');
}

/** Lines moved to another depth. */
export function atDepth(text: string, from: string, to: string): string {
  if (from === to) return text;
  return movedLines(text, (line) => (line.startsWith(from) ? to + line.slice(from.length) : line));
}

/** The indentation of a class's members. */
export function memberIndent(draft: ClassDraft): string {
  const [first] = draft.path.node.body.body;
  return first ? indentAt(draft.script.text, first.start ?? 0) : draft.style.indent;
}
