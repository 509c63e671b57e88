import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';

/** The name of the function or method that is called with a function as an argument; undefined where it is no argument. */
export function calledWith(fn: NodePath): { name: string; isMethod: boolean } | undefined {
  const call = fn.parentPath;
  if (!(call?.isCallExpression() || call?.isOptionalCallExpression()) || fn.listKey !== 'arguments') return undefined;
  const { callee } = call.node;
  if (t.isIdentifier(callee)) return { name: callee.name, isMethod: false };
  const isMember = t.isMemberExpression(callee) || t.isOptionalMemberExpression(callee);
  return isMember && t.isIdentifier(callee.property) ? { name: callee.property.name, isMethod: true } : undefined;
}

/** Whether a method of a list runs a function on its items: what it gives is worked out in place. */
export function isCalledInPlace(fn: NodePath): boolean {
  const called = calledWith(fn);
  return (
    called?.isMethod === true &&
    /^(map|filter|find|findIndex|some|every|reduce|sort|toSorted|flatMap)$/.test(called.name)
  );
}
