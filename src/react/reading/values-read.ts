import type { NodePath } from '@babel/traverse';
import { isWithin } from '../../course/cell.js';
import * as t from '@babel/types';
import { calledMember, textAt } from '../../course/flow.js';
import { fieldsOf } from '../../form/model.js';
import { returnedValue, type Placed } from '../../source/behind-names.js';
import { isReactHook } from '../hook-calls.js';
import { isThisState } from '../this-state.js';
import { functionBehind, memoised, through } from './names.js';
import type { Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** The fields that an expression reads, through constants of the component. */
export function fieldsRead(at: Placed, scene: Scene, seen = new Set<t.Node>()): string[] {
  if (seen.has(at.path.node)) return [];
  seen.add(at.path.node);
  const all = fieldsOf(scene.model).map(({ name }) => name);
  const found = new Set<string>();
  for (const use of scene.model.uses) {
    if (!isWithin(use.span, at)) continue;
    if (use.kind === 'read') found.add(use.field);
    if (use.kind === 'read-all') all.forEach((name) => found.add(name));
  }
  const look = (path: NodePath): void => {
    for (const name of classReads(path, at, scene, seen)) found.add(name);
    if (!path.isReferencedIdentifier()) return;
    const binding = path.scope.getBinding(path.node.name);
    if (!binding) return;
    const target = through({ path, script: at.script }, scene.trail);
    const named = target.path.isIdentifier() ? target.path.scope.getBinding(target.path.node.name) : undefined;
    if (named && scene.holders.some((cell) => cell.value === named)) all.forEach((name) => found.add(name));
    // values that come out of a hook have no state of their own here
    const bare = scene.model.uses.length === 0 && !scene.holders.length && path.node.name === scene.model.holder?.name;
    if (bare && binding.path.isVariableDeclarator()) all.forEach((name) => found.add(name));
    const known = scene.given.get(binding);
    if (known) fieldsRead(known, scene, seen).forEach((name) => found.add(name));
    const declared = binding.path;
    const init = declared.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
    const value = init?.node ? memoised(init) : undefined;
    if (value && !value.isFunction() && !isHookCall(value))
      fieldsRead({ path: value, script: at.script }, scene, seen).forEach((name) => found.add(name));
    // a ref that keeps the values of the latest view
    const kept = value && isRefOf(value, path) ? (value.get('arguments')[0] as NodePath | undefined) : undefined;
    if (kept) fieldsRead({ path: kept, script: at.script }, scene, seen).forEach((name) => found.add(name));
    // a function of the component that gives them
    const called = path.key === 'callee' && declared.isFunction() ? returnedValue(declared) : undefined;
    if (called) fieldsRead({ path: called, script: at.script }, scene, seen).forEach((name) => found.add(name));
    // what a hook hands to the function it is given are the values
    if (binding.kind === 'param' && isHandedToHook(declared)) all.forEach((name) => found.add(name));
  };
  look(at.path);
  walk(at.path, { Identifier: look, MemberExpression: look });
  if (readsPage(at, scene)) all.forEach((name) => found.add(name));
  return [...found];
}

/** The fields that a class reads of its state at a place: by name, as a whole, or through a method. */
function classReads(path: NodePath, at: Placed, scene: Scene, seen: Set<t.Node>): string[] {
  const { model, site } = scene;
  if (site.component.kind !== 'class') return [];
  const all = fieldsOf(model).map(({ name }) => name);
  if (path.isIdentifier()) {
    const declared = path.scope.getBinding(path.node.name)?.path;
    const id = declared?.isVariableDeclarator() ? declared.node.id : undefined;
    const ofState = t.isObjectPattern(id) && declared?.isVariableDeclarator() && isThisState(declared.node.init);
    return ofState && all.includes(path.node.name) ? [path.node.name] : [];
  }
  if (!path.isMemberExpression() || !t.isIdentifier(path.node.property)) return [];
  const { name } = path.node.property;
  if (isThisState(path.node.object)) return all.includes(name) ? [name] : [];
  if (isThisState(path.node) && !path.parentPath.isMemberExpression()) return all;
  if (!t.isThisExpression(path.node.object) || path.key !== 'callee') return [];
  const method = functionBehind({ path, script: at.script }, scene.trail, scene.given);
  return method ? fieldsRead(method, scene, seen) : [];
}

/** Whether the page is asked for its values right here. */
function readsPage(at: Placed, { model }: Scene): boolean {
  if (model.approach !== 'dom-values') return false;
  return /new FormData\(|\.elements\b|\.current[?!]?\.value/.test(textAt(at));
}

function isHandedToHook(parameter: NodePath): boolean {
  const fn = parameter.isFunction() ? parameter : parameter.findParent((parent) => parent.isFunction());
  const call = fn?.findParent((parent) => parent.isCallExpression() || parent.isStatement());
  if (!call?.isCallExpression() || fn?.findParent((parent) => parent.isCallExpression()) !== call) return false;
  const name = calledMember(call);
  return (
    /^(handleSubmit|onSubmit|submit|submitWith)$/.test(name) ||
    (/^use[A-Z]/.test(name) && !/^use(Callback|\w*Effect|Memo|State|Reducer|Ref)$/.test(name))
  );
}

/** Whether a value is a ref that begins as something, and its present content is asked for. */
function isRefOf(value: NodePath, asked: NodePath): value is NodePath<t.CallExpression> {
  const member = asked.parentPath;
  return (
    value.isCallExpression() &&
    isReactHook(value, 'useRef') &&
    member?.isMemberExpression() === true &&
    asked.key === 'object' &&
    t.isIdentifier(member.node.property, { name: 'current' })
  );
}

function isHookCall(path: NodePath): boolean {
  return path.isCallExpression() && t.isIdentifier(path.node.callee) && /^use[A-Z]/.test(path.node.callee.name);
}
