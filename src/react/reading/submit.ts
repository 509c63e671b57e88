import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { Status, StatusRole, StepKind, SubmitCourse, SubmitStep } from '../../form/life.js';
import { fieldsOf } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { textAt, type FlowEvent } from '../../source/flow.js';
import { branched, type Branched } from './branches.js';
import type { Telling } from './cells.js';
import { functionBehind } from './names.js';
import { changesValues, isPlainCall, spanAt, within, type Entry, type Scene } from './scene.js';

/** The steps of a submit, in the order of the source. */
export function courseOf(scene: Scene, status: readonly Status[]): SubmitCourse {
  const entry = scene.entries.find(({ submits }) => submits) ?? autoSave(scene);
  const { region, script, component } = scene.site;
  const place = region.submit.attribute?.value ?? region.element ?? component.path;
  const span = spanAt(entry ? entry.at : { path: place, script });
  if (!entry)
    return {
      by: region.submit.how === 'form' ? 'form' : 'none',
      span,
      prevents: region.submit.how === 'form' ? false : null,
      steps: [],
    };
  const isForm =
    region.submit.how === 'form' ||
    (region.element !== undefined &&
      entry.at.path.node !== undefined &&
      entry.submits &&
      region.submit.attribute !== undefined);
  const by = entry.moment !== 'submit' ? 'effect' : isForm ? 'form' : 'button';
  return {
    by,
    span,
    prevents: by === 'form' ? prevents(entry, region.submit.attribute?.name) : null,
    steps: stepsOf(branched(entry.events, scene), scene, status),
  };
}

/** An effect that hands the values on by itself. */
function autoSave(scene: Scene): Entry | undefined {
  return scene.entries.find((entry) => entry.moment === 'change' && branched(entry.events, scene).send !== undefined);
}

function prevents({ events }: Entry, name: string | undefined): boolean | null {
  if (name === 'action') return null;
  return events.some(({ kind, path }) => kind === 'call' && calledMember(path) === 'preventDefault');
}

function calledMember(path: NodePath): string {
  const callee = path.isCallExpression() || path.isOptionalCallExpression() ? path.node.callee : undefined;
  return (t.isMemberExpression(callee) || t.isOptionalMemberExpression(callee)) && t.isIdentifier(callee.property)
    ? callee.property.name
    : t.isIdentifier(callee)
      ? callee.name
      : '';
}

