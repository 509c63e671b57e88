import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { indentAt } from '../../source/style.js';
import { isGuarded, type IsHeld } from './fill-tests.js';
import { calleeName, leave, put, type Filling } from './filling.js';

/** A place that sets the object: it is filled, emptied or changed. */
export function saySet(path: NodePath, filling: Filling): void {
  const { setter, raise, script, context } = filling;
  const parent = path.parentPath;
  if (parent?.isArrayExpression()) return;
  if (parent?.isCallExpression() && path.listKey === 'arguments' && calleeName(parent.node.callee) === 'then') {
    const found = context.freeName('found', 'loaded');
    const { newline, indent: step, semicolon } = context.style;
    const at = indentAt(script.text, parent.node.start ?? 0);
    const lines = script.typescript
      ? [`${setter}(${found})`, `${raise}(true)`]
      : [`if (${found}) ${setter}(${found})`, `${raise}(Boolean(${found}))`];
    const body = lines.map((line) => at + step + line + semicolon + newline).join('');
    return put(filling, path.node, `(${found}) => {${newline}${body}${at}}`);
  }
  if (!parent?.isCallExpression() || path.key !== 'callee')
    return leave(filling, path, 'what sets the object is handed on, and would have to say as well that it is filled');
  const [first] = parent.get('arguments');
  if (!first || first.isNullLiteral() || first.isIdentifier({ name: 'undefined' }))
    return put(filling, parent.node, `${raise}(false)`);
  if (looksBack(first, filling)) {
    const called = first.isFunction() ? calledStep(first) : undefined;
    if (called) withoutNull(called, filling);
    const keeps = first.isFunction() && keepsNothing(called ?? first);
    if (!keeps && !isGuarded(path, filling.isHeld))
      leave(filling, parent, 'it changes the object, which may not be filled yet');
    return;
  }
  sayFilled(parent, first as NodePath<t.Expression>, filling);
}

/** Whether new values are laid over those before. */
function looksBack(given: NodePath, { isHeld }: Filling): boolean {
  if (given.isFunction()) return true;
  return (
    given.isObjectExpression() && given.node.properties.some((one) => t.isSpreadElement(one) && isHeld(one.argument))
  );
}

/** The function of the file that an update hands the object before to: `(plot) => typed(plot, 'name', value)`. */
function calledStep(update: NodePath<t.Function>): NodePath<t.Function> | undefined {
  const [parameter] = update.node.params;
  const { body } = update.node;
  if (!t.isCallExpression(body) || !t.isIdentifier(body.callee) || !t.isIdentifier(parameter)) return undefined;
  if (!t.isIdentifier(body.arguments[0], { name: parameter.name })) return undefined;
  const found = update.scope.getBinding(body.callee.name)?.path;
  return found?.isFunctionDeclaration() ? found : undefined;
}

/** A function of the object before takes and gives no null any more. */
function withoutNull(fn: NodePath<t.Function>, filling: Filling): void {
  const { edits, script } = filling;
  const [parameter] = fn.node.params;
  const types = [t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined, fn.node.returnType];
  for (const annotation of types) {
    const type = t.isTSTypeAnnotation(annotation) ? annotation.typeAnnotation : undefined;
    const parts = t.isTSUnionType(type) ? type.types.filter((part) => !t.isTSNullKeyword(part)) : [];
    const [own, ...more] = parts;
    if (!type || !own || more.length || edits.some(({ start }) => start === type.start)) continue;
    put(filling, type, script.text.slice(own.start ?? 0, own.end ?? 0));
  }
}

/** Whether a function of the object before leaves nothing where nothing was. */
function keepsNothing(fn: NodePath<t.Function>): boolean {
  const [parameter] = fn.node.params;
  const only = t.isBlockStatement(fn.node.body) ? fn.node.body.body[0] : undefined;
  const body = t.isReturnStatement(only) ? only.argument : fn.node.body;
  if (!t.isIdentifier(parameter)) return false;
  const isBefore: IsHeld = (node) => t.isIdentifier(node, { name: parameter.name });
  if (t.isLogicalExpression(body, { operator: '&&' })) return isBefore(body.left);
  if (t.isConditionalExpression(body))
    return isBefore(body.test) && (isBefore(body.alternate) || t.isNullLiteral(body.alternate));
  return false;
}

/** Whether what is given may be nothing, as far as its declaration tells. */
function mayMiss(given: NodePath, script: Script): boolean {
  const { node } = given;
  const declared = t.isIdentifier(node) ? given.scope.getBinding(node.name)?.path : undefined;
  const id = declared?.isVariableDeclarator() ? declared.node.id : declared?.node;
  const annotation = t.isIdentifier(id) ? id.typeAnnotation : undefined;
  const init = declared?.isVariableDeclarator() && !annotation ? declared.node.init : undefined;
  const from = annotation ?? init ?? node;
  const text = script.text.slice(from.start ?? 0, from.end ?? 0);
  return annotation
    ? /\b(?:null|undefined)\b/.test(text)
    : /\.find\(|\.get\(|\?\.|\.at\(|\b(?:null|undefined)\b/.test(text);
}

/** The object is given values: that it is filled is said behind them. */
function sayFilled(call: NodePath<t.CallExpression>, given: NodePath<t.Expression>, filling: Filling): void {
  const { raise, script, context, setter } = filling;
  const { style } = context;
  const { node } = given;
  const sure = t.isObjectExpression(node) || (script.typescript && !mayMiss(given, script));
  const text = script.text.slice(node.start ?? 0, node.end ?? 0);
  const named = t.isIdentifier(node) || (t.isMemberExpression(node) && /^[\w.]+$/.test(text));
  const parent = call.parentPath;
  const indent = indentAt(script.text, call.node.start ?? 0);
  const statement = parent.isExpressionStatement() ? parent : undefined;
  const isBlock = statement?.parentPath.isBlockStatement() === true;
  if (!sure && !named) {
    if (!isBlock) return leave(filling, call, 'whether it is filled is told by an answer that has no name here');
    const found = context.freeName('found', 'loaded', 'answer');
    const before = `const ${found} = `;
    put(filling, { start: call.node.start, end: node.start }, before);
    const lines = [`if (${found}) ${setter}(${found})`, `${raise}(Boolean(${found}))`];
    const line = style.semicolon + style.newline + indent;
    return put(filling, { start: node.end, end: call.node.end }, line + lines.join(line));
  }
  const then = `${raise}(${sure ? 'true' : `Boolean(${text})`})`;
  const first = sure ? '' : `if (${text}) `;
  if (isBlock) {
    const line = (style.semicolon || '') + style.newline + indent;
    if (first !== '') put(filling, { start: call.node.start, end: call.node.start }, first);
    return put(filling, { start: call.node.end, end: call.node.end }, line + then);
  }
  const alone = statement ?? (parent.isArrowFunctionExpression() && call.key === 'body' ? call : undefined);
  if (!alone) return leave(filling, call, 'that it is filled as well would have to be said in the same expression');
  const { newline, indent: step } = style;
  const line = newline + indent + step;
  const { semicolon } = style;
  put(filling, { start: call.node.start, end: call.node.start }, `{${line}${first}`);
  put(
    filling,
    { start: call.node.end, end: alone.node.end },
    `${semicolon}${line}${then}${semicolon}${newline}${indent}}`,
  );
}
