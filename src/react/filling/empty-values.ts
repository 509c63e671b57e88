import * as t from '@babel/types';
import type { LoadScript } from '../../source/project-files.js';
import { expandedType, typeMembers, type TypeInFile } from '../../source/type-members.js';

/** How deep objects inside of objects are looked into. */
const deepest = 4;

/**
 * What a value of a type can begin as where nothing is known of it yet: the empty text, 0, false, an empty list, the
 * first of several texts, an object of such values.
 * @returns its source text, with single quotes; empty where it may be left out, undefined where the type tells no such
 * value
 */
export function emptyValue(type: TypeInFile, load: LoadScript, depth = 0): string | undefined {
  const { node, script } = expandedType(type, load);
  const inside = (inner: t.Node): string | undefined => emptyValue({ node: inner, script }, load, depth + 1);
  if (t.isTSStringKeyword(node)) return "''";
  if (t.isTSNumberKeyword(node)) return '0';
  if (t.isTSBooleanKeyword(node)) return 'false';
  if (t.isTSNullKeyword(node)) return 'null';
  if (t.isTSUndefinedKeyword(node)) return 'undefined';
  if (t.isTSArrayType(node)) return '[]';
  if (t.isTSTypeOperator(node)) return inside(node.typeAnnotation);
  if (t.isTSParenthesizedType(node)) return inside(node.typeAnnotation);
  if (t.isTSLiteralType(node)) {
    const { literal } = node;
    if (t.isStringLiteral(literal)) return `'${literal.value.replace(/['\\]/g, '\\$&')}'`;
    return t.isNumericLiteral(literal) || t.isBooleanLiteral(literal) ? String(literal.value) : undefined;
  }
  if (t.isTSUnionType(node)) {
    const nothing = node.types.find((part) => t.isTSNullKeyword(part) || t.isTSUndefinedKeyword(part));
    const first = nothing ?? node.types[0];
    return first && inside(first);
  }
  if (t.isTSTypeReference(node) && t.isIdentifier(node.typeName) && /^(?:Readonly)?Array$/.test(node.typeName.name))
    return '[]';
  const members = depth < deepest ? [...typeMembers({ node, script }, load)] : [];
  if (!members.length || t.isTSTypeReference(node)) return undefined;
  const parts = members
    .filter(([, { optional }]) => !optional)
    .map(([key, member]) => {
      const text = emptyValue({ node: member.node, script: member.script }, load, depth + 1);
      return text && `${/^[\w$]+$/.test(key) ? key : `'${key}'`}: ${text}`;
    });
  return parts.includes(undefined) ? undefined : `{ ${parts.join(', ')} }`;
}
