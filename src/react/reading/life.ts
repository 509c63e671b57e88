import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Checker, FormLife, Run, RunMoment, Status, ValueChange } from '../../form/life.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import type { Placed } from '../../source/behind-names.js';
import { textAt, type FlowEvent } from '../../course/flow.js';
import type { FormSite } from '../approach.js';
import { branched } from '../../course/branches.js';
import { messagesOf } from './messages.js';
import type { Told } from '../../course/cell.js';
import { rolesOf } from '../../course/roles.js';
import { memoised, sceneOf, spanAt, within, type Scene } from './scene.js';
import { courseOf } from './submit.js';

/** A model that tells what happens to the form besides its values, once that is asked for. */
export function withLife(model: FormModel, site: FormSite): FormModel {
  let life: FormLife | undefined;
  return { ...model, life: () => (life ??= lifeOf(site, model)) };
}

/** What happens to a form besides its values: status, runs of its rules, messages, the submit, changes. */
function lifeOf(site: FormSite, model: FormModel): FormLife {
  const scene = sceneOf(site, model);
  const told = tellingsOf(scene);
  const kept = scene.cells.flatMap((cell) => rolesOf(cell, told, scene));
  const status = [...kept, ...derivedStatus(scene, kept)];
  const runs = runsOf(scene);
  return {
    status,
    checkers: checkersOf(runs),
    moments: momentsOf(scene, runs, status),
    shown: messagesOf(scene, status),
    course: courseOf(scene, status),
    changed: changesOf(scene),
  };
}

function tellingsOf(scene: Scene): Told[] {
  return scene.entries.flatMap(({ moment, events, submits }) => {
    const { events: placed } = branched(events, scene);
    return placed.flatMap(({ event, branch }) =>
      scene.tells(event).map((one): Told => ({ ...one, moment, branch: submits ? branch : undefined })),
    );
  });
}

/** Status that is worked out while rendering: messages of a checker, whether anything was changed. */
function derivedStatus(scene: Scene, kept: readonly Status[]): Status[] {
  const found: Status[] = [];
  const { component, script } = scene.site;
  const places = [{ path: component.path as NodePath, script }, ...scene.trail.hooks.map(({ fn }) => fn)];
  for (const place of places) {
    const body = renderingBody(place.path);
    if (!body?.isBlockStatement()) continue;
    for (const statement of body.get('body')) {
      if (!statement.isVariableDeclaration()) continue;
      for (const declarator of statement.get('declarations')) {
        const { id } = declarator.node;
        const init = declarator.get('init') as NodePath;
        if (!init.node || !t.isIdentifier(id)) continue;
        const value = memoised(init);
        if (value.isFunction()) continue;
        const at = { path: declarator as NodePath, script: place.script };
        const status = (role: Status['role'], shape: Status['shape']): void => {
          if (!kept.some(({ name }) => name === id.name))
            found.push({ role, name: id.name, shape, derived: true, span: spanAt(at) });
        };
        if (isFilled(declarator, place.script, scene)) status('errors', 'by-field');
        else if (checkIn(value, place.script, scene)) status('errors', shapeOfAnswer(value, place.script, scene));
        else if (statesRule(value, scene)) status('errors', 'one');
        else if (
          /dirty|changed|modified|unsaved|pristine/i.test(id.name) &&
          scene.reads({ path: value, script: place.script }).length
        )
          status('changed', 'one');
      }
    }
  }
  return found;
}

/** The block that runs at every render. */
function renderingBody(component: NodePath): NodePath | undefined {
  if (component.isFunction()) return component.get('body') as NodePath;
  if (!component.isClass()) return undefined;
  const members = component.get('body').get('body') as NodePath[];
  const render = members.find((one) => one.isClassMethod() && t.isIdentifier(one.node.key, { name: 'render' }));
  return render?.isClassMethod() ? render.get('body') : undefined;
}

/** Whether a constant begins empty and is filled with messages while rendering: `if (!row) errors.row = 'Which row?'`. */
function isFilled(declarator: NodePath<t.VariableDeclarator>, script: FormSite['script'], { model }: Scene): boolean {
  const { id, init } = declarator.node;
  if (!t.isObjectExpression(init) || !t.isIdentifier(id)) return false;
  const written = new RegExp(`\\b${id.name}(\\.|\\[)[^=]*=[^=]`);
  return model.rules.some(({ span, statedIn, stated }) => {
    if (stated !== 'code' || statedIn || span.file !== script.file || span.start < (declarator.node.start ?? 0))
      return false;
    const lineEnd = script.text.indexOf('\n', span.end);
    return written.test(script.text.slice(span.start, lineEnd < 0 ? undefined : lineEnd + 200));
  });
}