function stepsOf({ events, send }: Branched, scene: Scene, status: readonly Status[]): SubmitStep[] {
  const steps: SubmitStep[] = [];
  const reset = new Map<SubmitStep, Set<string>>();
  const add = (does: StepKind, event: FlowEvent, branch: SubmitStep['branch']): void => {
    const last = steps.at(-1);
    const repeats = /^(other|focus-first|check|reset|reset-some|touch-all|keep-errors|field-errors|message)$/.test(
      does,
    );
    if (last?.does === does && last.branch === branch && repeats) return;
    steps.push({ does, branch, span: spanAt(event) });
  };
  const sendAt = send ? events.findIndex(({ event }) => event === send) : -1;
  const done = new Set<FlowEvent>();
  events.forEach(({ event, branch }, index) => {
    if (done.has(event)) return;
    const inline =
      branch === 'before' && !steps.some(({ does }) => does === 'check') ? inlineRule(event, scene) : undefined;
    if (inline) steps.push({ does: 'check', branch, span: inline });
    if (event === send) {
      add('send', event, 'before');
      // what is behind the call that sends is no step of its own
      for (const later of events.slice(index + 1))
        if (later.event.within.length > event.within.length && isInside(later.event, event)) done.add(later.event);
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
    const told = scene.tells(event);
    if (told.length) {
      for (const one of told) {
        const does = stepOfTelling(one, branch, scene, status);
        if (does) add(does, event, branch);
      }
      return;
    }
    if (event.kind === 'assign') return;
    if (scene.checks(event) !== undefined) {
      add('check', event, branch);
      return;
    }
    const does = stepOfCall(event, scene);
    if (does) add(does, event, branch);
    const last = steps.at(-1);
    if (does !== 'reset-some' || !last) return;
    const back = reset.get(last) ?? new Set<string>();
    for (const use of scene.model.uses)
      if (within(use.span, event)) putBack(use, scene).forEach((name) => back.add(name));
    reset.set(last, back);
  });
  const all = fieldsOf(scene.model).map(({ name }) => name);
  return steps.map((step) => {
    const back = reset.get(step);
    return step.does === 'reset-some' && back && all.every((name) => back.has(name))
      ? { ...step, does: 'reset' }
      : step;
  });
}

function isInside(later: FlowEvent, send: FlowEvent): boolean {
  const answers = later.arms.some(
    ({ kind, of }) =>
      /^(then|rejected|settled)$/.test(kind) && !send.arms.some((arm) => arm.of === of && arm.kind === kind),
  );
  return !answers && send.within.every((node, index) => later.within[index] === node);
}

/** The first rule that a handler states in its own statements, where an event is a part of it. */
function inlineRule(event: FlowEvent, { model }: Scene): Span | undefined {
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
  { cell, value }: Telling,
  branch: SubmitStep['branch'],
  scene: Scene,
  status: readonly Status[],
): StepKind | undefined {
  const roles = new Set<StatusRole>(status.filter(({ name }) => name === cell.name).map(({ role }) => role));
  if (!roles.size) return scene.holders.includes(cell) ? 'reset' : 'other';
  const clears = value?.isNullLiteral() === true || value?.isStringLiteral({ value: '' }) === true;
  if (roles.has('submitting') && roles.size > 1)
    return ({ before: 'begin', success: 'done', failure: 'message', always: 'end' } as const)[branch];
  if (roles.size > 1) return branch === 'success' && !clears ? 'done' : 'message';
  // messages that go after success are a part of putting the form back
  const empties = value?.isObjectExpression() === true && value.node.properties.length === 0;
  if (branch === 'success' && empties) return undefined;
  const lowers = value?.isBooleanLiteral({ value: false }) === true || value?.isNullLiteral() === true;
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

function stepOfCall(event: FlowEvent, scene: Scene): StepKind | undefined {
  const { path, statement } = event;
  const name = calledMember(path);
  if (name === 'focus' || name === 'reportValidity' || name === 'scrollIntoView')
    return name === 'reportValidity' ? 'check' : 'focus-first';
  const use = scene.model.uses.find(
    ({ kind, span }) =>
      /^(set|reset)/.test(kind) &&
      span.start >= (path.node.start ?? 0) &&
      span.end <= (path.node.end ?? 0) &&
      span.file === event.script.file,
  );
  if (use && changesValues(event, scene)) {
    if (use.kind === 'set') return use.resetsAll ? 'reset' : 'reset-some';
    return use.kind === 'reset' && use.of !== undefined ? 'reset-some' : 'reset';
  }
  if (name === 'reset' && scene.model.approach === 'dom-values') return 'reset';
  if (!statement || isPlainCall(path) || /^(preventDefault|stopPropagation|persist|log|warn|error|debug)$/.test(name))
    return undefined;
  if (
    /^(append|push|set|delete|trim|sort|json|text|forEach|map|filter|some|every|find|reduce|flatMap)$/.test(name) &&
    !path.isIdentifier()
  )
    return undefined;
  return isFollowed(event, scene) ? undefined : 'other';
}

/** Whether what a call does stands among the events that follow. */
function isFollowed({ path, script }: FlowEvent, scene: Scene): boolean {
  const callee = path.isCallExpression() ? (path.get('callee') as NodePath) : undefined;
  return callee !== undefined && functionBehind({ path: callee, script }, scene.trail, scene.given) !== undefined;
}

/** The fields that a change puts back to their start. */
function putBack(use: Use, { model, site }: Scene): string[] {
  if (use.kind !== 'set') return [];
  return use.assignments.flatMap(({ field, value }) => {
    const start = model.fields.find(({ name }) => name === field)?.initial.text;
    const code = value.kind === 'value' && value.operator === undefined ? value.code : undefined;
    const text = code && code.file === site.script.file ? site.script.text.slice(code.start, code.end) : undefined;
    return value.kind === 'initial' || (text !== undefined && plainText(text) === plainText(start ?? ''))
      ? [field]
      : [];
  });
}

function plainText(text: string): string {
  return text.trim().replace(/"/g, "'");
}
