import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Cell, CourseGuide, Telling } from '../../course/cell.js';
import { calledMember, flowOf, textAt, type FlowEvent } from '../../course/flow.js';
import type { Span } from '../../form/code.js';
import type { RunMoment } from '../../form/life.js';
import type { FormModel } from '../../form/model.js';
import { bare, type Placed } from '../../source/behind-names.js';
import type { AngularSite } from '../form-site.js';
import { walk } from '../../source/traverse.js';

/** A way in which code of the class begins to run. */
export interface Entry {
  moment: RunMoment;
  submits: boolean;
  by: 'form' | 'button' | undefined;
  events: FlowEvent[];
  at: Placed;
  /** The template itself sends nothing that is wrong: `f.valid && send()`. */
  guard?: Span;
}

/** Everything that is asked again and again while the life of a form is read. */
export interface Scene extends CourseGuide {
  site: AngularSite;
  cells: Cell[];
  entries: Entry[];
}

/** Looks over a component's class and its template once. */
export function sceneOf(site: AngularSite, model: FormModel): Scene {
  const cells = cellsOf(site, model);
  const scene: Scene = {
    site,
    model,
    cells,
    entries: [],
    tells: (at) => tellings(at, cells),
    checks: () => undefined,
    sends: (at) => carriesOut(at, scene),
    disables: (cell) => disables(cell, site),
  };
  scene.entries = entriesOf(scene);
  return scene;
}

/** Members of the class that hold plain values or signals and are no part of the form. */
function cellsOf(site: AngularSite, model: FormModel): Cell[] {
  const { members, script } = site.component;
  const taken = new Set([
    model.template?.member,
    model.holder?.name,
    ...model.declarations.flatMap(({ span }) =>
      [...members.values()]
        .filter(({ node }) => span.start <= (node.start ?? 0) && span.end >= (node.end ?? 0))
        .map(({ name }) => name),
    ),
    ...model.fields.map(({ name }) => name),
    ...model.names.map(({ name }) => name),
  ]);
  const found: Cell[] = [];
  for (const { name, node, path, kind } of members.values()) {
    if (kind !== 'property' || taken.has(name) || !t.isClassProperty(node)) continue;
    const value = path.isClassProperty() ? (path.get('value') as NodePath) : undefined;
    const made = value?.node ? bare(value) : undefined;
    if (made?.isFunction()) continue;
    const signal = made?.isCallExpression() === true && t.isIdentifier(made.node.callee, { name: 'signal' });
    if (made?.isCallExpression() && !signal) continue;
    if (made?.isNewExpression() && !/^(Set|Map)$/.test(calledName(made))) continue;
    const start = signal ? (made.get('arguments')[0] as NodePath | undefined) : made;
    found.push({
      name,
      start,
      type: node.typeAnnotation ?? undefined,
      at: { path, script },
      value: name,
      setter: undefined,
      kind: 'member',
    });
  }
  return found;
}

function calledName(path: NodePath): string {
  return path.isNewExpression() && t.isIdentifier(path.node.callee) ? path.node.callee.name : '';
}

/** The member of the class that a path names: `this.sending`. */
function ownMember(path: NodePath): string | undefined {
  const { node } = path;
  return t.isMemberExpression(node) && t.isThisExpression(node.object) && t.isIdentifier(node.property)
    ? node.property.name
    : undefined;
}

function tellings(at: Placed, cells: readonly Cell[]): Telling[] {
  const { path } = at;
  if (path.isAssignmentExpression()) {
    const left = path.get('left') as NodePath;
    const holder = left.isMemberExpression() && !t.isThisExpression(left.node.object) ? left.get('object') : left;
    const cell = cells.find(({ name }) => name === ownMember(holder));
    return cell ? [{ cell, value: bare(path.get('right')), at }] : [];
  }
  if (!path.isCallExpression()) return [];
  const callee = path.get('callee') as NodePath;
  if (!callee.isMemberExpression() || !/^(set|update)$/.test(calledMember(path))) return [];
  const cell = cells.find(({ name }) => name === ownMember(callee.get('object')));
  const [first] = path.get('arguments') as (NodePath | undefined)[];
  if (!cell || !first) return [];
  const value = bare(first);
  const given = value.isArrowFunctionExpression() ? (value.get('body') as NodePath) : value;
  return [{ cell, value: bare(given), at }];
}

function disables(cell: Cell, { component }: AngularSite): boolean {
  const told = component.template.names.some(
    ({ name, attribute, variable }) =>
      !variable &&
      name === cell.name &&
      attribute !== undefined &&
      /^(disabled|aria-busy|attr\.aria-busy|loading)$/.test(attribute.name),
  );
  return told || /sending|saving|submitting|busy|pending|posting/i.test(cell.name);
}

/** The method of the class that a call runs. */
function methodCalled(call: NodePath<t.CallExpression>, { component }: AngularSite): Placed | undefined {
  const name = ownMember(call.get('callee') as NodePath);
  const member = name === undefined ? undefined : component.members.get(name);
  if (!member) return undefined;
  if (member.path.isClassMethod()) return { path: member.path, script: component.script };
  const value = member.path.isClassProperty() ? (member.path.get('value') as NodePath) : undefined;
  return value?.isFunction() ? { path: value, script: component.script } : undefined;
}

