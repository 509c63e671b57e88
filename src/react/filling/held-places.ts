import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { shorthandKey } from '../code.js';
import { comparedWithNull, isGuarded } from './fill-tests.js';
import { calleeName, leave, put, type Filling } from './filling.js';

/** A place that speaks of the object: it asks whether it is filled, or for its values. */
export function sayHeld(path: NodePath, filling: Filling): void {
  const { flag, held, isHeld } = filling;
  const parent = path.parentPath;
  if (!parent) return;
  if (parent.isUnaryExpression({ operator: '!' })) {
    const outer = parent.parentPath;
    if (outer.isUnaryExpression({ operator: '!' })) put(filling, outer.node, flag);
    else put(filling, parent.node, `!${flag}`);
    return;
  }
  const compared = comparedWithNull(parent.node, isHeld);
  if (compared) return put(filling, parent.node, compared === 'filled' ? flag : `!${flag}`);
  if (parent.isCallExpression() && t.isIdentifier(parent.node.callee, { name: 'Boolean' }))
    return put(filling, parent.node, flag);
  if (isAskedAlone(path)) return put(filling, path.node, flag);
  // what looks at the object looks at the flag as well
  if (parent.isArrayExpression() && isListOfHook(parent)) {
    const again = parent.node.elements.some((one) => one !== path.node && isHeld(one));
    return again ? undefined : put(filling, path.node, `${held}, ${flag}`);
  }
  const member = parent.isMemberExpression() || parent.isOptionalMemberExpression() ? parent : undefined;
  const asked = member && path.key === 'object' ? member : undefined;
  if (isGuarded(path, isHeld)) {
    if (asked?.isOptionalMemberExpression() && asked.node.optional) withoutMark(asked, filling);
    return;
  }
  if (asked) return sayLooseMember(asked, filling);
  const key = shorthandKey(path);
  if (parent.isSpreadElement()) return leave(filling, path, 'it may be spread before it is filled');
  if (parent.isVariableDeclarator() && !t.isIdentifier(parent.node.id))
    return leave(filling, path, 'its values are taken out before it is filled');
  const text = `${flag} ? ${held} : null`;
  const loose = parent.isExpression() && !parent.isCallExpression() && !parent.isArrayExpression();
  put(filling, path.node, key !== undefined ? `${key}: ${text}` : loose ? `(${text})` : text);
}

/** A member that is asked for before the object is filled. */
function sayLooseMember(member: NodePath, filling: Filling): void {
  const { flag, starts, script } = filling;
  const { node } = member;
  if (!t.isOptionalMemberExpression(node) || !t.isIdentifier(node.property) || node.computed)
    return leave(filling, member, 'it is asked for before it is filled');
  const { parent } = member;
  const other =
    t.isLogicalExpression(parent) && parent.left === node && /^(?:\?\?|\|\|)$/.test(parent.operator)
      ? script.text.slice(parent.right.start ?? 0, parent.right.end ?? 0).replaceAll('"', "'")
      : undefined;
  const plain = script.text.slice(node.start ?? 0, node.end ?? 0).replace('?.', '.');
  // it begins as what stands for it until it is there
  if (other !== undefined && starts.get(node.property.name) === other && t.isLogicalExpression(parent))
    return put(filling, { start: node.start, end: parent.end }, plain);
  // whether it is there is asked, and what it begins as says no as well
  const isEmpty = /^(?:''|false|0|null)$/.test(starts.get(node.property.name) ?? '');
  if (isEmpty && t.isUnaryExpression(parent, { operator: '!' })) return put(filling, node, plain);
  const text = `${flag} ? ${plain} : undefined`;
  put(filling, node, t.isJSXExpressionContainer(parent) ? text : `(${text})`);
}

function withoutMark(member: NodePath<t.OptionalMemberExpression>, filling: Filling): void {
  const { object, property, computed } = member.node;
  const { text } = filling.script;
  const start = object.end ?? 0;
  const mark = text.indexOf('?.', start);
  if (mark >= 0 && mark < (property.start ?? 0)) put(filling, { start: mark, end: mark + 2 }, computed ? '' : '.');
}

/** Whether nothing but the object being there is asked: it is a condition, or opens a part of the page. */
function isAskedAlone(path: NodePath): boolean {
  const parent = path.parentPath;
  if (!parent) return false;
  if ((parent.isConditionalExpression() || parent.isIfStatement()) && path.key === 'test') return true;
  if (!parent.isLogicalExpression({ operator: '&&' })) return false;
  // where it is null, null would be shown; where the flag is down, false is: a page shows neither
  let at: NodePath = parent;
  while (at.parentPath?.isLogicalExpression() || at.parentPath?.isParenthesizedExpression()) at = at.parentPath;
  const around = at.parentPath;
  const shows = around?.isJSXExpressionContainer() === true && !(around.parentPath?.isJSXAttribute() === true);
  const tests = (around?.isConditionalExpression() === true || around?.isIfStatement() === true) && at.key === 'test';
  const isTurned = around?.isUnaryExpression({ operator: '!' }) === true;
  const disables =
    around?.isJSXExpressionContainer() === true && /^(?:disabled|hidden|required|checked)$/.test(attributeName(around));
  if (path.key === 'left') return shows || tests || isTurned || disables;
  return tests || isTurned || disables;
}

function attributeName(container: NodePath): string {
  const attribute = container.parentPath;
  return attribute?.isJSXAttribute() && t.isJSXIdentifier(attribute.node.name) ? attribute.node.name.name : '';
}

function isListOfHook(list: NodePath): boolean {
  const call = list.parentPath;
  return (
    call?.isCallExpression() === true &&
    list.key === 1 &&
    /^use\w*(?:Effect|Memo|Callback)$/.test(calleeName(call.node.callee))
  );
}
