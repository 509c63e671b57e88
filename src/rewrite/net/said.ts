import * as t from '@babel/types';

/** An expression in words that do not depend on where values stand: of a chain of members the last one counts. */
export function said(node: t.Node | null | undefined, bare: boolean): string {
  if (!node) return '';
  if (t.isStringLiteral(node) || t.isNumericLiteral(node) || t.isBooleanLiteral(node))
    return bare ? '?' : JSON.stringify(node.value);
  if (t.isNullLiteral(node)) return bare ? '?' : 'null';
  if (t.isIdentifier(node)) return node.name;
  if (t.isMemberExpression(node) || t.isOptionalMemberExpression(node))
    return node.computed ? `[${said(node.property, bare)}]` : memberSaid(node, bare);
  const asked = t.isCallExpression(node) ? askedByName(node) : undefined;
  if (asked !== undefined) return asked;
  if (t.isCallExpression(node) || t.isOptionalCallExpression(node))
    return `${said(node.callee, bare)}(${node.arguments.map((one) => said(one, bare)).join()})`;
  if (t.isBinaryExpression(node) || t.isLogicalExpression(node))
    return `${said(node.left, bare)}${bare ? '#' : node.operator}${said(node.right, bare)}`;
  if (t.isConditionalExpression(node))
    return `(${said(node.test, bare)}:${said(node.consequent, bare)}:${said(node.alternate, bare)})`;
  if (t.isUnaryExpression(node)) return node.operator + said(node.argument, bare);
  if (t.isTSNonNullExpression(node) || t.isTSAsExpression(node) || t.isParenthesizedExpression(node))
    return said(node.expression, bare);
  return `${node.type}@`;
}

/** The field that a package is asked for by its name: `getValues('town')`. */
function askedByName({ callee, arguments: [name, ...more] }: t.CallExpression): string | undefined {
  const called = t.isMemberExpression(callee) ? callee.property : callee;
  if (!t.isIdentifier(called) || !/^(?:getValues|watch|getFieldValue)$/.test(called.name)) return undefined;
  return t.isStringLiteral(name) && !more.length ? name.value : undefined;
}

/** The last name of a chain of members; the one before it as well where the last says little. */
function memberSaid({ object, property }: t.MemberExpression | t.OptionalMemberExpression, bare: boolean): string {
  const last = said(property, bare);
  return /^(value|length|current|checked|target|trim|name)$/.test(last) ? `${said(object, bare)}.${last}` : last;
}
