import * as t from '@babel/types';

/** Whether an expression is `this.state`. */
export function isThisState(node: t.Node | null | undefined): boolean {
  return (
    t.isMemberExpression(node) && t.isThisExpression(node.object) && t.isIdentifier(node.property, { name: 'state' })
  );
}
