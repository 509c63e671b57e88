import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { said } from './said.js';

/**
 * Comparisons that may be said the other way round: a package is told when a value is right (`town !== '' || 'Which?'`),
 * code asks when it is wrong; and the values of radios, which code compares.
 */
export function turnedRound(script: Script): string[] {
  const found: string[] = [];
  const turn = (node: t.Node): void => {
    if (t.isLogicalExpression(node)) {
      turn(node.left);
      turn(node.right);
    } else if (t.isBinaryExpression(node) && /^[!=]==$/.test(node.operator))
      found.push(said({ ...node, operator: node.operator === '===' ? '!==' : '===' }, false));
  };
  const isText = (node: t.Node): boolean => t.isStringLiteral(node) || t.isTemplateLiteral(node);
  t.traverseFast(script.ast, (node) => {
    if (t.isLogicalExpression(node, { operator: '||' }) && isText(node.right)) turn(node.left);
    if (t.isConditionalExpression(node) && (isText(node.alternate) || t.isJSXElement(node.alternate))) turn(node.test);
    if (t.isCallExpression(node)) found.push(...limitsOf(node));
    const radio = t.isJSXOpeningElement(node) ? radioOf(node) : undefined;
    if (radio) found.push(`${radio.field}===${JSON.stringify(radio.value)}`);
  });
  return found;
}

/** The limits that a package is told for a field, as comparisons: `register('crates', { min: { value: 1, … } })`. */
function limitsOf({ arguments: [name, rules] }: t.CallExpression): string[] {
  if (!t.isStringLiteral(name) || !t.isObjectExpression(rules)) return [];
  const field = name.value;
  return rules.properties.flatMap((rule): string[] => {
    const key = t.isObjectProperty(rule) && t.isIdentifier(rule.key) ? rule.key.name : '';
    const inner = t.isObjectProperty(rule) && t.isObjectExpression(rule.value) ? rule.value.properties : [];
    const limit = inner.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: 'value' }));
    const value = t.isObjectProperty(limit) ? said(limit.value, false) : '';
    const sign = /^max/.test(key) ? '>' : '<';
    if (/^(?:min|max)$/.test(key)) return [`${field}${sign}${value}`, `Number(${field})${sign}${value}`];
    return /^(?:min|max)Length$/.test(key) ? [`${field}.length${sign}${value}`] : [];
  });
}

/** The field and the value of a radio that a package registers: `<input type="radio" value="mail" {...register('reach')} />`. */
function radioOf({ attributes }: t.JSXOpeningElement): { field: string; value: string } | undefined {
  const plain = (name: string): string | undefined => {
    const found = attributes.find((one) => t.isJSXAttribute(one) && t.isJSXIdentifier(one.name, { name }));
    return t.isJSXAttribute(found) && t.isStringLiteral(found.value) ? found.value.value : undefined;
  };
  const spread = attributes.find((one) => t.isJSXSpreadAttribute(one));
  const call = t.isJSXSpreadAttribute(spread) && t.isCallExpression(spread.argument) ? spread.argument : undefined;
  const [given] = call?.arguments ?? [];
  const field = plain('name') ?? (t.isStringLiteral(given) ? given.value : undefined);
  const value = plain('value');
  return plain('type') === 'radio' && field !== undefined && value !== undefined ? { field, value } : undefined;
}
