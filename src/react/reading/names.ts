import { sentThrough } from '../calls/sending.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, behindName, memberNamed, returnedValue, type Placed } from '../../source/behind-names.js';
import type { LoadScript } from '../../source/project-files.js';
import { functionOf, returnedFunction, type FunctionPath } from '../components.js';
import { methodNamed } from '../this-state.js';
import { walk } from '../../source/traverse.js';

/** A hook of the project that a component calls, with what it gives. */
export interface CalledHook {
  call: NodePath<t.CallExpression>;
  fn: Placed;
  /** The object or list that it returns; undefined where it gives something else. */
  gives: Placed | undefined;
}

/** How names of a component are followed to what stands behind them, through hooks of the project. */
export interface NameTrail {
  hooks: readonly CalledHook[];
  load: LoadScript;
}

/** The hooks of the project that a function calls, and those that these call. */
export function calledHooks(component: Placed, load: LoadScript, depth = 0): CalledHook[] {
  const found: CalledHook[] = [];
  walk(component.path, {
    CallExpression(call) {
      const { callee } = call.node;
      if (!t.isIdentifier(callee) || !/^use[A-Z]/.test(callee.name)) return;
      const fn = behindName({ path: call.get('callee') as NodePath, script: component.script }, load);
      if (!fn.path.isFunction() || depth > 2) return;
      found.push({ call, fn, gives: returnedBy(fn) });
      found.push(...calledHooks(fn, load, depth + 1));
    },
  });
  return found;
}

function returnedBy({ path, script }: Placed): Placed | undefined {
  const given = returnedValue(path);
  if (!given?.isIdentifier()) return given && { path: given, script };
  const declared = given.scope.getBinding(given.node.name)?.path;
  const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  const made = init?.node ? memoised(init) : undefined;
  const object = made?.isBlockStatement() ? returnedValue(made) : made;
  return object?.isObjectExpression() ? { path: object, script } : undefined;
}

/** What `useMemo` works out: an expression, or a block of statements; the expression itself otherwise. */
export function memoised(path: NodePath): NodePath {
  const plain = bare(path);
  if (!plain.isCallExpression() || !t.isIdentifier(plain.node.callee, { name: 'useMemo' })) return plain;
  const fn = plain.get('arguments')[0] as NodePath | undefined;
  if (!fn?.isFunction()) return plain;
  const body = fn.get('body') as NodePath;
  return body.isBlockStatement() ? body : bare(body);
}

/** What a hook gives under a name or at a place of its list. */
function givenBy(hook: CalledHook, key: string | number): Placed | undefined {
  const { gives } = hook;
  if (!gives) return undefined;
  if (typeof key === 'number') {
    const list = gives.path.isArrayExpression() ? gives.path.get('elements')[key] : undefined;
    return list?.node ? { path: bare(list as NodePath), script: gives.script } : undefined;
  }
  const member = memberNamed(gives.path, key);
  return member ? { path: bare(member), script: gives.script } : undefined;
}

function hookOf(path: NodePath, { hooks }: NameTrail): CalledHook | undefined {
  const plain = bare(path);
  if (plain.isCallExpression()) return hooks.find(({ call }) => call.node === plain.node);
  if (!plain.isIdentifier()) return undefined;
  const declared = plain.scope.getBinding(plain.node.name)?.path;
  if (!declared?.isVariableDeclarator() || !t.isIdentifier(declared.node.id)) return undefined;
  const init = declared.get('init') as NodePath;
  return init.node ? hooks.find(({ call }) => call.node === bare(init).node) : undefined;
}

/** The key, or the place, at which a pattern takes a name. */
function takenAt(pattern: t.Node, name: string): string | number | undefined {
  if (t.isArrayPattern(pattern)) {
    const index = pattern.elements.findIndex((one) => t.isIdentifier(one, { name }));
    return index < 0 ? undefined : index;
  }
  if (!t.isObjectPattern(pattern)) return undefined;
  for (const one of pattern.properties) {
    if (!t.isObjectProperty(one) || !t.isIdentifier(one.key)) continue;
    const target = t.isAssignmentPattern(one.value) ? one.value.left : one.value;
    if (t.isIdentifier(target, { name })) return one.key.name;
  }
  return undefined;
}

/**
 * What a name or a member of a component stands for, where a hook of the project gives it: the expression in the
 * hook's own return; the path itself otherwise.
 */
