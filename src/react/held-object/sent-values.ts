import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FunctionPath } from '../components.js';
import type { Lens } from '../value-tracing.js';
import { walk } from '../../source/traverse.js';

/** Whether all values leave the component at a reference, rather than go into a change of their own or a mere look. */
export function leavesWhole(reference: NodePath, isChanger: (path: NodePath) => boolean): boolean {
  if (takesRest(reference)) return true;
  const isArgument = reference.listKey === 'arguments';
  if (!isArgument && !reference.parentPath?.isSpreadElement()) return false;
  for (let at: NodePath | null = reference; at && !at.isStatement(); at = at.parentPath) {
    const call: NodePath | null = at.parentPath;
    if (at.listKey !== 'arguments' || !call?.isCallExpression()) continue;
    if (isChanger(call.get('callee') as NodePath)) return false;
    const { callee } = call.node;
    const name = t.isIdentifier(callee) ? callee.name : t.isMemberExpression(callee) ? nameOfMember(callee) : '';
    if (/^(useRef|useState|stringify|keys|values|entries)$/.test(name)) return false;
  }
  return true;
}

function nameOfMember({ property }: t.MemberExpression): string {
  return t.isIdentifier(property) ? property.name : '';
}

/** Whether a pattern takes the rest of a state into one object: `const { error, ...values } = state`. */
export function takesRest(reference: NodePath): boolean {
  const holder = reference.parentPath;
  return (
    holder?.isVariableDeclarator() === true &&
    t.isObjectPattern(holder.node.id) &&
    holder.node.id.properties.some((property) => t.isRestElement(property))
  );
}

/** Whether a value reaches a call of something that the component was given, also through other calls. */
export function isHandedToCall(name: string, component: FunctionPath, lens: Lens): boolean {
  const given = new Set(component.node.params.flatMap((one) => Object.keys(t.getBindingIdentifiers(one))));
  let handed = false;
  const visit = (path: NodePath): void => {
    if (lens.fieldOf(path) !== name) return;
    for (let at: NodePath | null = path; at && !at.isFunction(); at = at.parentPath) {
      const call: NodePath | null = at.parentPath;
      if (at.listKey !== 'arguments' || !call?.isCallExpression()) continue;
      let root: t.Node = call.node.callee;
      while (t.isMemberExpression(root)) root = root.object;
      if (t.isIdentifier(root) && given.has(root.name)) handed = true;
    }
  };
  walk(component, { Identifier: visit, MemberExpression: visit });
  return handed;
}

/** Whether a value leaves the component as an argument of a call or in an object. */
export function sentInComponent(
  name: string,
  component: FunctionPath,
  lens: Lens,
  isChanger: (path: NodePath) => boolean,
): boolean {
  let sent = false;
  const visit = (path: NodePath): void => {
    if (lens.fieldOf(path) !== name || (path.isIdentifier() && !path.isReferencedIdentifier())) return;
    // a change of its own sends nothing
    if (path.findParent((parent) => parent.isCallExpression() && isChanger(parent.get('callee') as NodePath))) return;
    const holder = path.findParent(
      (parent) => parent.isObjectExpression() || parent.isJSXElement() || parent.isIfStatement(),
    );
    const call = path.findParent((parent) => parent.isCallExpression());
    if (holder?.isObjectExpression() || (call && path.listKey === 'arguments')) sent = true;
  };
  walk(component, { Identifier: visit, MemberExpression: visit });
  return sent;
}
