import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionOf, type FunctionPath } from './components.js';
import { walk } from '../source/traverse.js';

/** How an approach's reader recognises its own values and changes in expressions. */
export interface Lens {
  /** The field that a reference reads by itself: `town`, `values.town`. */
  fieldOf(path: NodePath): string | undefined;
  /** The fields that a reference changes by itself: `setTown`, a call of `dispatch`. */
  changesOf(path: NodePath): string[];
  /** Whether a reference changes values at all, also where it is not told which. */
  changesAny?(path: NodePath): boolean;
  /** The field that attributes which a hook gives are for: `{...register('town')}`. */
  registered?(attributes: NodePath): string | undefined;
  /** The field that an object of values gives by a key: `values['town']`. */
  fieldByKey?(object: NodePath, key: string): string | undefined;
}

/** The `.map(…)` call whose callback declares a parameter, by the object it runs over. */
function mappedOver(owner: NodePath): NodePath | undefined {
  const call = owner.parentPath;
  if (!call?.isCallExpression() || owner.key !== 0) return undefined;
  const callee = call.get('callee');
  if (!callee.isMemberExpression() || !t.isIdentifier(callee.node.property)) return undefined;
  return /^(map|flatMap|forEach)$/.test(callee.node.property.name) ? callee.get('object') : undefined;
}

/**
 * The field an expression shows, followed through constants, rows of a list and wrapping calls.
 * @returns the field's path, with `[]` for rows, or undefined
 */
export function shownField(path: NodePath, lens: Lens, depth = 0): string | undefined {
  if (depth > 8 || path.isFunction()) return undefined;
  const own = lens.fieldOf(path);
  if (own !== undefined) return own;
  if (path.isIdentifier()) {
    const binding = path.scope.getBinding(path.node.name);
    if (!binding) return undefined;
    if (binding.kind === 'param') {
      const list = mappedOver(binding.scope.path);
      const base = list ? shownField(list, lens, depth + 1) : undefined;
      const first = binding.scope.path.isFunction() ? binding.scope.path.node.params[0] : undefined;
      if (base === undefined || !first) return undefined;
      if (t.isIdentifier(first, { name: path.node.name })) return `${base}[]`;
      return t.isObjectPattern(first) && path.node.name in t.getBindingIdentifiers(first)
        ? `${base}[].${path.node.name}`
        : undefined;
    }
    const init =
      binding.path.isVariableDeclarator() && t.isIdentifier(binding.path.node.id)
        ? (binding.path.get('init') as NodePath)
        : undefined;
    return init?.node && !init.isCallExpression() ? shownField(init, lens, depth + 1) : undefined;
  }
  if (path.isMemberExpression() || path.isOptionalMemberExpression()) {
    const base = shownField(path.get('object') as NodePath, lens, depth + 1);
    if (base === undefined) return undefined;
    if (path.node.computed) return `${base}[]`;
    const member = t.isIdentifier(path.node.property) ? path.node.property.name : '';
    return /^(length|current|toString|toISOString|slice|trim)$/.test(member) ? base : `${base}.${member}`;
  }
  if (path.isCallExpression()) {
    for (const part of [path.get('callee') as NodePath, ...(path.get('arguments') as NodePath[])]) {
      const inner =
        part.isMemberExpression() && part.key === 'callee'
          ? shownField(part.get('object'), lens, depth + 1)
          : part.isIdentifier() && part.key === 'callee'
            ? undefined
            : shownField(part, lens, depth + 1);
      if (inner !== undefined) return inner;
    }
    return undefined;
  }
  for (const child of childrenOf(path)) {
    const inner = shownField(child, lens, depth + 1);
    if (inner !== undefined) return inner;
  }
  return undefined;
}

function childrenOf(path: NodePath): NodePath[] {
  const keys = t.VISITOR_KEYS[path.node.type] ?? [];
  return keys.flatMap((key): NodePath[] => [path.get(key)].flat()).filter((child) => Boolean(child.node));
}

/** The first part of a field's path: the value that the approach holds it in. */
export function holderOf(field: string): string {
  return /^[^.[]+/.exec(field)?.[0] ?? field;
}

/**
 * The fields that an expression changes when it is called, followed through the component's own functions.
 * @param path a function, or an expression that gives one
 */
export function changedFields(path: NodePath, lens: Lens, seen = new Set<t.Node>()): string[] {
  const own = lens.changesOf(path);
  if (own.length) return own;
  const fn = functionOf(path);
  if (!fn || seen.has(fn.node)) return [];
  seen.add(fn.node);
  const found: string[] = [];
  const visit = (inner: NodePath): void => {
    if (!inner.isReferencedIdentifier()) return;
    const changes = lens.changesOf(inner);
    found.push(...changes);
    if (!changes.length && inner.isIdentifier()) {
      const called = inner.parentPath.isCallExpression() || inner.listKey === 'arguments';
      if (called && functionOf(inner)) found.push(...changedFields(inner, lens, seen));
    }
  };
  walk(fn, { Identifier: visit });
  return [...new Set(found)];
}

/** The functions of a component that run when one of them runs, itself included. */
export function functionsCalledBy(fn: FunctionPath, within: NodePath, seen: FunctionPath[] = []): FunctionPath[] {
  if (seen.some((known) => known.node === fn.node)) return seen;
  seen.push(fn);
  walk(fn, {
    CallExpression(call) {
      const callee = call.get('callee');
      const targets = [callee, ...call.get('arguments')].filter((part) => part.isIdentifier());
      for (const target of targets) {
        const inner = functionOf(target as NodePath);
        if (inner && inner.findParent((parent) => parent.node === within.node)) functionsCalledBy(inner, within, seen);
      }
    },
  });
  return seen;
}
