import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { Edit } from '../../source/edits.js';
import { wholeLines } from '../../source/removal.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { takenBy } from './hook-call.js';
import { type Move, leave, calleeName } from './move.js';
import { walk } from '../../source/traverse.js';

/** The members that the component asks for, by the names it knows them by. */
export function askedMembers(
  move: Move,
  taken: NonNullable<ReturnType<typeof takenBy>>,
  members: ReadonlyMap<string, NodePath>,
  edits: Edit[],
): Map<string, string> | undefined {
  const { site, hook } = move;
  const { script } = site;
  const missing = (key: string, span: Span): undefined => {
    leave(move, span, key, 'the hook gives nothing of this name');
    return undefined;
  };
  if (taken.kind === 'names') {
    for (const key of taken.names.keys())
      if (!members.has(key)) return missing(key, spanOf(script.file, hook.declarator));
    return taken.names;
  }
  const references = hook.declarator.scope.getBinding(taken.name)?.referencePaths ?? [];
  const asked = namedInStatements(move, references, edits);
  if (!asked) return undefined;
  for (const reference of references) {
    const member = reference.parentPath;
    const span = spanOf(script.file, reference);
    if (member?.isVariableDeclarator() && t.isObjectPattern(member.node.id)) continue;
    if (!member?.isMemberExpression() || member.node.computed || !t.isIdentifier(member.node.property)) {
      leave(move, span, taken.name, 'all that the hook gives is handed on together');
      return undefined;
    }
    const { name } = member.node.property;
    if (!members.has(name)) return missing(name, spanOf(script.file, member));
    const own = asked.has(name)
      ? name
      : hook.declarator.scope.hasBinding(name)
        ? move.context.freeName(name, `${taken.name}${name.charAt(0).toUpperCase()}${name.slice(1)}`)
        : name;
    asked.set(name, asked.get(name) ?? own);
    edits.push({ start: member.node.start ?? 0, end: member.node.end ?? 0, text: asked.get(name) ?? name });
  }
  return asked;
}

/**
 * Members that statements of the component take out of what the hook gives, `const { values, reset: clear } = form`,
 * by the names they get there. The statements go.
 */
function namedInStatements(
  move: Move,
  references: readonly NodePath[],
  edits: Edit[],
): Map<string, string> | undefined {
  const { script } = move.site;
  const asked = new Map<string, string>();
  for (const reference of references) {
    const declarator = reference.parentPath;
    if (!declarator?.isVariableDeclarator() || !t.isObjectPattern(declarator.node.id)) continue;
    const statement = declarator.parentPath;
    const names = takenBy(declarator);
    const plain =
      names?.kind === 'names' &&
      statement.isVariableDeclaration({ kind: 'const' }) &&
      statement.node.declarations.length === 1 &&
      declarator.scope === move.hook.declarator.scope &&
      [...names.names].every(([key, name]) => (asked.get(key) ?? name) === name);
    if (!plain) {
      const what = script.text.slice(declarator.node.start ?? 0, declarator.node.end ?? 0);
      leave(move, spanOf(script.file, declarator), what, 'members of what the hook gives are taken out again here');
      return undefined;
    }
    for (const [key, name] of names.names) asked.set(key, name);
    edits.push({ ...wholeLines(script.text, spanOf(script.file, statement)), text: '' });
  }
  return asked;
}

/** Names of the hook's own body become those by which the component knows the members. */
export function nameMembers(
  move: Move,
  asked: ReadonlyMap<string, string>,
  members: ReadonlyMap<string, NodePath>,
): void {
  const { hook, site } = move;
  for (const [key, local] of asked) {
    const value = members.get(key);
    if (!value?.isIdentifier()) continue;
    if (!move.renamed.has(value.node.name)) move.renamed.set(value.node.name, local);
  }
  nameSetters(move);
  const again = hook.call.scope.getBinding(calleeName(hook))?.references ?? 1;
  const lead = [...asked.values()][0] ?? 'form';
  for (const [name, binding] of Object.entries(hook.fn.scope.bindings)) {
    if (binding.kind === 'param') continue;
    const wished = move.renamed.get(name);
    const taken = site.component.path.scope.hasBinding(name) || [...move.renamed.values()].includes(name);
    const crowded = taken || again > 1 || hasSibling(site, name);
    const clash = wished === undefined && hook.script !== site.script && crowded;
    const next = wished ?? (clash ? move.context.freeName(prefixed(lead, name), `${name}OfForm`) : name);
    if (clash) move.renamed.set(name, next);
    if (next === name) continue;
    for (const reference of [...binding.referencePaths.map(({ node }) => node), binding.identifier]) {
      const parent = referenceParent(hook.fn, reference);
      const short = t.isObjectProperty(parent) && parent.shorthand ? `${name}: ` : '';
      move.edits.push({ start: reference.start ?? 0, end: reference.end ?? 0, text: short + next });
    }
    for (const change of binding.constantViolations) {
      const span = { file: hook.script.file, start: change.node.start ?? 0, end: change.node.end ?? 0 };
      leave(move, span, name, 'a variable of the hook is assigned anew');
    }
  }
}

/** Whether the component keeps a state variable that another call of such a hook left: `townTouched` beside `touched`. */
function hasSibling(site: FormSite, name: string): boolean {
  const tail = name.replace(/^set(?=[A-Z])/, '');
  const end = tail.charAt(0).toUpperCase() + tail.slice(1);
  return Object.entries(site.component.path.scope.bindings).some(
    ([other, { path: declared }]) =>
      other !== name && other.endsWith(end) && declared.isVariableDeclarator() && t.isArrayPattern(declared.node.id),
  );
}

/** `left` of `bird` is `birdLeft`, `setLeft` is `setBirdLeft`. */
function prefixed(lead: string, name: string): string {
  const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
  return /^set[A-Z]/.test(name) ? `set${upper(lead)}${name.slice(3)}` : lead + upper(name);
}

/** Where a value has the component's name, its setter is called after that. */
function nameSetters({ hook, renamed, site }: Move): void {
  for (const binding of Object.values(hook.fn.scope.bindings)) {
    const declarator = binding.path;
    const pattern = declarator.isVariableDeclarator() ? declarator.node.id : undefined;
    if (!t.isArrayPattern(pattern)) continue;
    const [value, setter] = pattern.elements;
    const given = t.isIdentifier(value) ? renamed.get(value.name) : undefined;
    if (given === undefined || !t.isIdentifier(setter) || renamed.has(setter.name) || !t.isIdentifier(value)) continue;
    const name = `set${given.charAt(0).toUpperCase()}${given.slice(1)}`;
    if (given !== value.name && !site.component.path.scope.hasBinding(name)) renamed.set(setter.name, name);
  }
}

function referenceParent(fn: NodePath, node: t.Node): t.Node | undefined {
  let found: t.Node | undefined;
  walk(fn, {
    Identifier(inner) {
      if (inner.node === node) found = inner.parent;
    },
  });
  return found;
}
