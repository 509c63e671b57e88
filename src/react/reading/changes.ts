import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanAt } from '../../course/cell.js';
import type { ValueChange } from '../../form/life.js';
import { fieldsOf } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { returnedValue } from '../../source/behind-names.js';
import type { Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** Places that change values beyond a control taking in its own. */
export function changesOf(scene: Scene): ValueChange[] {
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
  const found: ValueChange[] = [];
  for (const place of scene.places)
    walk(place.path, {
      CallExpression(call) {
        const [first] = call.get('arguments') as (NodePath | undefined)[];
        const value = first && (returnedValue(first) ?? first);
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
        fields: [...new Set([...use.choices, ...use.rest].map(({ field }) => field))].filter((name) =>
          all.includes(name),
        ),
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
  if (use.kind === 'set-named') {
    const all = fieldsOf(scene.model).map(({ name }) => name);
    return !use.rest.some(({ field }) => all.includes(field));
  }
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