/** Whether an expression is what a checker answers, and nothing more. */
function checkIn(value: NodePath, script: FormSite['script'], scene: Scene): boolean {
  if (value.isBlockStatement()) {
    let found = false;
    value.traverse({
      CallExpression(call) {
        if (scene.checks({ path: call, script }) !== undefined) found = true;
      },
    });
    return found;
  }
  if (value.isConditionalExpression())
    return checkIn(value.get('consequent'), script, scene) || checkIn(value.get('alternate'), script, scene);
  if (value.isLogicalExpression()) return checkIn(value.get('right'), script, scene);
  return value.isCallExpression() && scene.checks({ path: value, script }) !== undefined;
}

function checkerIn(value: NodePath, script: FormSite['script'], scene: Scene): Placed | undefined {
  if (value.isCallExpression()) return scene.checks({ path: value, script })?.fn;
  if (value.isConditionalExpression())
    return checkerIn(value.get('consequent'), script, scene) ?? checkerIn(value.get('alternate'), script, scene);
  return value.isLogicalExpression() ? checkerIn(value.get('right'), script, scene) : undefined;
}

function shapeOfAnswer(value: NodePath, script: FormSite['script'], scene: Scene): Status['shape'] {
  const fn = checkerIn(value, script, scene);
  if (!fn) return 'by-field';
  const own = scene.model.rules.filter(({ statedIn }) => statedIn && within(statedIn.fn, fn));
  return own.some(({ keyed }) => keyed) ? 'by-field' : 'one';
}

function statesRule(value: NodePath, { model, site }: Scene): boolean {
  const { start, end } = value.node;
  return model.rules.some(
    ({ span, stated, statedIn, message }) =>
      stated === 'code' &&
      !statedIn &&
      message !== undefined &&
      span.file === site.script.file &&
      span.start >= (start ?? 0) &&
      span.end <= (end ?? 0),
  );
}

/** A run, with the function or expression that states the rules. */
interface PlacedRun extends Run {
  name: string;
  fn: Placed | undefined;
}