function entriesOf(scene: Scene): Entry[] {
  const { site } = scene;
  const { component, form } = site;
  const found: Entry[] = [];
  const flow = (fn: Placed): FlowEvent[] => flowOf(fn, { follow: (call) => methodCalled(call, site) });
  const elements = form ? [form, ...site.elements] : component.template.elements;
  for (const element of elements)
    for (const attribute of element.attributes) {
      if (attribute.kind !== 'event') continue;
      for (const [, name = ''] of (attribute.value ?? '').matchAll(/(?:^|[^.\w])(\w+)\(/g)) {
        const member = component.members.get(name);
        if (!member?.path.isClassMethod()) continue;
        const at = { path: member.path, script: component.script };
        const isForm = element === form && /^(ngSubmit|submit)$/.test(attribute.name);
        found.push({
          moment: momentOf(attribute.name, isForm),
          submits: isForm,
          by: isForm ? 'form' : undefined,
          events: flow(at),
          at,
          ...(/\b(valid|invalid)\b[^&?]*(&&|\?)/.test(attribute.value ?? '')
            ? { guard: { file: component.template.place.file, start: attribute.start, end: attribute.end } }
            : {}),
        });
      }
    }
  for (const name of ['constructor', 'ngOnInit', 'ngOnChanges']) {
    const member = component.path
      .get('body')
      .get('body')
      .find((one) => one.isClassMethod() && t.isIdentifier(one.node.key, { name }));
    const at = member ? { path: member as NodePath, script: component.script } : undefined;
    if (at) found.push({ moment: 'first-view', submits: false, by: undefined, events: flow(at), at });
  }
  if (!found.some(({ submits }) => submits)) {
    const sender = found.find(
      ({ moment, events }) =>
        moment === 'change' && events.some((event) => event.kind === 'call' && event.statement && scene.sends(event)),
    );
    if (sender) Object.assign(sender, { submits: true, by: 'button', moment: 'submit' });
  }
  return found;
}

function momentOf(event: string, isForm: boolean): RunMoment {
  if (isForm) return 'submit';
  return /blur|focusout/.test(event) ? 'blur' : 'change';
}

const notSending =
  /^(set|update|setValue|patchValue|reset|resetForm|setErrors|markAllAsTouched|markAsTouched|markAsDirty|markAsPristine|markAsUntouched|push|removeAt|insert|clear|enable|disable|updateValueAndValidity|get|control|group|array|preventDefault|stopPropagation|focus|log|error|warn|subscribe|pipe|then|catch|finally|trim|map|filter|forEach|find|some|every|reduce|includes|join|split|next|complete|stringify|parse|keys|values|entries|addControl|removeControl|setValidators|clearValidators)$/;

/** Whether a call hands the person's values to something outside of the form. */
function carriesOut(at: Placed, scene: Scene): boolean {
  const { path } = at;
  if (!path.isCallExpression()) return false;
  const name = calledMember(path);
  const emits = name === 'emit' || name === 'next';
  if ((notSending.test(name) && !emits) || methodCalled(path, scene.site) || scene.tells(at).length) return false;
  const callee = path.get('callee') as NodePath;
  if (
    /^(String|Number|Object|JSON|Math|Date|console|Array|Boolean|parseInt|parseFloat|setTimeout|clearTimeout|Promise)\b/.test(
      textAt({ path: callee, script: at.script }),
    )
  )
    return false;
  return (path.get('arguments') as NodePath[]).some((one) => readsValues({ path: one, script: at.script }, scene));
}

/** Whether an expression reads values of the form, through constants and methods. */
function readsValues(at: Placed, scene: Scene, depth = 0): boolean {
  if (depth > 4) return false;
  const { start, end } = at.path.node;
  const used = scene.model.uses.some(
    ({ kind, span }) =>
      /^(read|read-all|rows|ask)$/.test(kind) &&
      span.file === at.script.file &&
      span.start >= (start ?? 0) &&
      span.end <= (end ?? 0),
  );
  if (used || /\.(getRawValue\(\)|value)\b/.test(textAt(at))) return true;
  let found = false;
  const look = (path: NodePath): void => {
    if (path.isIdentifier()) {
      const declared = path.scope.getBinding(path.node.name)?.path;
      const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
      if (init?.node && readsValues({ path: init, script: at.script }, scene, depth + 1)) found = true;
    }
    const member = ownMember(path);
    const held =
      member !== undefined &&
      (member === scene.model.holder?.name || scene.model.fields.some(({ name }) => name === member));
    if (held) found = true;
    if (member !== undefined && path.key === 'callee') {
      const method = scene.site.component.members.get(member);
      if (
        method?.path.isClassMethod() &&
        readsValues({ path: method.path.get('body'), script: at.script }, scene, depth + 1)
      )
        found = true;
    }
  };
  look(at.path);
  walk(at.path, { Identifier: look, MemberExpression: look });
  return found;
}
