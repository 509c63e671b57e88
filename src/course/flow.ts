import { childOf, childrenOf } from '../source/child-path.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Placed } from '../source/behind-names.js';

/** A part of a function that runs only in some cases, from the outside in. */
export interface Arm {
  kind: 'if' | 'try' | 'catch' | 'finally' | 'then' | 'rejected' | 'settled' | 'loop';
  /** The statement or call that makes the case. */
  of: NodePath;
  /** Of an `if`: whether its condition holds here; `after`: behind an `if` that ends the function. */
  side?: 'then' | 'else' | 'after';
  script: Placed['script'];
}

/** The source text of a path. */
export function textAt({ path, script }: Placed): string {
  return script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
}

/** Something that happens in a function, in the order in which it runs. */
export interface FlowEvent extends Placed {
  kind: 'call' | 'assign' | 'stop';
  arms: readonly Arm[];
  /** A call whose value nobody uses, or that is waited for. */
  statement: boolean;
  /** Functions entered on the way here, the outermost first. */
  within: readonly t.Node[];
  /** The calls that were followed on the way here. */
  calls: readonly t.Node[];
}

/** The name of what a call calls: of a member its last part. */
export function calledMember(path: NodePath): string {
  const callee = path.isCallExpression() || path.isOptionalCallExpression() ? path.node.callee : undefined;
  return (t.isMemberExpression(callee) || t.isOptionalMemberExpression(callee)) && t.isIdentifier(callee.property)
    ? callee.property.name
    : t.isIdentifier(callee)
      ? callee.name
      : '';
}

/** How a flow follows what is called. */
export interface FlowGuide {
  /** The function of the project that a call runs and that belongs to the flow; undefined where it stays one event. */
  follow(call: NodePath<t.CallExpression>, at: Placed): Placed | undefined;
}

interface Walk {
  guide: FlowGuide;
  events: FlowEvent[];
}

interface Place {
  script: Placed['script'];
  arms: readonly Arm[];
  within: readonly t.Node[];
  calls: readonly t.Node[];
}

/** What a function does, in order: calls, assignments to members, and places where it ends early. */
export function flowOf(fn: Placed, guide: FlowGuide): FlowEvent[] {
  const walk: Walk = { guide, events: [] };
  enter(fn, { script: fn.script, arms: [], within: [], calls: [] }, walk);
  return walk.events;
}

function enter(fn: Placed, place: Place, walk: Walk): void {
  if (!fn.path.isFunction() || place.within.includes(fn.path.node) || place.within.length > 5) return;
  const inner: Place = { ...place, script: fn.script, within: [...place.within, fn.path.node] };
  const body = fn.path.get('body') as NodePath;
  if (body.isBlockStatement()) statements(body.get('body'), inner, walk);
  else expression(body, inner, walk, true);
}

function statements(list: readonly NodePath[], place: Place, walk: Walk): void {
  let here = place;
  for (const one of list) {
    statement(one, here, walk);
    if (one.isIfStatement() && ends(one.get('consequent')) && !one.node.alternate)
      here = { ...here, arms: [...here.arms, { kind: 'if', of: one, side: 'after', script: place.script }] };
  }
}

/** Whether a statement ends the function it stands in. */
function ends(path: NodePath): boolean {
  if (path.isReturnStatement() || path.isThrowStatement()) return true;
  if (!path.isBlockStatement()) return false;
  const last = path.get('body').at(-1);
  return last !== undefined && ends(last);
}

