import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionAround } from '../components.js';
import { walk } from '../../source/traverse.js';

/** Whether the state is read where a function would still see an older one: after a wait, or in code that runs later. */
export function isStale(path: NodePath, root: NodePath): boolean {
  const own = functionAround(path) ?? path.findParent((parent) => parent.isClassMethod());
  const member = path.findParent(
    (parent) =>
      (parent.isClassMethod() || parent.isClassProperty()) && parent.parentPath?.parentPath?.node === root.node,
  );
  const isRender = member?.isClassMethod() === true && t.isIdentifier(member.node.key, { name: 'render' });
  const outermost =
    member?.isClassMethod() === true ? member.node : member?.isClassProperty() === true ? member.node.value : undefined;
  let stale = false;
  // code inside a callback of a wait runs later than the function around it
  for (
    let at: NodePath | null = own ?? null;
    at && at.node !== outermost && at.node !== root.node;
    at = at.parentPath
  ) {
    if (!at.isFunction() || isRender) continue;
    const call = at.parentPath;
    const name =
      call?.isCallExpression() && at.listKey === 'arguments'
        ? t.isMemberExpression(call.node.callee) && t.isIdentifier(call.node.callee.property)
          ? call.node.callee.property.name
          : t.isIdentifier(call.node.callee)
            ? call.node.callee.name
            : ''
        : undefined;
    if (
      name !== undefined &&
      /^(then|catch|finally|setTimeout|setInterval|requestAnimationFrame|addEventListener|subscribe|queueMicrotask)$/.test(
        name,
      )
    )
      stale = true;
  }
  walk(own, {
    AwaitExpression(wait) {
      if ((wait.node.end ?? 0) <= (path.node.start ?? 0)) stale = true;
    },
  });
  return stale;
}
