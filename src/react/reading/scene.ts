import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { RunMoment } from '../../form/life.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import { bare, type Placed } from '../../source/behind-names.js';
import type { Cell, CourseGuide } from '../../course/cell.js';
import { flowOf, type FlowEvent } from '../../course/flow.js';
import type { FormSite } from '../approach.js';
import { attributesOf } from '../jsx-controls.js';
import { cellAsked, cellsOf, tellings } from './cells.js';
import { calledHooks, functionBehind, remember, through, type Given, type NameTrail } from './names.js';

/** A way in which code of a form begins to run. */
export interface Entry {
  moment: RunMoment;
  /** The fields whose control it hangs on; all of them where it hangs on the form. */
  of: 'all' | string[];
  events: FlowEvent[];
  at: Placed;
  /** It hangs on the form's submit, or on the button that sends. */
  submits: boolean;
  /** The event of the markup; undefined for an effect. */
  event?: string;
}

/** A checker that a call runs: its name, and where it stands, where that is known. */
export interface CheckerRun {
  name: string;
  fn: Placed | undefined;
}

/** Everything that is asked again and again while the life of a form is read. */
export interface Scene extends CourseGuide {
  site: FormSite;
  model: FormModel;
  trail: NameTrail;
  given: Given;
  cells: Cell[];
  /** State that holds the values, where the uses of the model do not tell. */
  holders: Cell[];
  entries: Entry[];
  /** The checker that a call runs; undefined where it runs none. */
  checks(at: Placed): CheckerRun | undefined;
  /** The fields that an expression reads; all of them where it reads the values as a whole. */
  reads(at: Placed): string[];
}

/** Looks over a component once. */
export function sceneOf(site: FormSite, model: FormModel): Scene {
  const component: Placed = { path: site.component.path, script: site.script };
  const hooks = site.component.kind === 'function' ? calledHooks(component, site.load) : [];
  const trail: NameTrail = { hooks, load: site.load };
  const places = [component, ...new Map(hooks.map(({ fn }) => [fn.path.node, fn])).values()];
  const all = cellsOf(places, model);
  const holders = model.uses.length
    ? []
    : all.filter(
        (cell) =>
          cell.name === model.holder?.name ||
          ((model.holder === undefined || model.approach === 'own-hook') && isHolder(cell)),
      );
  const cells = all.filter((cell) => !holders.includes(cell));
  const scene: Scene = {
    site,
    model,
    trail,
    given: new Map(),
    cells,
    holders,
    entries: [],
    tells: (at) => tellings(at, cells, model, trail),
    checks: (at) => checkerRun(at, scene),
    reads: (at) => fieldsRead(at, scene),
    sends: (at) => carriesOut(at, scene),
    disables: (cell) => disables(cell, scene),
  };
  for (const { call, fn } of hooks) remember(scene.given, fn.path, call, homeOf(call, places, site.script));
  scene.entries = entriesOf(component, places, scene);
  return scene;
}

/** The file that a call stands in. */
function homeOf(call: NodePath, places: readonly Placed[], script: Placed['script']): Placed['script'] {
  const home = places.find(({ path }) => call.findParent((parent) => parent.node === path.node) !== null);
  return home?.script ?? script;
}

/** State that begins as what the form begins as: an object of values, or what a hook is given. */
function isHolder({ kind, start }: Cell): boolean {
  if (kind !== 'variable' || !start) return false;
  const plain = bare(start);
  return plain.isObjectExpression()
    ? plain.node.properties.length > 0
    : plain.isIdentifier() || plain.isCallExpression();
}

/** The span that some events begin at, for the model. */
export function spanAt({ path, script }: Placed): Span {
  return { file: script.file, start: path.node.start ?? 0, end: path.node.end ?? 0 };
}

export function within(inner: Span, { path, script }: Placed): boolean {
  return inner.file === script.file && inner.start >= (path.node.start ?? 0) && inner.end <= (path.node.end ?? 0);
}

