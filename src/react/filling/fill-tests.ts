import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';

/** Tells whether a node is the name of an object that is null until it is filled. */
export type IsHeld = (node: t.Node | null | undefined) => boolean;

function isNothing(node: t.Node): boolean {
  return t.isNullLiteral(node) || t.isIdentifier(node, { name: 'undefined' });
}

/** What a comparison with null says of the object: that it is filled, or that it is not. */
export function comparedWithNull(node: t.Node, isHeld: IsHeld): 'filled' | 'empty' | undefined {
  if (!t.isBinaryExpression(node) || !/^[!=]==?$/.test(node.operator)) return undefined;
  const compares =
    (isHeld(node.left) && isNothing(node.right)) ||
    (isHeld(node.right) && !t.isPrivateName(node.left) && isNothing(node.left));
  if (!compares) return undefined;
  return node.operator.startsWith('!') ? 'filled' : 'empty';
}

/** Whether a condition that holds tells that the object is filled. */
function saysFilled(node: t.Node, isHeld: IsHeld): boolean {
  if (isHeld(node) || comparedWithNull(node, isHeld) === 'filled') return true;
  if (t.isUnaryExpression(node, { operator: '!' })) return saysEmpty(node.argument, isHeld);
  if (t.isLogicalExpression(node, { operator: '&&' }))
    return saysFilled(node.left, isHeld) || saysFilled(node.right, isHeld);
  return t.isParenthesizedExpression(node) && saysFilled(node.expression, isHeld);
}

/** Whether a condition holds at least wherever the object is not filled. */
function saysEmpty(node: t.Node, isHeld: IsHeld): boolean {
  if (comparedWithNull(node, isHeld) === 'empty') return true;
  if (t.isUnaryExpression(node, { operator: '!' })) return saysFilled(node.argument, isHeld);
  if (t.isLogicalExpression(node, { operator: '||' }))
    return saysEmpty(node.left, isHeld) || saysEmpty(node.right, isHeld);
  return t.isParenthesizedExpression(node) && saysEmpty(node.expression, isHeld);
}

function endsEarly(statement: t.Statement): boolean {
  const last = t.isBlockStatement(statement) ? statement.body.at(-1) : statement;
  return t.isReturnStatement(last) || t.isThrowStatement(last);
}

/** Whether a place is reached only once the object is filled. */
export function isGuarded(path: NodePath, isHeld: IsHeld, depth = 0): boolean {
  for (let at: NodePath = path; at.parentPath; at = at.parentPath) {
    const parent: NodePath = at.parentPath;
    if (parent.isLogicalExpression() && at.key === 'right') {
      if (parent.node.operator === '&&' && saysFilled(parent.node.left, isHeld)) return true;
      if (parent.node.operator === '||' && saysEmpty(parent.node.left, isHeld)) return true;
    }
    if (parent.isConditionalExpression() || parent.isIfStatement()) {
      if (at.key === 'consequent' && saysFilled(parent.node.test, isHeld)) return true;
      if (at.key === 'alternate' && saysEmpty(parent.node.test, isHeld)) return true;
    }
    if (parent.isBlockStatement() && typeof at.key === 'number') {
      const before = parent.node.body.slice(0, at.key);
      const left = before.some(
        (one) => t.isIfStatement(one) && !one.alternate && endsEarly(one.consequent) && saysEmpty(one.test, isHeld),
      );
      if (left) return true;
    }
    if (at.isFunction() && depth < 3 && onlyGuardedUses(at, isHeld, depth)) return true;
  }
  return false;
}

/** Whether a function is spoken of only where the object is filled. */
function onlyGuardedUses(fn: NodePath<t.Function>, isHeld: IsHeld, depth: number): boolean {
  const declarator = fn.parentPath;
  const id = fn.isFunctionDeclaration()
    ? fn.node.id
    : declarator?.isVariableDeclarator()
      ? declarator.node.id
      : undefined;
  if (!t.isIdentifier(id)) return false;
  const binding = (declarator?.isVariableDeclarator() ? declarator : fn.parentPath)?.scope.getBinding(id.name);
  const references = binding?.referencePaths ?? [];
  return references.length > 0 && references.every((reference) => isGuarded(reference, isHeld, depth + 1));
}
