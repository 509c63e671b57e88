import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf } from '../jsx-controls.js';
import { otherwise } from '../package-leaving/conditions.js';
import { depthOf, referencesTo, says, takeAttribute, textIn, type Leaving } from '../package-leaving/leaving.js';
import { isTested } from '../package-leaving/ties.js';
import type { FieldWords } from './drawn.js';

const oneMessage = 'a field has one message at most';

/** What is asked of a field’s messages: whether there are some, the first, all of them, each drawn. */
export function sayErrors(words: FieldWords, path: NodePath, member: string): boolean {
  const { leaving } = words;
  const texts = words.errors(path) ?? [];
  if (!texts.length) return false;
  const [first = ''] = texts;
  const some = texts.length > 1 ? texts.join(' || ') : first;
  const inside = texts.length > 1 ? `(${some})` : some;
  if (member === 'state.meta.isValid') {
    const not = path.parentPath?.isUnaryExpression({ operator: '!' }) ? path.parentPath : undefined;
    if (not) says(leaving, not, isTested(not) ? inside : texts.map((one) => `${one} !== undefined`).join(' || '));
    else says(leaving, path, texts.map((one) => `${one} === undefined`).join(' && '));
    return true;
  }
  const parent = path.parentPath;
  if (!parent?.isMemberExpression() || path.key !== 'object') return false;
  const { property, computed } = parent.node;
  if (computed) {
    if (!t.isNumericLiteral(property, { value: 0 })) return false;
    otherwise(leaving, [property.start, property.end], parent.node, oneMessage);
    says(leaving, parent, texts.length > 1 ? `(${texts.join(' ?? ')})` : first);
    return true;
  }
  const key = t.isIdentifier(property) ? property.name : '';
  const around = parent.parentPath;
  if (key === 'length') {
    const counted =
      around.isBinaryExpression() &&
      /^>$|^!==?$/.test(around.node.operator) &&
      t.isNumericLiteral(around.node.right, { value: 0 });
    const whole = counted ? around : parent;
    if (!isTested(whole)) return false;
    if (counted) otherwise(leaving, [around.node.left.end, around.node.end], around.node, oneMessage);
    says(leaving, whole, inside);
    return true;
  }
  if (!around.isCallExpression() || parent.key !== 'callee') return false;
  if (key === 'join') {
    const [between] = around.get('arguments') as NodePath[];
    if (texts.length === 1 && between)
      otherwise(leaving, [between.node.start, between.node.end], around.node, oneMessage);
    if (texts.length === 1) says(leaving, around, first);
    else
      says(leaving, around, `[${texts.join(', ')}].filter(Boolean).join(${between ? textIn(leaving, between) : ''})`);
    return true;
  }
  return key === 'map' && texts.length === 1 && sayEach(leaving, around, first);
}

/** `errors.map((error) => <em key={error}>{error}</em>)`: the one message, where there is one. */
function sayEach(leaving: Leaving, call: NodePath<t.CallExpression>, error: string): boolean {
  const [fn] = call.get('arguments') as NodePath[];
  const [parameter, ...more] = fn?.isArrowFunctionExpression() ? (fn.get('params') as NodePath[]) : [];
  const body = fn?.isArrowFunctionExpression() ? (fn.get('body') as NodePath) : undefined;
  if (!parameter || more.length || !body?.isJSXElement()) return false;
  const key = attributesOf(body).find(({ name }) => name === 'key');
  if (key) takeAttribute(leaving, key.path);
  if (!parameter.isIdentifier()) return false;
  for (const reference of referencesTo(leaving, parameter)) {
    const isKey =
      key &&
      (reference.node.start ?? 0) >= (key.path.node.start ?? 0) &&
      (reference.node.end ?? 0) <= (key.path.node.end ?? 0);
    if (!isKey) says(leaving, reference, error);
  }
  says(leaving, call, () => {
    const text = textIn(leaving, body);
    return text.includes('\n')
      ? `${error} && (\n${depthOf(leaving, body)}${text}\n${depthOf(leaving, call)})`
      : `${error} && ${text}`;
  });
  return true;
}