/** Every place that runs rules: calls of functions that state them, handlers and constants that state them in place. */
function runsOf(scene: Scene): PlacedRun[] {
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
  const { component, script } = scene.site;
  for (const place of [{ path: component.path as NodePath, script }, ...scene.trail.hooks.map(({ fn }) => fn)])
    place.path.traverse({
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

function checkersOf(runs: readonly PlacedRun[]): Checker[] {
  const names = [...new Set(runs.map(({ name }) => name))];
  return names.map((name) => ({
    name,
    runs: runs.filter((run) => run.name === name).map(({ moment, of, when, span }) => ({ moment, of, when, span })),
  }));
}

const order: readonly RunMoment[] = ['first-view', 'change', 'blur', 'submit', 'always'];

/** When each rule runs. */
function momentsOf({ model }: Scene, runs: readonly PlacedRun[], derived: readonly Status[]): RunMoment[][] {
  return model.rules.map((rule) => {
    if (rule.stated === 'native') return ['submit'];
    const own = runs.filter(
      ({ fn, of }) =>
        (rule.statedIn ? fn && within(rule.statedIn.fn, fn) : fn === undefined) &&
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

/** Places that change values beyond a control taking in its own. */
function changesOf(scene: Scene): ValueChange[] {
  const { model } = scene;
  if (!model.uses.some(({ kind }) => /^(set|reset|change)/.test(kind))) return heldChanges(scene);
  const all = fieldsOf(model).map(({ name }) => name);
  const groups: { change: ValueChange; uses: Use[] }[] = [];
  for (const use of model.uses) {
    const one = changeOf(use, all);
    if (!one) continue;
    const last = groups.at(-1);
    // setters that follow one another are one change
    if (last && !last.change.whole && !one.whole && followsOn(last.change, one, scene)) {
      last.change.fields = [...new Set([...last.change.fields, ...one.fields])];
      last.change.span = { ...last.change.span, end: one.span.end };
      last.uses.push(use);
    } else groups.push({ change: one, uses: [use] });
  }
  return groups
    .filter(({ change, uses }) => !uses.every((use) => isBinding(use, change, scene)))
    .map(({ change }) => change);
}

/** Changes of a class's state, or of the state in a hook: what is set, but for a control's own value. */
function heldChanges(scene: Scene): ValueChange[] {
  const all = fieldsOf(scene.model).map(({ name }) => name);
  const { component, script } = scene.site;
  const found: ValueChange[] = [];
  const places = [{ path: component.path as NodePath, script }, ...scene.trail.hooks.map(({ fn }) => fn)];
  for (const place of places)
    place.path.traverse({
      CallExpression(call) {
        const [first] = call.get('arguments') as (NodePath | undefined)[];
        const value = first ? settledValue(first) : undefined;
        if (!value || !setsValues(call, scene)) return;
        const at = { path: call as NodePath, script: place.script };
        const fields = value.isObjectExpression() ? keysOf(value, all) : [...all];
        if (fields.length && !isWiring(call, fields, scene))
          found.push({ span: spanAt(at), fields, whole: !value.isObjectExpression() && !value.isIdentifier() });
      },
    });
  return found;
}

function setsValues(call: NodePath<t.CallExpression>, { holders, site }: Scene): boolean {
  const { callee } = call.node;
  if (t.isIdentifier(callee)) {
    const binding = call.scope.getBinding(callee.name);
    return binding !== undefined && holders.some(({ setter }) => setter === binding);
  }
  return (
    site.component.kind === 'class' &&
    t.isMemberExpression(callee) &&
    t.isThisExpression(callee.object) &&
    t.isIdentifier(callee.property, { name: 'setState' })
  );
}

/** What a setter is given in the end: of an updater what it returns. */
function settledValue(path: NodePath): NodePath {
  if (!path.isArrowFunctionExpression()) return path;
  const body = path.get('body') as NodePath;
  if (!body.isBlockStatement()) return body;
  const last = body.get('body').at(-1);
  return last?.isReturnStatement() && last.node.argument ? (last.get('argument') as NodePath) : path;
}

/** The fields that an object gives a value; a spread of anything but the previous values gives it to all. */
function keysOf(object: NodePath<t.ObjectExpression>, all: readonly string[]): string[] {
  const found = new Set<string>();
  for (const one of object.node.properties) {
    if (t.isSpreadElement(one)) {
      const text = one.argument;
      const before = t.isIdentifier(text) && /^(old|prev|previous|current|state|now|before|s|v|values)/.test(text.name);
      if (!before) all.forEach((name) => found.add(name));
    } else if (one.computed) return [];
    else if (t.isIdentifier(one.key) && all.includes(one.key.name)) found.add(one.key.name);
  }
  return [...found];
}

/** Whether a control's handler only takes in the control's own value. */
function isWiring(call: NodePath, fields: readonly string[], { entries, model }: Scene): boolean {
  const start = call.node.start ?? 0;
  const control = model.controls.find(({ span }) => span.start <= start && span.end > start);
  if (control) return fields.every((name) => name === control.field);
  const own = entries.filter(({ events }) => events.some(({ path }) => path.node === call.node));
  return (
    own.length > 0 &&
    own.every(({ moment, of }) => moment === 'change' && of !== 'all' && fields.every((name) => of.includes(name)))
  );
}

function changeOf(use: Use, all: readonly string[]): ValueChange | undefined {
  switch (use.kind) {
    case 'set': {
      const fields = use.resetsAll
        ? [...all]
        : [...new Set(use.assignments.map(({ field }) => field))].filter((name) => all.includes(name));
      return fields.length ? { span: use.span, fields, whole: false } : undefined;
    }
    case 'set-named':
      return {
        span: use.span,
        fields: [...new Set([...use.choices, ...use.rest].map(({ field }) => field))],
        whole: false,
      };
    case 'set-all':
      return { span: use.span, fields: [...all], whole: true };
    case 'reset':
      return { span: use.span, fields: use.of === undefined ? [...all] : [use.of], whole: false };
    case 'change-rows':
      return { span: use.span, fields: [use.list], whole: false };
    default:
      return undefined;
  }
}

/** Whether a change is a control taking in its own value. */
function isBinding(use: Use, change: ValueChange, scene: Scene): boolean {
  const { model } = scene;
  if (use.kind === 'set-named') return use.rest.length === 0;
  const control = model.controls.find(
    ({ span }) => span.file === use.span.file && span.start <= use.span.start && span.end >= use.span.end,
  );
  if (control)
    return (
      change.fields.every(
        (name) =>
          name === control.field || control.field.startsWith(`${name}.`) || name.startsWith(`${control.field}.`),
      ) && !change.whole
    );
  const entries = scene.entries.filter(({ events }) =>
    events.some(
      (event) =>
        event.script.file === use.span.file &&
        (event.path.node.start ?? -1) <= use.span.start &&
        (event.path.node.end ?? -1) >= use.span.end,
    ),
  );
  return (
    entries.length > 0 &&
    entries.every(
      ({ moment, of, submits }) =>
        moment === 'change' && !submits && of !== 'all' && change.fields.every((name) => of.includes(name)),
    )
  );
}

/** Whether one change stands right behind another, with nothing between them that waits or belongs to another function. */
function followsOn(last: ValueChange, next: ValueChange, scene: Scene): boolean {
  if (last.span.file !== next.span.file || scene.model.approach === 'reducer') return false;
  const text = scene.site.script.file === last.span.file ? scene.site.script.text : '';
  const between = text.slice(last.span.end, next.span.start);
  return text !== '' && !/[{}]|await|=>|\breturn\b/.test(between.replace(/\(\s*(\w+)\s*\)\s*=>/g, ''));
}
