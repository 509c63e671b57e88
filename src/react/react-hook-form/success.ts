import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { depthOf, saysAt, stays } from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import type { TakenApart } from './form.js';

/**
 * Says of a send whether it went through: the package takes one for failed that leaves an error behind.
 * @returns the statements that follow the send, where it never leaves one; else what it does says so itself
 */
export function tellsSuccess(apart: TakenApart): string[] {
  const { leaving, names, form, send } = apart;
  const { semicolon } = leaving.context.style;
  const body = send?.fn?.get('body') as NodePath | undefined;
  const errors = form.taken.places.flatMap(({ member, path }) => {
    const call = member === 'setError' ? callOf(path) : undefined;
    return call && body && call.isDescendant(body) ? [call] : [];
  });
  if (!errors.length) return [`${names.setSucceeded}(true);`];
  const fails = errors.map((call) => call.parentPath);
  const end = body?.isBlockStatement() ? lastPlace(body, fails) : undefined;
  if (!end || !fails.every((one) => one.isExpressionStatement() && endsThere(one, end))) {
    stays(
      leaving,
      errors[0] ?? form.call,
      'a send that leaves an error has no one place where it is known to have failed',
    );
    return [];
  }
  const put = (after: NodePath, succeeded: boolean): void => {
    const at = after.node.end ?? 0;
    const { newline } = leaving.context.style;
    saysAt(
      leaving,
      at,
      at,
      `${newline}${depthOf(leaving, after)}${names.setSucceeded}(${String(succeeded)})${semicolon}`,
    );
  };
  put(end, true);
  for (const one of fails) put(one, false);
  return [];
}

/** The statement after which a send went through: the last one, or that of the block which is tried in the end. */
function lastPlace(body: NodePath<t.BlockStatement>, fails: readonly NodePath[]): NodePath | undefined {
  const last = body.get('body').at(-1);
  if (!last?.isTryStatement()) return last?.isReturnStatement() ? undefined : last;
  const handler = last.get('handler') as NodePath;
  const isCaught = fails.some((one) => one.isDescendant(handler));
  return isCaught ? last.get('block').get('body').at(-1) : last;
}

/** Whether nothing that could tell of a success comes after a statement that leaves an error. */
function endsThere(statement: NodePath, end: NodePath): boolean {
  const next = statement.getNextSibling();
  if (next.isReturnStatement()) return true;
  const handler = statement.parentPath?.parentPath;
  const isLast = next.node === undefined || next.node === null;
  return isLast && handler?.isCatchClause() === true && end.findParent((one) => one.node === handler.parent) !== null;
}