/** The fields that an expression reads, through constants of the component. */
function fieldsRead(at: Placed, scene: Scene, seen = new Set<t.Node>()): string[] {
  if (seen.has(at.path.node)) return [];
  seen.add(at.path.node);
  const all = fieldsOf(scene.model).map(({ name }) => name);
  const found = new Set<string>();
  for (const use of scene.model.uses) {
    if (!within(use.span, at)) continue;
    if (use.kind === 'read') found.add(use.field);
    if (use.kind === 'read-all') all.forEach((name) => found.add(name));
  }
  const look = (path: NodePath): void => {
    for (const name of classReads(path, at, scene, seen)) found.add(name);
    if (!path.isReferencedIdentifier()) return;
    const binding = path.scope.getBinding(path.node.name);
    if (!binding) return;
    const target = through({ path, script: at.script }, scene.trail);
    const named = target.path.isIdentifier() ? target.path.scope.getBinding(target.path.node.name) : undefined;
    if (named && scene.holders.some((cell) => cell.value === named)) all.forEach((name) => found.add(name));
    // values that come out of a hook have no state of their own here
    const bare = scene.model.uses.length === 0 && !scene.holders.length && path.node.name === scene.model.holder?.name;
    if (bare && binding.path.isVariableDeclarator()) all.forEach((name) => found.add(name));
    const known = scene.given.get(binding);
    if (known) fieldsRead(known, scene, seen).forEach((name) => found.add(name));
    const declared = binding.path;
    const init = declared.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
    const value = init?.node ? memoised(init) : undefined;
    if (value && !value.isFunction() && !isHookCall(value))
      fieldsRead({ path: value, script: at.script }, scene, seen).forEach((name) => found.add(name));
    // what a hook hands to the function it is given are the values
    if (binding.kind === 'param' && isHandedToHook(declared)) all.forEach((name) => found.add(name));
  };
  look(at.path);
  at.path.traverse({ Identifier: look, MemberExpression: look });
  if (readsPage(at, scene)) all.forEach((name) => found.add(name));
  return [...found];
}

/** The fields that a class reads of its state at a place: by name, as a whole, or through a method. */
function classReads(path: NodePath, at: Placed, scene: Scene, seen: Set<t.Node>): string[] {
  const { model, site } = scene;
  if (site.component.kind !== 'class') return [];
  const all = fieldsOf(model).map(({ name }) => name);
  if (path.isIdentifier()) {
    const declared = path.scope.getBinding(path.node.name)?.path;
    const id = declared?.isVariableDeclarator() ? declared.node.id : undefined;
    const ofState = t.isObjectPattern(id) && declared?.isVariableDeclarator() && isThisState(declared.node.init);
    return ofState && all.includes(path.node.name) ? [path.node.name] : [];
  }
  if (!path.isMemberExpression() || !t.isIdentifier(path.node.property)) return [];
  const { name } = path.node.property;
  if (isThisState(path.node.object)) return all.includes(name) ? [name] : [];
  if (isThisState(path.node) && !path.parentPath.isMemberExpression()) return all;
  if (!t.isThisExpression(path.node.object) || path.key !== 'callee') return [];
  const method = functionBehind({ path, script: at.script }, scene.trail, scene.given);
  return method ? fieldsRead(method, scene, seen) : [];
}

function isThisState(node: t.Node | null | undefined): boolean {
  return (
    t.isMemberExpression(node) && t.isThisExpression(node.object) && t.isIdentifier(node.property, { name: 'state' })
  );
}

