import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { elementOf, givenBy } from '../package-leaving/events.js';
import { isSeenAt, stays, stretch, textIn } from '../package-leaving/leaving.js';
import { attributesOf } from '../jsx-controls.js';
import { drawnBy, type TakenApart } from './form.js';

/** A new object of values in which some are another. */
export function valuesWith({ names }: TakenApart, parts: string): string {
  return `{ ...${names.values}, ${parts} }`;
}

/** What makes a change of all values. */
export function changeOf(apart: TakenApart, next: string): string {
  apart.needs.add('change');
  return `${apart.names.change}(${next})`;
}

/** A key of an object. */
export function keyText(name: string): string {
  return /^[\w$]+$/.test(name) ? name : `'${name}'`;
}

/** The name of the field that an element is tied to, where it is one of the form’s own. */
export function fieldNamed(apart: TakenApart, element: NodePath<t.JSXElement>): string | undefined {
  const name = attributesOf(element).find((one) => one.name === 'name');
  if (name?.text !== undefined && apart.fields.includes(name.text)) return name.text;
  return undefined;
}

/** The handler of a control’s own changes; undefined where it cannot be told, which is said. */
export function changeHandler(
  apart: TakenApart,
  element: NodePath<t.JSXElement>,
  field: string,
  at: NodePath,
): string | undefined {
  const { leaving, names, needs } = apart;
  const tag = drawnBy(element) ?? '';
  const gives = givenBy(element, tag);
  const kind = apart.kinds.get(field);
  if (gives === 'text') {
    needs.add('handleChange').add('change');
    apart.changed.add(tag);
    return names.handleChange;
  }
  const next = nextValue(apart, element, field, 'event');
  if (next === undefined) {
    stays(
      leaving,
      at,
      `what <${tag}> gives ${field}, ${kind === 'list' ? 'a list' : 'a value'}, is not told by it alone`,
    );
    return undefined;
  }
  return `(event) => ${changeOf(apart, valuesWith(apart, `${keyText(field)}: ${next}`))}`;
}

/** What a control that is no plain text gives its field, by the event. */
export function nextValue(
  apart: TakenApart,
  element: NodePath<t.JSXElement>,
  field: string,
  event: string,
): string | undefined {
  const { leaving, names } = apart;
  const gives = givenBy(element, drawnBy(element) ?? '');
  const kind = apart.kinds.get(field);
  const of = `${event}.target`;
  if (gives === 'text') return `${of}.value`;
  if (gives === 'number') return `Number.isNaN(${of}.valueAsNumber) ? '' : ${of}.valueAsNumber`;
  if (gives === 'checked' && kind === 'flag') return `${of}.checked`;
  const value = attributesOf(element).find(({ name }) => name === 'value')?.value;
  if (gives !== 'listed' || kind !== 'list' || !value) return undefined;
  const own = value.isStringLiteral()
    ? leaving.script.text.slice(value.node.start ?? 0, value.node.end ?? 0)
    : textIn(leaving, value);
  const list = `${names.values}.${field}`;
  return `${of}.checked ? [...${list}, ${own}] : ${list}.filter((one) => one !== ${own})`;
}

/** The attributes that tie a control to its field. `without` are those that the element has itself. */
export function tiedBy(
  apart: TakenApart,
  element: NodePath<t.JSXElement>,
  field: string,
  at: NodePath,
  without: ReadonlySet<string>,
): string | undefined {
  const { names, needs } = apart;
  const tag = drawnBy(element) ?? '';
  const gives = givenBy(element, tag);
  const held = `${names.values}.${field}`;
  const attributes = attributesOf(element);
  const type = attributes.find(({ name }) => name === 'type')?.text;
  const value = attributes.find(({ name }) => name === 'value')?.value;
  const own = value ? textIn(apart.leaving, value) : undefined;
  const handler = without.has('onChange') ? '' : changeHandler(apart, element, field, at);
  if (handler === undefined) return undefined;
  needs.add('touched').add('handleBlur');
  apart.left.add(tag);
  const shows =
    type === 'radio' && own !== undefined
      ? `checked={${held} === ${own}}`
      : gives === 'listed' && own !== undefined
        ? `checked={${held}.includes(${own})}`
        : gives === 'checked'
          ? `checked={${held}}`
          : `value={${held}}`;
  return [
    ...(without.has('checked') && shows.startsWith('checked') ? [] : [shows]),
    ...(handler === '' ? [] : [`onChange={${handler}}`]),
    ...(without.has('onBlur') ? [] : [`onBlur={${names.handleBlur}}`]),
  ].join(' ');
}

/** Says a call that sets one field, with those that follow it in the same block as one change. */
export function setterText(apart: TakenApart, call: NodePath<t.CallExpression>): string | undefined {
  const { leaving, names, needs } = apart;
  const [name, value, quiet] = call.get('arguments') as (NodePath | undefined)[];
  if (!name || !value || !isSeenAt(leaving, call, names.values)) return undefined;
  const parts = pairOf(apart, name, value);
  if (parts === undefined) return undefined;
  if (quiet?.isBooleanLiteral({ value: false })) {
    needs.add('touched');
    return `${names.setValues}(${valuesWith(apart, parts)})`;
  }
  return quiet ? undefined : changeOf(apart, valuesWith(apart, parts));
}

function pairOf({ leaving, fields }: TakenApart, name: NodePath, value: NodePath): string | undefined {
  const text = stretch(leaving, value.node.start ?? 0, value.node.end ?? 0);
  if (name.isStringLiteral())
    return fields.includes(name.node.value) ? `${keyText(name.node.value)}: ${text}` : undefined;
  return undefined;
}

/** The handler of an element by the attribute that a path is the value of: `onChange`. */
export function attributeOf(path: NodePath): { name: string; element: NodePath<t.JSXElement> } | undefined {
  const container = path.parentPath;
  const attribute = container?.isJSXExpressionContainer() ? container.parentPath : undefined;
  const element = elementOf(path);
  if (!attribute?.isJSXAttribute() || !element) return undefined;
  return { name: String(attribute.node.name.name), element };
}