function statement(path: NodePath, place: Place, walk: Walk): void {
  const armed = (arm: Omit<Arm, 'script'>): Place => ({
    ...place,
    arms: [...place.arms, { ...arm, script: place.script }],
  });
  if (path.isBlockStatement()) statements(path.get('body'), place, walk);
  else if (path.isExpressionStatement()) expression(path.get('expression'), place, walk, true);
  else if (path.isVariableDeclaration())
    for (const one of path.get('declarations')) {
      const init = one.get('init') as NodePath;
      if (init.node) expression(init, place, walk, false);
    }
  else if (path.isReturnStatement() || path.isThrowStatement()) {
    const argument = path.get('argument') as NodePath;
    if (argument.node) expression(argument, place, walk, path.isReturnStatement());
  } else if (path.isIfStatement()) {
    expression(path.get('test'), place, walk, false);
    const [yes, no] = [path.get('consequent'), path.get('alternate') as NodePath];
    push(walk, 'stop', path, place, true);
    statement(yes, armed({ kind: 'if', of: path, side: 'then' }), walk);
    if (no.node) statement(no, armed({ kind: 'if', of: path, side: 'else' }), walk);
  } else if (path.isTryStatement()) {
    statement(path.get('block'), armed({ kind: 'try', of: path }), walk);
    const [handler, final] = [childOf(path, 'handler'), childOf(path, 'finalizer')];
    if (handler.node) statement(childOf(handler, 'body'), armed({ kind: 'catch', of: path }), walk);
    if (final.node) statement(final, armed({ kind: 'finally', of: path }), walk);
  } else if (path.isLoop()) {
    statement(path.get('body') as NodePath, armed({ kind: 'loop', of: path }), walk);
  } else if (path.isSwitchStatement()) {
    expression(path.get('discriminant'), place, walk, false);
    for (const one of path.get('cases')) statements(one.get('consequent'), armed({ kind: 'if', of: path }), walk);
  }
}

function push(walk: Walk, kind: FlowEvent['kind'], path: NodePath, place: Place, isStatement: boolean): void {
  const { script, arms, within, calls } = place;
  walk.events.push({ kind, path, script, arms, within, calls, statement: isStatement });
}

/** What an expression does, arguments before the call that takes them. */
function expression(path: NodePath, place: Place, walk: Walk, isStatement: boolean): void {
  if (path.isFunction() || path.isJSXElement()) return;
  if (path.isAwaitExpression()) expression(path.get('argument'), place, walk, true);
  else if (path.isUnaryExpression({ operator: 'void' })) expression(path.get('argument'), place, walk, true);
  else if (path.isCallExpression() || path.isOptionalCallExpression())
    call(path as NodePath<t.CallExpression>, place, walk, isStatement);
  else if (path.isAssignmentExpression()) {
    expression(path.get('right'), place, walk, false);
    push(walk, 'assign', path, place, true);
  } else if (path.isConditionalExpression()) {
    expression(path.get('test'), place, walk, false);
    for (const side of ['consequent', 'alternate'] as const) {
      const arm: Arm = { kind: 'if', of: path, side: side === 'consequent' ? 'then' : 'else', script: place.script };
      expression(path.get(side) as NodePath, { ...place, arms: [...place.arms, arm] }, walk, isStatement);
    }
  } else if (path.isLogicalExpression()) {
    expression(path.get('left'), place, walk, false);
    const arm: Arm = {
      kind: 'if',
      of: path,
      side: path.node.operator === '&&' ? 'then' : 'else',
      script: place.script,
    };
    expression(path.get('right'), { ...place, arms: [...place.arms, arm] }, walk, isStatement);
  } else inner(path, place, walk);
}

function inner(path: NodePath, place: Place, walk: Walk): void {
  for (const key of t.VISITOR_KEYS[path.node.type] ?? []) {
    for (const one of childrenOf(path, key))
      if (one.node && !one.isTSType() && !one.isTSTypeAnnotation()) expression(one, place, walk, false);
  }
}

const answers: Record<string, Arm['kind'] | undefined> = {
  then: 'then',
  catch: 'rejected',
  finally: 'settled',
  subscribe: 'then',
};

/** What a stream's operators do with an answer. */
const operators: Record<string, Arm['kind'] | undefined> = {
  tap: 'then',
  map: 'then',
  catchError: 'rejected',
  finalize: 'settled',
};

