import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { referencesTo, says, stays, takeStatement } from '../package-leaving/leaving.js';
import { rowName } from '../package-leaving/rows.js';
import type { TakenApart } from './form.js';
import { memberAround, sayMessage } from './messages.js';

/**
 * What is asked of the errors of a list: of the list as a whole, or of a field of one of its rows.
 * @param path an expression that stands for the list's errors
 * @returns whether it is said without the package; reasons behind names are told at their places
 */
export function sayRowErrors(apart: TakenApart, list: string, path: NodePath): boolean {
  const place = sure(path);
  if (follows(apart, place, (one) => sayRowErrors(apart, list, one))) return true;
  const asked = memberAround(place);
  if (!asked) return false;
  const { names } = apart;
  if (asked.key === 'message' || asked.key === 'root') {
    const whole = asked.key === 'root' ? sure(asked.member) : place;
    const either = otherSide(asked.key === 'root' ? (memberAround(whole)?.member ?? whole) : asked.member, list);
    const own = `${names.errors}.${list}`;
    if (either) {
      apart.worded.add(list);
      says(apart.leaving, either, own);
      return true;
    }
    const rows = `${names.values}.${list}.length`;
    // an empty list tells its error itself, one with rows at its root
    const text = `(${rows} ${asked.key === 'root' ? '>' : '==='} 0 ? ${own} : undefined)`;
    return sayMessage(apart, whole, ruledAlone(apart, list) && asked.key === 'root' ? own : text, list);
  }
  const node = asked.member.node as t.MemberExpression;
  if (!node.computed || asked.key !== undefined) return false;
  const index = asked.member.get('property') as NodePath;
  return sayRow(apart, list, index, asked.member);
}

/** Whether the list is checked by rules of its own, whose messages always stand at its root. */
function ruledAlone({ schema, rules }: TakenApart, list: string): boolean {
  return !schema && rules.some(({ field }) => field === list);
}

/** What is asked of the errors of one row. */
function sayRow(apart: TakenApart, list: string, index: NodePath, path: NodePath): boolean {
  const { names } = apart;
  const place = sure(path);
  if (follows(apart, place, (one) => sayRow(apart, list, index, one))) return true;
  const asked = memberAround(place);
  if (asked?.key === undefined || !apart.rows.get(list)?.has(asked.key)) return false;
  const text = `${names.errors}[${rowName(apart, { list, index, key: asked.key })}]`;
  return sayMessage(apart, sure(asked.member), text, `${list}.${asked.key}`);
}

/** An expression with the `!` behind it that says that it is there. */
function sure(path: NodePath): NodePath {
  return path.parentPath?.isTSNonNullExpression() ? sure(path.parentPath) : path;
}

/** Says a constant's places where an expression is what it stands for; the constant goes. */
function follows({ leaving }: TakenApart, path: NodePath, say: (place: NodePath) => boolean): boolean {
  const declarator = path.parentPath;
  const id = declarator?.isVariableDeclarator() && path.key === 'init' ? (declarator.get('id') as NodePath) : undefined;
  const declaration = declarator?.parentPath;
  if (!id?.isIdentifier() || !declaration?.isVariableDeclaration() || declaration.node.declarations.length > 1)
    return false;
  for (const place of referencesTo(leaving, id))
    if (!say(place)) stays(leaving, place, 'more is asked of the errors of rows than their messages');
  takeStatement(leaving, declaration);
  return true;
}

/** `errors.lines?.message ?? errors.lines?.root?.message`: either of them is the error of the list. */
function otherSide(path: NodePath, list: string): NodePath | undefined {
  const either = path.parentPath;
  if (!either?.isLogicalExpression() || either.node.operator === '&&') return undefined;
  const sides = [either.get('left'), either.get('right')].map((one) => one.toString().replaceAll(/[?!\s]/g, ''));
  const both = [`errors.${list}.message`, `errors.${list}.root.message`];
  return both.every((one) => sides.some((side) => side.endsWith(one))) ? either : undefined;
}
