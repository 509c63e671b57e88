import type { NodePath } from '@babel/traverse';
import type { Span } from '../form/code.js';
import type { Status, StatusRole, StepKind, SubmitStep } from '../form/life.js';
import { fieldsOf } from '../form/model.js';
import type { Branched } from './branches.js';
import { spanAt, type Cell, type CourseGuide, type Telling } from './cell.js';
import { textAt, type FlowEvent } from './flow.js';

/** What only a framework's reader knows of the calls of a submit. */
export interface StepGuide extends CourseGuide {
  /** What a call does that tells no status and runs no checker. */
  call(event: FlowEvent): StepKind | undefined;
  /** The fields that an event puts back to their start. */
  putsBack(event: FlowEvent): string[];
  /** Whether a cell holds the values. */
  holds?(cell: Cell): boolean;
}

/** The steps of a submit, in the order in which they run. */
export function stepsOf({ events, send }: Branched, guide: StepGuide, status: readonly Status[]): SubmitStep[] {
  const steps: SubmitStep[] = [];
  const reset = new Map<SubmitStep, Set<string>>();
  const add = (does: StepKind, event: FlowEvent, branch: SubmitStep['branch']): void => {
    const last = steps.at(-1);
    const repeats = /^(other|focus-first|check|reset|reset-some|touch-all|keep-errors|field-errors|message)$/.test(
      does,
    );
    if (last?.does === does && last.branch === branch && repeats) return;
    steps.push({ does, branch, span: spanAt(event), ...(does === 'send' ? { call: textAt(event) } : {}) });
  };
  const sendAt = send ? events.findIndex(({ event }) => event === send) : -1;
  const done = new Set<FlowEvent>();
  events.forEach(({ event, branch }, index) => {
    if (done.has(event)) return;
    const inline =
      branch === 'before' && !steps.some(({ does }) => does === 'check') ? inlineRule(event, guide) : undefined;
    if (inline) steps.push({ does: 'check', branch, span: inline });
    if (event === send) {
      add('send', event, 'before');
      // what is behind the call that sends is no step of its own
      for (const later of events.slice(index + 1))
        if (later.event.calls.includes(event.path.node)) done.add(later.event);
      return;
    }
    if (event.kind === 'stop') {
      if (
        index < sendAt &&
        event.within.every((fn, depth) => send?.within[depth] === fn) &&
        stops(
          event,
          events.slice(index + 1, sendAt + 1).map((one) => one.event),
          status,
        )
      )
        add('stop-if-wrong', event, branch);
      return;
    }
    const told = guide.tells(event);
    if (told.length) {
      for (const one of told) {
        const does = stepOfTelling(one, branch, guide, status);
        if (does) add(does, event, branch);
      }
      if (told.some(({ value }) => value !== undefined)) return;
    }
    if (event.kind === 'assign') return;
    if (guide.checks(event) !== undefined) {
      add('check', event, branch);
      return;
    }
    const does = guide.call(event);
    if (does) add(does, event, branch);
    const last = steps.at(-1);
    if (does !== 'reset-some' || !last) return;
    const back = reset.get(last) ?? new Set<string>();
    for (const name of guide.putsBack(event)) back.add(name);
    reset.set(last, back);
  });
  const all = fieldsOf(guide.model).map(({ name }) => name);
  return steps.map((step) => {
    const back = reset.get(step);
    return step.does === 'reset-some' && back && all.every((name) => back.has(name))
      ? { ...step, does: 'reset' }
      : step;
  });
}

/** The first rule that a handler states in its own statements, where an event is a part of it. */
function inlineRule(event: FlowEvent, { model }: StepGuide): Span | undefined {
  const start = event.path.node.start ?? 0;
  const rule = model.rules.find(
    ({ statedIn, span, stated }) =>
      stated === 'code' &&
      span.file === event.script.file &&
      (statedIn ? event.within.some((fn) => fn.start === statedIn.fn.start) : true) &&
      span.start >= start &&
      span.start < (event.path.node.end ?? 0),
  );
  return rule && event.kind === 'stop' ? rule.span : undefined;
}

/** Whether an `if` before the send keeps the form from being sent because something is wrong. */
function stops({ path, script }: FlowEvent, upToSend: readonly FlowEvent[], status: readonly Status[]): boolean {
  if (!path.isIfStatement()) return false;
  const test = textAt({ path: path.get('test'), script });
  // a guard against a second send is none
  const guards = status.filter(({ role }) => role === 'submitting').map(({ name }) => name);
  if (guards.some((name) => new RegExp(`^${name}(\\.current)?( ===? .*)?$`).test(test))) return false;
  const inOwn = upToSend.at(-1)?.arms.some((arm) => arm.of === path) ?? false;
  return inOwn || endsBranch(path.get('consequent'));
}

function endsBranch(path: NodePath): boolean {
  if (path.isReturnStatement() || path.isThrowStatement()) return true;
  return path.isBlockStatement() && path.get('body').some((one) => one.isReturnStatement() || one.isThrowStatement());
}

function stepOfTelling(
  { cell, value, text }: Telling,
  branch: SubmitStep['branch'],
  guide: StepGuide,
  status: readonly Status[],
): StepKind | undefined {
  const roles = new Set<StatusRole>(status.filter(({ name }) => name === cell.name).map(({ role }) => role));
  if (!roles.size) return guide.holds?.(cell) ? 'reset' : 'other';
  const clears = value?.isNullLiteral() === true || value?.isStringLiteral({ value: '' }) === true;
  if (roles.has('submitting') && roles.size > 1)
    return ({ before: 'begin', success: 'done', failure: 'message', always: 'end' } as const)[branch];
  if (roles.size > 1) return branch === 'success' && !clears ? 'done' : 'message';
  // messages that go after success are a part of putting the form back
  const empties = value?.isObjectExpression() === true && value.node.properties.length === 0;
  if (branch === 'success' && empties) return undefined;
  const lowers =
    value?.isBooleanLiteral({ value: false }) === true || value?.isNullLiteral() === true || text?.trim() === 'false';
  // what is lowered after success is a part of putting the form back
  if (lowers && branch === 'success' && !roles.has('submitting')) return undefined;
  const [role] = roles;
  switch (role) {
    case 'errors':
      return branch === 'failure' ? 'field-errors' : 'keep-errors';
    case 'message':
      return 'message';
    case 'touched':
      return branch === 'before' ? 'touch-all' : 'reset-some';
    case 'attempted':
      return lowers ? 'reset-some' : 'attempt';
    case 'submitting':
      return lowers || branch !== 'before' ? 'end' : 'begin';
    case 'submitted':
      return lowers || branch === 'before' ? 'message' : 'done';
    default:
      return 'other';
  }
}