/** Whether the page is asked for its values right here. */
function readsPage({ path, script }: Placed, { model }: Scene): boolean {
  if (model.approach !== 'dom-values') return false;
  return /new FormData\(|\.elements\b|\.current[?!]?\.value/.test(
    script.text.slice(path.node.start ?? 0, path.node.end ?? 0),
  );
}

function isHandedToHook(parameter: NodePath): boolean {
  const fn = parameter.isFunction() ? parameter : parameter.findParent((parent) => parent.isFunction());
  const call = fn?.findParent((parent) => parent.isCallExpression() || parent.isStatement());
  if (!call?.isCallExpression() || fn?.findParent((parent) => parent.isCallExpression()) !== call) return false;
  const { callee } = call.node;
  const name = t.isIdentifier(callee)
    ? callee.name
    : t.isMemberExpression(callee) && t.isIdentifier(callee.property)
      ? callee.property.name
      : '';
  return (
    /^(handleSubmit|onSubmit|submit|submitWith)$/.test(name) ||
    (/^use[A-Z]/.test(name) && !/^use(Callback|\w*Effect|Memo|State|Reducer|Ref)$/.test(name))
  );
}

function isHookCall(path: NodePath): boolean {
  return path.isCallExpression() && t.isIdentifier(path.node.callee) && /^use[A-Z]/.test(path.node.callee.name);
}

/** What `useMemo` works out; the expression itself otherwise. */
export function memoised(path: NodePath): NodePath {
  const plain = bare(path);
  if (!plain.isCallExpression() || !t.isIdentifier(plain.node.callee, { name: 'useMemo' })) return plain;
  const fn = plain.get('arguments')[0] as NodePath | undefined;
  if (!fn?.isFunction()) return plain;
  const body = fn.get('body') as NodePath;
  return body.isBlockStatement() ? body : bare(body);
}

const checkNames =
  /^(validat|verify|(get|find|collect|compute)(Errors|Problems|Issues)|(errors|problems)(Of|For|In)$|safeParse$)/i;

/** The checker that a call runs: a function in which the model knows rules, or one whose name and answer say so. */
function checkerRun(at: Placed, scene: Scene): CheckerRun | undefined {
  const { path } = at;
  if (!path.isCallExpression() && !path.isOptionalCallExpression()) return undefined;
  const callee = path.get('callee') as NodePath;
  const named = callee.isIdentifier()
    ? callee.node.name
    : callee.isMemberExpression() && t.isIdentifier(callee.node.property)
      ? callee.node.property.name
      : '';
  const target = functionBehind({ path: callee, script: at.script }, scene.trail, scene.given);
  const isStated = (fn: Placed): boolean =>
    scene.model.rules.some(
      ({ statedIn }) =>
        statedIn && statedIn.fn.file === fn.script.file && statedIn.fn.start === (fn.path.node.start ?? 0),
    );
  if (target) return isStated(target) && !doesThings(target.path) ? { name: named || 'check', fn: target } : undefined;
  if (callee.isMemberExpression() && callee.node.computed && t.isIdentifier(callee.node.object)) {
    const table = through({ path: callee.get('object'), script: at.script }, scene.trail);
    const behind = table.path.isIdentifier() ? table.path.scope.getBinding(table.path.node.name)?.path : table.path;
    const file = table.script.file;
    const inside = behind
      ? scene.model.rules.some(
          ({ statedIn }) =>
            statedIn && statedIn.fn.file === file && within(statedIn.fn, { path: behind, script: table.script }),
        )
      : false;
    return inside && behind ? { name: callee.node.object.name, fn: { path: behind, script: table.script } } : undefined;
  }
  const given = path.get('arguments') as NodePath[];
  const speaks = given.some((one) => scene.reads({ path: one, script: at.script }).length > 0);
  return checkNames.test(named) && speaks ? { name: named, fn: undefined } : undefined;
}

/** Whether a function sets state or sends rather than only giving an answer. */
export function doesThings(fn: NodePath): boolean {
  let found = false;
  fn.traverse({
    AwaitExpression: () => {
      found = true;
    },
    CallExpression(call) {
      const { callee } = call.node;
      if (t.isIdentifier(callee) && /^set[A-Z]|^dispatch/.test(callee.name)) found = true;
      if (t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'preventDefault' })) found = true;
      if (t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'setState' })) found = true;
    },
  });
  return found;
}

function entriesOf(component: Placed, places: readonly Placed[], scene: Scene): Entry[] {
  const found: Entry[] = [];
  const flow = (fn: Placed): FlowEvent[] =>
    flowOf(fn, {
      follow(call, at) {
        if (scene.tells(at).length || scene.checks(at) !== undefined) return undefined;
        const target = functionBehind(
          { path: call.get('callee') as NodePath, script: at.script },
          scene.trail,
          scene.given,
        );
        if (target) remember(scene.given, target.path, call, at.script);
        return target;
      },
    });
  const { element: region } = scene.site.region;
  const inRegion = (path: NodePath): boolean =>
    !region ||
    scene.site.regions.length < 2 ||
    path.node === region.node ||
    path.findParent((one) => one.node === region.node) !== null;
  component.path.traverse({
    JSXElement(element) {
      if (!inRegion(element)) return;
      for (const { name, value } of attributesOf(element)) {
        if (!value || !/^(on|handle)[A-Z]|^action$/.test(name)) continue;
        const fn = functionBehind({ path: value, script: component.script }, scene.trail, scene.given);
        if (!fn) continue;
        const isForm = element.node === region?.node;
        const moment = momentOf(name, isForm);
        const control = scene.model.controls.find(
          ({ span }) => span.start === element.node.start && span.end === element.node.end,
        );
        found.push({
          moment,
          of: control ? [control.field] : 'all',
          events: flow(fn),
          at: fn,
          submits: isForm && /^on(Submit|Finish)$|^action$/.test(name),
          event: name,
        });
      }
    },
  });
  for (const place of places)
    place.path.traverse({
      CallExpression(call) {
        const { callee } = call.node;
        const name = t.isIdentifier(callee) ? callee.name : '';
        const [fn, list] = call.get('arguments') as (NodePath | undefined)[];
        if (!/^use\w*Effect$/.test(name) || !fn?.isFunction()) return;
        const once = list?.isArrayExpression() === true && list.node.elements.length === 0;
        const at = { path: fn as NodePath, script: place.script };
        found.push({ moment: once ? 'first-view' : 'change', of: 'all', events: flow(at), at, submits: false });
      },
    });
  if (!found.some(({ submits }) => submits)) markSender(found, scene);
  return found;
}

