import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';

/** Whether an expression is `this.state`. */
export function isThisState(node: t.Node | null | undefined): boolean {
  return (
    t.isMemberExpression(node) && t.isThisExpression(node.object) && t.isIdentifier(node.property, { name: 'state' })
  );
}

/** A method of a class by name, or the function that a property of it holds. */
export function methodNamed(body: NodePath<t.ClassBody>, name: string): NodePath | undefined {
  for (const member of body.get('body')) {
    const { node } = member;
    if (!('key' in node) || !t.isIdentifier(node.key, { name })) continue;
    if (member.isClassMethod()) return member;
    const value = member.isClassProperty() ? (member.get('value') as NodePath) : undefined;
    if (value?.isFunction()) return value;
  }
  return undefined;
}