function call(path: NodePath<t.CallExpression>, place: Place, walk: Walk, isStatement: boolean): void {
  const callee = path.get('callee') as NodePath;
  const member = callee.isMemberExpression() || callee.isOptionalMemberExpression() ? callee : undefined;
  const name = member && t.isIdentifier(member.node.property) ? member.node.property.name : '';
  const given = path.get('arguments') as NodePath[];
  const first = answers[name];
  if (member && isStreamed(name, given)) {
    expression(member.get('object') as NodePath, place, walk, true);
    for (const operator of given) streamed(operator, place, walk);
    callbacks(given, path, place, walk);
    return;
  }
  if (member && first !== undefined && given.some((one) => one.isFunction() || one.isIdentifier())) {
    // what a promise does comes before what is done with its answer
    expression(member.get('object') as NodePath, place, walk, true);
    given.forEach((handler, index) => {
      const kind = /^(then|subscribe)$/.test(name) && index === 1 ? 'rejected' : index === 2 ? 'settled' : first;
      const inside = { ...place, arms: [...place.arms, { kind, of: path, script: place.script }] };
      const fn = handler.isFunction() ? { path: handler, script: place.script } : undefined;
      if (fn) enter(fn, inside, walk);
      else expression(handler, inside, walk, false);
    });
    return;
  }
  if (member) expression(member.get('object') as NodePath, place, walk, false);
  for (const argument of given) expression(argument, place, walk, false);
  if (callee.isFunction()) {
    enter({ path: callee, script: place.script }, place, walk);
    return;
  }
  const target = walk.guide.follow(path, { path, script: place.script });
  push(walk, 'call', path, place, isStatement);
  if (target) enter(target, { ...place, calls: [...place.calls, path.node] }, walk);
  else callbacks(given, path, place, walk);
}

/** Whether a call goes on with a stream: `pipe(…)`, `subscribe()`, `subscribe({ next: … })`. */
function isStreamed(name: string, given: readonly NodePath[]): boolean {
  if (given.some((one) => one.isFunction())) return false;
  const isObserver = (one: NodePath): boolean =>
    !one.isObjectExpression() ||
    one.node.properties.every(
      (property) =>
        'key' in property && t.isIdentifier(property.key) && /^(next|error|complete)$/.test(property.key.name),
    );
  return name === 'pipe' || (name === 'subscribe' && given.every(isObserver));
}

/** An operator of a stream: `finalize(() => …)`. */
function streamed(operator: NodePath, place: Place, walk: Walk): void {
  if (!operator.isCallExpression()) return;
  const { callee } = operator.node;
  const kind = t.isIdentifier(callee) ? operators[callee.name] : undefined;
  const [fn] = operator.get('arguments') as (NodePath | undefined)[];
  if (!kind || !fn?.isFunction()) return;
  const arm: Arm = { kind, of: operator, script: place.script };
  enter({ path: fn as NodePath, script: place.script }, { ...place, arms: [...place.arms, arm] }, walk);
}

function isCurrent(node: t.Node): boolean {
  return t.isMemberExpression(node) && t.isIdentifier(node.property, { name: 'current' });
}

const rounds = /^(forEach|map|filter|some|every|find|reduce|flatMap)$/;

/** Functions that a call runs: answers by name `{ onSuccess: () => … }`, rounds over a list, what comes afterwards. */
function callbacks(given: readonly NodePath[], of: NodePath, place: Place, walk: Walk): void {
  const { callee } = of.node as t.CallExpression;
  const name = t.isMemberExpression(callee) && t.isIdentifier(callee.property) ? callee.property.name : '';
  for (const [index, argument] of given.entries()) {
    if (!argument.isObjectExpression()) {
      // a list in a ref holds what runs once the change is shown
      const waits = name === 'push' && t.isMemberExpression(callee) && isCurrent(callee.object);
      const runs = t.isIdentifier(callee) || rounds.test(name) || waits || (name === 'setState' && index > 0);
      if (argument.isFunction() && runs) enter({ path: argument, script: place.script }, place, walk);
      continue;
    }
    for (const property of argument.get('properties')) {
      const value = property.isObjectProperty() ? (property.get('value') as NodePath) : property;
      if (!value.isFunction() || property.isSpreadElement()) continue;
      const { key } = property.node as t.ObjectProperty | t.ObjectMethod;
      const answer = t.isIdentifier(key) ? key.name : '';
      const kind = /fail|error|reject/i.test(answer)
        ? 'rejected'
        : /settle|final|complete/i.test(answer)
          ? 'settled'
          : /success|done|then|next|ok/i.test(answer)
            ? 'then'
            : undefined;
      if (kind)
        enter(
          { path: value, script: place.script },
          { ...place, arms: [...place.arms, { kind, of, script: place.script }] },
          walk,
        );
    }
  }
}
