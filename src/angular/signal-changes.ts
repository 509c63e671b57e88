import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Hole } from '../form/code.js';
import type { SetAllUse } from '../form/uses.js';
import { codeOf } from './class-reading.js';
import type { Reading } from './uses.js';

/**
 * `set` and `update` of a signal that holds all values: the change is the link behind the first `count` ones.
 * @param path the chain's start, where it stands in the class
 * @returns undefined where the change is no plain one
 */
export function signalChange({ chain, where }: Reading, count: number, path?: NodePath): SetAllUse | undefined {
  const change = chain.links[count];
  const [given, ...more] = change?.call?.arguments ?? [];
  if (!change || !given || more.length) return undefined;
  const span = { file: chain.file, start: chain.start, end: change.end };
  if (change.key === 'set') return { kind: 'set-all', merge: false, code: codeOf(chain.file, given), where, span };
  const merged = change.key === 'update' && path ? mergedInto(path, chain.file) : undefined;
  return merged && { kind: 'set-all', merge: true, code: merged, where, span };
}

/** What an update lays over the values before: `update((values) => ({ ...values, town }))`. */
function mergedInto(path: NodePath, file: string): Code | undefined {
  const call = path.findParent(
    (parent) => parent.isCallExpression() && t.isArrowFunctionExpression(parent.node.arguments[0]),
  );
  const fn = call?.isCallExpression() ? call.node.arguments[0] : undefined;
  if (!t.isArrowFunctionExpression(fn) || !t.isObjectExpression(fn.body)) return undefined;
  const [parameter] = fn.params;
  const [first, second] = fn.body.properties;
  if (!t.isIdentifier(parameter) || !t.isSpreadElement(first) || !second) return undefined;
  if (!t.isIdentifier(first.argument, { name: parameter.name })) return undefined;
  const hole: Hole = { kind: 'text', start: first.start ?? 0, end: second.start ?? 0, text: '' };
  const code = { file, start: fn.body.start ?? 0, end: fn.body.end ?? 0, holes: [hole] };
  return asksBefore(fn.body, first, parameter.name) ? undefined : code;
}

/** Whether an object looks at the values before besides spreading them. */
function asksBefore(object: t.ObjectExpression, spread: t.Node, name: string): boolean {
  return object.properties.some((property) => {
    let found = false;
    if (property !== spread)
      t.traverseFast(property, (node) => {
        if (t.isIdentifier(node, { name })) found = true;
      });
    return found;
  });
}

/**
 * What an update makes of the value of a signal, where it joins something to it: `crates.update((count) => count + 10)`.
 * @param path the chain's start
 */
export function joinedValue(
  { chain }: Pick<Reading, 'chain'>,
  path: NodePath | undefined,
): { code: Code; operator: string } | undefined {
  const call = path?.findParent((parent) => parent.isCallExpression());
  const fn = call?.isCallExpression() ? call.node.arguments[0] : undefined;
  const [parameter] = t.isArrowFunctionExpression(fn) ? fn.params : [];
  const body = t.isArrowFunctionExpression(fn) ? fn.body : undefined;
  if (chain.links[1]?.key !== 'update' || !t.isIdentifier(parameter) || !t.isBinaryExpression(body)) return undefined;
  if (!t.isIdentifier(body.left, { name: parameter.name }) || !/^[-+*/%]$/.test(body.operator)) return undefined;
  let asks = false;
  t.traverseFast(body.right, (node) => {
    asks ||= t.isIdentifier(node, { name: parameter.name });
  });
  const { start, end } = body.right;
  return asks ? undefined : { code: codeOf(chain.file, { start: start ?? 0, end: end ?? 0 }), operator: body.operator };
}