export function through(at: Placed, trail: NameTrail, depth = 0): Placed {
  const path = bare(at.path);
  const here = { path, script: at.script };
  if (depth > 4) return here;
  let given: Placed | undefined;
  if (path.isIdentifier()) {
    const declared = path.scope.getBinding(path.node.name)?.path;
    if (declared?.isVariableDeclarator()) {
      const init = declared.get('init') as NodePath;
      const hook = init.node ? hookOf(init, trail) : undefined;
      const key = hook ? takenAt(declared.node.id, path.node.name) : undefined;
      if (hook && key !== undefined) given = givenBy(hook, key);
    }
  } else if (path.isMemberExpression() && !path.node.computed && t.isIdentifier(path.node.property)) {
    const hook = hookOf(path.get('object'), trail);
    if (hook) given = givenBy(hook, path.node.property.name);
  }
  return given && given.path.node !== path.node ? through(given, trail, depth + 1) : here;
}

/** What parameters stand for in the calls that a flow went through. */
export type Given = Map<unknown, Placed>;

/** Remembers what a call hands to a function's parameters; what stands for them where nothing is handed over. */
export function remember(given: Given, fn: Placed, call: NodePath<t.CallExpression>, script: Placed['script']): void {
  const { path } = fn;
  if (!path.isFunction()) return;
  const handed = call.get('arguments') as NodePath[];
  const keep = (target: NodePath, value: Placed | undefined): void => {
    const known = target.isAssignmentPattern()
      ? (value ?? { path: target.get('right') as NodePath, script: fn.script })
      : value;
    const name = target.isAssignmentPattern() ? (target.get('left') as NodePath) : target;
    if (name.isIdentifier() && known) given.set(path.scope.getBinding(name.node.name), known);
    if (!name.isObjectPattern()) return;
    const object = known && bare(known.path);
    for (const property of name.get('properties')) {
      if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) continue;
      const member = object && memberNamed(object, property.node.key.name);
      keep(property.get('value') as NodePath, member && known && { path: member, script: known.script });
    }
  };
  for (const [index, parameter] of (path.get('params') as NodePath[]).entries()) {
    const argument = handed[index];
    keep(parameter, argument && { path: argument, script });
  }
}

/** The function that an expression gives, through hooks, parameters and makers. */
export function functionBehind(at: Placed, trail: NameTrail, given: Given, depth = 0): Placed | undefined {
  if (depth > 6) return undefined;
  const target = through(at, trail);
  const { path, script } = target;
  if (path.isFunction()) return target;
  const sent = sentThrough(path);
  if (sent) return functionBehind({ path: sent, script }, trail, given, depth + 1);
  if (path.isIdentifier()) {
    const known = given.get(path.scope.getBinding(path.node.name));
    if (known) return functionBehind(known, trail, given, depth + 1);
    const behind = behindName(target, trail.load);
    if (behind.path.isFunction() || behind.path.node === path.node)
      return behind.path.isFunction() ? behind : localFunction(path, script);
    return functionBehind(behind, trail, given, depth + 1);
  }
  if (path.isMemberExpression() && t.isIdentifier(path.node.property)) {
    if (t.isThisExpression(path.node.object)) return methodOf(path, path.node.property.name, script);
    const object = path.get('object');
    const options = object.isIdentifier() ? given.get(object.scope.getBinding(object.node.name)) : undefined;
    const member = options ? memberNamed(bare(options.path), path.node.property.name) : undefined;
    return options && member
      ? functionBehind({ path: member, script: options.script }, trail, given, depth + 1)
      : undefined;
  }
  if (path.isCallExpression()) {
    const callee = path.get('callee') as NodePath;
    const wraps = /^(useCallback|useEvent|useEffectEvent|memo|debounce|throttle|bind)$/;
    const name = callee.isIdentifier()
      ? callee.node.name
      : callee.isMemberExpression() && t.isIdentifier(callee.node.property)
        ? callee.node.property.name
        : '';
    const [first] = path.get('arguments') as (NodePath | undefined)[];
    if (wraps.test(name)) {
      const inner = name === 'bind' && callee.isMemberExpression() ? callee.get('object') : first;
      return inner ? functionBehind({ path: inner as NodePath, script }, trail, given, depth + 1) : undefined;
    }
    const maker = functionBehind({ path: callee, script }, trail, given, depth + 1);
    if (!maker) return undefined;
    remember(given, maker, path, script);
    const made = returnedFunction(maker.path as FunctionPath);
    return made ? { path: made, script: maker.script } : undefined;
  }
  return undefined;
}

function localFunction(path: NodePath, script: Placed['script']): Placed | undefined {
  const fn = functionOf(path);
  return fn ? { path: fn, script } : undefined;
}

function methodOf(path: NodePath, name: string, script: Placed['script']): Placed | undefined {
  const body = path.findParent((parent) => parent.isClassBody());
  const method = body?.isClassBody() ? methodNamed(body, name) : undefined;
  return method && { path: method, script };
}
