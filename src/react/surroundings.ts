import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { DependUse, Surrounding } from '../form/uses.js';
import { spanOf } from './code.js';
import { functionAround, type FunctionPath } from './components.js';
import { walk } from '../source/traverse.js';

function calleeName(call: NodePath<t.CallExpression>): string {
  const { callee } = call.node;
  if (t.isIdentifier(callee)) return callee.name;
  return t.isMemberExpression(callee) && t.isIdentifier(callee.property) ? callee.property.name : '';
}

/** The hook call a function is handed to as its first argument: `useEffect(() => …)`. */
function hookAround(fn: FunctionPath): NodePath<t.CallExpression> | undefined {
  const call = fn.parentPath;
  return call.isCallExpression() && fn.listKey === 'arguments' && fn.key === 0 && /^use[A-Z]/.test(calleeName(call))
    ? call
    : undefined;
}

function isEffect(call: NodePath<t.CallExpression> | undefined): boolean {
  return call !== undefined && /^use\w*Effect$/.test(calleeName(call)) && calleeName(call) !== 'useEffectEvent';
}

/**
 * Says in which surrounding of a component a path stands.
 * @param submits the functions that handle the submit
 */
export function surroundingOf(path: NodePath, component: FunctionPath, submits: readonly FunctionPath[]): Surrounding {
  let around = functionAround(path);
  let nested = false;
  while (around && around.node !== component.node) {
    const current = around;
    if (submits.some((submit) => submit.node === current.node)) return nested ? 'callback' : 'submit';
    const hook = hookAround(current);
    if (hook && isEffect(hook)) return nested ? 'callback' : 'effect';
    if (current.parentPath.isCallExpression() && !hook) nested = true;
    const outer = functionAround(current);
    if (!outer || outer.node === component.node) {
      return current.parentPath.isCallExpression() && !hook ? 'render' : nested ? 'callback' : 'event';
    }
    around = outer;
  }
  return around ? 'render' : 'module';
}

/** Whether something before `path` in its function waits or changes state, so that values read there may be old. */
function comesAfter(fn: FunctionPath, path: NodePath, isChange: (call: t.CallExpression) => boolean): boolean {
  const here = path.node.start ?? 0;
  let found = false;
  walk(fn, {
    AwaitExpression(inner) {
      if ((inner.node.start ?? 0) < here) found = true;
    },
    CallExpression(inner) {
      if ((inner.node.start ?? 0) < here && inner.node !== path.node && isChange(inner.node)) found = true;
    },
  });
  return found;
}

/**
 * Whether the values that a handler reads are the latest when it makes a change: it runs as an event of the page,
 * and neither waited nor changed anything before.
 * @param isChange tells calls that change the form's state
 */
export function readsLatest(
  path: NodePath,
  component: FunctionPath,
  isChange: (call: t.CallExpression) => boolean,
): boolean {
  const fn = functionAround(path);
  if (!fn || fn.node === component.node || fn.node.async) return false;
  if (functionAround(fn)?.node !== component.node)
    return fn.parentPath.isJSXExpressionContainer() && !comesAfter(fn, path, isChange);
  if (hookAround(fn) || (fn.parentPath.isCallExpression() && fn.listKey === 'arguments')) return false;
  return !comesAfter(fn, path, isChange);
}

/**
 * Whether a change could come again and again if setting an equal value rendered once more: it is made while
 * rendering, or in an effect that runs after every render.
 * @param settled tells names whose values stay the same from render to render
 */
export function mayRepeat(path: NodePath, component: FunctionPath, settled: (name: string) => boolean): boolean {
  const fn = functionAround(path);
  if (!fn || fn.node === component.node) return true;
  const hook = hookAround(fn);
  if (!hook || !isEffect(hook)) return false;
  const list = hook.node.arguments[1];
  if (!t.isArrayExpression(list)) return true;
  return list.elements.some((element) => {
    let root: t.Node | null | undefined = element;
    while (t.isMemberExpression(root) || t.isOptionalMemberExpression(root)) root = root.object;
    return !t.isIdentifier(root) || !settled(root.name);
  });
}

/** The dependency list a path is an entry of, if it is one. */
export function dependencyListAround(path: NodePath): NodePath<t.ArrayExpression> | undefined {
  const list = path.parentPath;
  const call = list?.parentPath;
  if (!list?.isArrayExpression() || !call?.isCallExpression() || list.listKey !== 'arguments') return undefined;
  return list.key !== 0 && /^use[A-Z]/.test(calleeName(call)) ? list : undefined;
}

/**
 * Whether a list of dependencies only says when a value is worked out anew (`useMemo`), and nothing follows that value: no
 * other hook lists it, and no component is handed it. How often it is worked out then makes no difference.
 */
export function isUnfollowedMemo(list: NodePath<t.ArrayExpression>): boolean {
  const call = list.parentPath;
  const declarator = call.parentPath;
  const id = declarator?.isVariableDeclarator() ? (declarator.get('id') as NodePath) : undefined;
  if (!call.isCallExpression() || calleeName(call).replace(/^\w+\./, '') !== 'useMemo') return false;
  if (!id?.isIdentifier()) return false;
  const places = id.scope.getBinding(id.node.name)?.referencePaths ?? [];
  return places.every((one) => {
    const attribute = one.parentPath?.isJSXExpressionContainer() ? one.parentPath.parentPath : undefined;
    const tag = attribute?.isJSXAttribute() ? attribute.parent : undefined;
    const isHanded = t.isJSXOpeningElement(tag) && !(t.isJSXIdentifier(tag.name) && /^[a-z]/.test(tag.name.name));
    return !isHanded && dependencyListAround(one) === undefined;
  });
}

/** A setter or dispatch function where it stands in a list of dependencies. */
export function dependencyAt(path: NodePath, file: string, where: Surrounding): DependUse | undefined {
  const list = dependencyListAround(path);
  if (!list) return undefined;
  const [first] = (list.parentPath as NodePath<t.CallExpression>).get('arguments');
  const of = first?.isFunction() ? first : list;
  return { kind: 'depend', list: spanOf(file, list), of: spanOf(file, of), where, span: spanOf(file, path) };
}

/** The name by which the author calls the function that a path stands in, below the component. */
export function handlerNameAround(path: NodePath, component: FunctionPath): string | undefined {
  for (let fn = functionAround(path); fn && fn.node !== component.node; fn = functionAround(fn)) {
    if (fn.isFunctionDeclaration() && fn.node.id) return fn.node.id.name;
    let holder: NodePath | null = fn.parentPath;
    if (holder.isCallExpression()) holder = holder.parentPath;
    if (holder?.isVariableDeclarator() && t.isIdentifier(holder.node.id)) return holder.node.id.name;
  }
  return undefined;
}
