import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { StepBranch } from '../form/life.js';
import { textAt, type Arm, type FlowEvent } from './flow.js';
import type { CourseGuide } from './cell.js';
import { walk } from '../source/traverse.js';

/** The events of a submit, each with the branch it belongs to. */
export interface Branched {
  events: { event: FlowEvent; branch: StepBranch }[];
  send: FlowEvent | undefined;
}

/** Finds what is sent, and tells what happens before, after success, after failure, and always. */
export function branched(events: readonly FlowEvent[], guide: CourseGuide): Branched {
  const candidates = events.filter((event) => event.kind === 'call' && event.statement && guide.sends(event));
  // what is called where the form turns back is no send
  const send = candidates.find((event) => !turnsBack(event)) ?? candidates[0];
  const at = send ? events.indexOf(send) : -1;
  return {
    send,
    events: events.map((event, index) => ({ event, branch: branchOf(event, send, send === undefined || index <= at) })),
  };
}

/** Whether something happens only on the way out of a function: `if (wrong) { tell(values); return; }`. */
function turnsBack({ arms }: FlowEvent): boolean {
  return arms.some(({ of, side }) => {
    if (!of.isIfStatement() || side !== 'then' || of.node.alternate) return false;
    const then = of.get('consequent');
    const last = then.isBlockStatement() ? then.get('body').at(-1) : then;
    return last?.isReturnStatement() === true && !last.node.argument;
  });
}

function branchOf(event: FlowEvent, send: FlowEvent | undefined, before: boolean): StepBranch {
  if (!send) return 'before';
  const arms = event.arms.filter((arm) => !send.arms.some((one) => one.of === arm.of && one.kind === arm.kind));
  for (const arm of arms) {
    if (arm.kind === 'catch' && isAround(arm, send)) return 'failure';
    if (arm.kind === 'finally' && isAround(arm, send)) return 'always';
    if (arm.kind === 'rejected' && isAround(arm, send)) return 'failure';
    if (arm.kind === 'settled' && isAround(arm, send)) return 'always';
  }
  if (before) return 'before';
  const answered = arms.filter((arm) => arm.kind === 'if' && arm.side !== undefined);
  for (const arm of answered) {
    const told = speaksOfAnswer(arm, send) ? answerOf(arm, send) : undefined;
    if (told) return told;
  }
  return 'success';
}

/** Whether a case is one of what happens with the send: its `try`, or the promise it gives. */
function isAround({ of }: Arm, send: FlowEvent): boolean {
  const start = send.path.node.start ?? 0;
  const inside = start >= (of.node.start ?? 0) && start < (of.node.end ?? 0);
  // what is sent by a helper stands elsewhere: the case is the one around the helper's call
  return inside || send.within.length > 1;
}

/** Whether a condition asks what the send answered, as far as the answer has a name. */
function speaksOfAnswer({ of, script }: Arm, send: FlowEvent): boolean {
  const test = testOf(of);
  if (!test) return false;
  const within = (of.node.start ?? 0) <= (send.path.node.start ?? 0) && (of.node.end ?? 0) >= (send.path.node.end ?? 0);
  if (within) return true;
  const text = textAt({ path: test, script });
  const names = answerNames(send.path);
  return names.length ? names.some((name) => new RegExp(`\\b${name}\\b`).test(text)) : !/^!\s*[\w.]+$/.test(text);
}

/** The names that the answer of a send gets, and those worked out of it. */
function answerNames(send: NodePath): string[] {
  const holder = send.findParent(
    (parent) => parent.isVariableDeclarator() || parent.isAssignmentExpression() || parent.isFunction(),
  );
  const target = holder?.isVariableDeclarator()
    ? holder.node.id
    : holder?.isAssignmentExpression()
      ? holder.node.left
      : undefined;
  if (!target) return [];
  const names = t.isMemberExpression(target) ? [] : Object.keys(t.getBindingIdentifiers(target));
  const scope = send.scope;
  const later = Object.values(scope.bindings).filter(
    ({ path }) =>
      path.isVariableDeclarator() &&
      path.node.init &&
      names.some((name) => readsName(path.get('init') as NodePath, name)),
  );
  return [...names, ...later.map(({ identifier }) => identifier.name)];
}

function readsName(path: NodePath, name: string): boolean {
  let found = path.isIdentifier({ name });
  walk(path, {
    Identifier(inner) {
      if (inner.node.name === name) found = true;
    },
  });
  return found;
}

/** Whether an `if` behind the send asks how it went, and which way this side is. */
function answerOf({ of, side, script }: Arm, send: FlowEvent): StepBranch | undefined {
  const test = testOf(of);
  if (!test || (of.node.end ?? 0) < (send.path.node.start ?? 0)) return undefined;
  const text = textAt({ path: test, script });
  const names = answerNames(send.path).join('|') || '\\b\\B';
  if (new RegExp(`^!\\s*(${names})(\\.\\w+)?$`).test(text)) return side === 'then' ? 'failure' : 'success';
  if (new RegExp(`^(${names})$`).test(text) && !/err|problem|fault|trouble|complaint|issue/i.test(text))
    return side === 'then' ? 'success' : 'failure';
  const failing =
    /!\s*[\w.]*\b(ok|success|accepted|saved|valid)\b|\b(errors?|problems?|reason|failed|fault|rejected|trouble|complaints?)\b|status\s*(>=?\s*[34]|!==?\s*2|===?\s*[45])|===?\s*(null|false)|^!/i.test(
      text,
    );
  const passing = /(^|[^!])\b[\w.]*\b(ok|success|accepted|saved)\b|status\s*(===?\s*2|<)/i.test(text);
  if (!failing && !passing) return undefined;
  const bad = failing ? side === 'then' : side !== 'then';
  return bad ? 'failure' : 'success';
}

function testOf(of: NodePath): NodePath | undefined {
  if (of.isIfStatement() || of.isConditionalExpression()) return of.get('test') as NodePath;
  return of.isLogicalExpression() ? of.get('left') : undefined;
}
