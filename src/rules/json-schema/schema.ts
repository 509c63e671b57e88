import { parseExpression } from '@babel/parser';
import * as t from '@babel/types';

/** A JSON value. */
export type Json = string | number | boolean | null | Json[] | { [key: string]: Json };

/** A JSON Schema that is an object. */
export type Schema = Record<string, Json>;

/** Whether a JSON value is a schema that is an object. */
export function isSchema(value: Json | undefined): value is Schema {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** The dialect that is written and read. */
export const dialect = 'https://json-schema.org/draft/2020-12/schema';

/** The JSON value of a piece of source text; undefined where it is none: a name, a call, a date. */
export function jsonOf(source: string): Json | undefined {
  const text = source.trim();
  if (!/^[-+"'`[{\dtfn]/.test(text)) return undefined;
  try {
    return valueOfNode(parseExpression(text, { plugins: ['typescript'] }));
  } catch {
    return undefined;
  }
}

function valueOfNode(node: t.Node | null): Json | undefined {
  if (t.isStringLiteral(node) || t.isNumericLiteral(node) || t.isBooleanLiteral(node)) return node.value;
  if (t.isNullLiteral(node)) return null;
  if (t.isTSAsExpression(node) || t.isTSSatisfiesExpression(node)) return valueOfNode(node.expression);
  if (t.isTemplateLiteral(node))
    return node.expressions.length ? undefined : (node.quasis[0]?.value.cooked ?? undefined);
  if (t.isUnaryExpression(node) && /^[-+]$/.test(node.operator)) {
    const inner = valueOfNode(node.argument);
    return typeof inner === 'number' ? (node.operator === '-' ? -inner : inner) : undefined;
  }
  if (t.isArrayExpression(node)) {
    const values = node.elements.map(valueOfNode);
    const known = values.filter((value) => value !== undefined);
    return known.length === values.length ? known : undefined;
  }
  if (!t.isObjectExpression(node)) return undefined;
  const entries: [string, Json][] = [];
  for (const property of node.properties) {
    if (!t.isObjectProperty(property) || property.computed) return undefined;
    const { key } = property;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    const value = valueOfNode(property.value);
    if (name === undefined || value === undefined) return undefined;
    entries.push([name, value]);
  }
  return Object.fromEntries(entries);
}
