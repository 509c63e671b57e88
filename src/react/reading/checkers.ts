import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { isWithin, spanAt } from '../../course/cell.js';
import { textAt, type FlowEvent } from '../../course/flow.js';
import type { Checker, Run, RunMoment, Status } from '../../form/life.js';
import { fieldsOf } from '../../form/model.js';
import type { Placed } from '../../source/behind-names.js';
import type { Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** A run, with the function or expression that states the rules. */
export interface PlacedRun extends Run {
  name: string;
  fn: Placed | undefined;
}

/** Every place that runs rules: calls of functions that state them, handlers and constants that state them in place. */
export function runsOf(scene: Scene): PlacedRun[] {
  const found: PlacedRun[] = [];
  const add = (run: PlacedRun): void => {
    const same = found.find(
      (one) => one.name === run.name && one.moment === run.moment && one.span.start === run.span.start,
    );
    if (!same) found.push(run);
    else same.of = same.of === 'all' || run.of === 'all' ? 'all' : [...new Set([...same.of, ...run.of])];
  };
  for (const { moment, of, events } of scene.entries)
    for (const event of events) {
      const checker = event.kind === 'call' ? scene.checks(event) : undefined;
      if (checker)
        add({
          ...checker,
          moment,
          of: ranFor(event, of, scene),
          when: conditionOf(event, moment),
          span: spanAt(event),
        });
      for (const inline of inlineCheckers(event, scene))
        add({ ...inline, moment, of, when: null, span: spanAt(event) });
    }
  for (const place of scene.places)
    walk(place.path, {
      CallExpression(call) {
        if (!runsWhileRendering(call, place.path)) return;
        const at = { path: call as NodePath, script: place.script };
        const checker = scene.checks(at);
        if (checker) add({ ...checker, moment: 'always', of: 'all', when: null, span: spanAt(at) });
      },
    });
  return found;
}

function runsWhileRendering(call: NodePath, component: NodePath): boolean {
  const fn = call.findParent((parent) => parent.isFunction());
  if (!fn || fn.node === component.node) return fn !== null;
  if (component.isClass()) return fn.isClassMethod() && t.isIdentifier(fn.node.key, { name: 'render' });
  const memo = fn.parentPath?.isCallExpression() === true ? fn.parentPath.node.callee : undefined;
  const outer = fn.parentPath?.findParent((parent) => parent.isFunction());
  return t.isIdentifier(memo, { name: 'useMemo' }) && outer?.node === component.node;
}

/** A handler that states rules in its own statements, at the first of its events. */
function inlineCheckers(event: FlowEvent, { model, entries }: Scene): { name: string; fn: Placed }[] {
  const fn = event.within.at(-1);
  const stated = model.rules.find(
    ({ statedIn, span }) =>
      statedIn &&
      fn &&
      statedIn.fn.file === event.script.file &&
      statedIn.fn.start === fn.start &&
      span.file === statedIn.fn.file &&
      span.start >= statedIn.fn.start &&
      span.end <= statedIn.fn.end,
  );
  if (!stated || !fn) return [];
  const around = event.path.findParent((parent) => parent.node === fn);
  const first = entries.flatMap(({ events }) => events).find((one) => one.within.at(-1) === fn);
  return around && first === event
    ? [{ name: nameOfFunction(around), fn: { path: around, script: event.script } }]
    : [];
}

function nameOfFunction(fn: NodePath): string {
  if (fn.isFunctionDeclaration() && fn.node.id) return fn.node.id.name;
  if (fn.isClassMethod() && t.isIdentifier(fn.node.key)) return fn.node.key.name;
  const holder = fn.findParent(
    (parent) => parent.isVariableDeclarator() || parent.isClassProperty() || parent.isJSXAttribute(),
  );
  if (holder?.isVariableDeclarator() && t.isIdentifier(holder.node.id)) return holder.node.id.name;
  if (holder?.isClassProperty() && t.isIdentifier(holder.node.key)) return holder.node.key.name;
  return holder?.isJSXAttribute() && t.isJSXIdentifier(holder.node.name) ? holder.node.name.name : 'inline';
}

export function checkersOf(runs: readonly PlacedRun[]): Checker[] {
  const names = [...new Set(runs.map(({ name }) => name))];
  return names.map((name) => ({
    name,
    runs: runs.filter((run) => run.name === name).map(({ moment, of, when, span }) => ({ moment, of, when, span })),
  }));
}

const order: readonly RunMoment[] = ['first-view', 'change', 'blur', 'submit', 'always'];

/** When each rule runs. */
export function momentsOf({ model }: Scene, runs: readonly PlacedRun[], derived: readonly Status[]): RunMoment[][] {
  return model.rules.map((rule) => {
    if (rule.stated === 'native') return ['submit'];
    const own = runs.filter(
      ({ fn, of }) =>
        (rule.statedIn ? fn && isWithin(rule.statedIn.fn, fn) : fn === undefined) &&
        (of === 'all' || of.includes(rule.fields[0] ?? '')),
    );
    const found = own.map(({ moment }) => moment);
    const worked = derived.some(({ span }) => span.start <= rule.span.start && span.end >= rule.span.end);
    if (worked || (!found.length && !rule.statedIn)) found.push('always');
    return found.length ? order.filter((moment) => found.includes(moment)) : [rule.moment];
  });
}

/** The fields that a run is for: those whose key or value it is given, where it is given one. */
function ranFor(event: Parameters<typeof textAt>[0], of: 'all' | string[], scene: Scene): 'all' | string[] {
  const call = event.path;
  if (!call.isCallExpression()) return 'all';
  const given = call.get('arguments') as NodePath[];
  const all = fieldsOf(scene.model).map(({ name }) => name);
  const named = given.flatMap((one) => (one.isStringLiteral() && all.includes(one.node.value) ? [one.node.value] : []));
  if (named.length) return named;
  const byName = given.some(
    (one) =>
      (one.isIdentifier() && /^(name|field|key|path)$/.test(one.node.name)) ||
      (one.isMemberExpression() && t.isIdentifier(one.node.property, { name: 'name' })),
  );
  const callee = call.node.callee;
  if (byName || t.isMemberExpression(callee, { computed: true })) return of;
  const read = given.flatMap((one) => scene.reads({ path: one, script: event.script }));
  return read.length && new Set(read).size < all.length && given.every((one) => !one.isObjectExpression())
    ? [...new Set(read)]
    : 'all';
}

/** The condition under which a check runs; what only keeps a send from being started twice is none. */
function conditionOf({ arms }: Pick<FlowEvent, 'arms'>, moment: RunMoment): string | null {
  const tests = arms.flatMap(({ kind, of, side, script }) => {
    if (kind !== 'if' || side === undefined || (side === 'after' && moment === 'submit')) return [];
    const test = of.isLogicalExpression()
      ? of.get('left')
      : of.isIfStatement() || of.isConditionalExpression()
        ? (of.get('test') as NodePath)
        : undefined;
    if (!test) return [];
    const text = textAt({ path: test, script });
    return [side === 'then' ? text : `!(${text})`];
  });
  return tests.length ? tests.join(' && ') : null;
}
