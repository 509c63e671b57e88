import * as t from '@babel/types';

/** The metadata object of a class's decorator: `@Component({…})`; an empty object where it is given none. */
export function decoratorNamed(node: t.Class, name: string): t.ObjectExpression | undefined {
  for (const { expression } of node.decorators ?? []) {
    if (!t.isCallExpression(expression) || !t.isIdentifier(expression.callee, { name })) continue;
    const [first] = expression.arguments;
    return t.isObjectExpression(first) ? first : t.objectExpression([]);
  }
  return undefined;
}

/** The value of an object's property. */
export function propertyOf(object: t.ObjectExpression, name: string): t.Node | undefined {
  for (const property of object.properties) {
    if (
      t.isObjectProperty(property) &&
      (t.isIdentifier(property.key, { name }) || t.isStringLiteral(property.key, { value: name }))
    )
      return property.value;
  }
  return undefined;
}

/** The text of a literal; undefined for anything computed. */
export function literalText(node: t.Node | undefined | null): string | undefined {
  if (t.isStringLiteral(node)) return node.value;
  if (t.isTemplateLiteral(node) && !node.expressions.length) return node.quasis[0]?.value.cooked ?? undefined;
  return undefined;
}

/** The decorator call of a member: `@ViewChild('f')`. */
export function memberDecorator(member: t.Node, name: string): t.CallExpression | undefined {
  const decorators = t.isClassProperty(member) || t.isClassMethod(member) ? (member.decorators ?? []) : [];
  for (const { expression } of decorators) {
    if (t.isCallExpression(expression) && t.isIdentifier(expression.callee, { name })) return expression;
  }
  return undefined;
}