/** Where no form's event sends, the button whose click does. */
function markSender(entries: Entry[], scene: Scene): void {
  for (const entry of entries) {
    if (!/^on(Click|Press|PointerUp|MouseUp|MouseDown)$/.test(entry.event ?? '')) continue;
    const sends = entry.events.some((event) => event.kind === 'call' && event.statement && carriesOut(event, scene));
    if (!sends) continue;
    entry.submits = true;
    entry.moment = 'submit';
    return;
  }
}

function momentOf(event: string, isForm: boolean): RunMoment {
  if (/blur|focusout/i.test(event)) return 'blur';
  if (isForm && /^on(Submit|Finish)$|^action$/.test(event)) return 'submit';
  return 'change';
}

const plainCallees =
  /^(String|Number|Boolean|parseInt|parseFloat|Object|Array|JSON|Math|Date|Set|Map|console|alert|require|structuredClone|setTimeout|clearTimeout|setInterval|clearInterval|requestAnimationFrame|Promise)$/;
const valueMethods =
  /^(preventDefault|stopPropagation|persist|trim|toUpperCase|toLowerCase|split|join|map|filter|some|every|find|forEach|reduce|keys|values|entries|stringify|parse|replace|slice|includes|push|concat|toFixed|toISOString|focus|current|querySelector|getElementById|reset|from|fromEntries|assign|add|has|get|getAll|append|set|test|match|startsWith|endsWith|padStart|json|text|then|catch|finally|reportValidity|checkValidity|setCustomValidity)$/;

/** The name at the root of what a call calls. */
function rootOf(callee: NodePath): string | undefined {
  let root: NodePath = callee;
  while (root.isMemberExpression() || root.isOptionalMemberExpression()) root = root.get('object') as NodePath;
  return root.isIdentifier() ? root.node.name : undefined;
}

/** Whether a call only asks the language or the browser's clock. */
export function isPlainCall(path: NodePath): boolean {
  const callee =
    path.isCallExpression() || path.isOptionalCallExpression() ? (path.get('callee') as NodePath) : undefined;
  return callee !== undefined && plainCallees.test(rootOf(callee) ?? '');
}

/** Whether a call hands the person's values to something outside of the form. */
export function carriesOut(at: Placed, scene: Scene): boolean {
  const { path, script } = at;
  if (!path.isCallExpression() && !path.isOptionalCallExpression()) return false;
  const callee = path.get('callee') as NodePath;
  const name = callee.isIdentifier()
    ? callee.node.name
    : (callee.isMemberExpression() || callee.isOptionalMemberExpression()) && t.isIdentifier(callee.node.property)
      ? callee.node.property.name
      : '';
  if (isPlainCall(path)) return false;
  if (!callee.isIdentifier() && valueMethods.test(name)) return false;
  if (scene.tells(at).length || scene.checks(at) !== undefined) return false;
  if (functionBehind({ path: callee, script }, scene.trail, scene.given) && isOwnFunction(callee, scene)) return false;
  if (changesValues(at, scene)) return false;
  const given = path.get('arguments') as NodePath[];
  return given.some((one) => scene.reads({ path: one, script }).length > 0);
}

/** Whether a call changes values of the form. */
export function changesValues(at: Placed, { model }: Scene): boolean {
  return model.uses.some(
    ({ kind, span }) =>
      /^(set|reset|change-rows|made-handler)/.test(kind) &&
      within(span, at) &&
      span.start < (at.path.node.start ?? 0) + 1,
  );
}

/** Whether a function stands inside of the component or of a hook of it. */
function isOwnFunction(callee: NodePath, scene: Scene): boolean {
  const fn = functionBehind({ path: callee, script: scene.site.script }, scene.trail, scene.given);
  if (!fn) return false;
  const homes = [scene.site.component.path, ...scene.trail.hooks.map((hook) => hook.fn.path)];
  return homes.some((home) => fn.path.findParent((parent) => parent.node === home.node) !== null);
}

/** Whether the markup disables something while a cell is up. */
function disables(cell: Cell, { site, cells, trail }: Scene): boolean {
  let found = false;
  const { path: component } = site.component;
  component.traverse({
    JSXAttribute(attribute) {
      const { name } = attribute.node.name;
      if (typeof name !== 'string' || !/^(disabled|aria-busy|inert|loading|busy)$/.test(name)) return;
      const look = (path: NodePath): void => {
        if (cellAsked({ path, script: site.script }, cells, trail) === cell) found = true;
      };
      attribute.traverse({ Identifier: look, MemberExpression: look });
    },
  });
  return found || /sending|saving|submitting|busy|pending|posting/i.test(cell.name);
}
