import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf } from '../jsx-controls.js';
import { pairOf, valuesWith, type Apart } from './apart.js';
import { elementOf, elementTypes, givenBy } from './events.js';
import { isSeenAt, stays, textIn } from './leaving.js';
import { quoted } from '../../source/style.js';
import { isField } from './nested.js';
import { changeOfRow } from './row-changes.js';
import type { RowField } from './rows.js';

/** A control, the element of the page that it draws, and the field that it is tied to. */
export interface Tied {
  element: NodePath<t.JSXElement>;
  tag: string;
  field: string;
  /** The control’s `type`, where a component draws it that does not say it. */
  type?: string | undefined;
  /** The row that the field is one of, where it is. */
  row?: RowField | undefined;
  /** Where a reason is told, if it cannot be tied. */
  at: NodePath;
}

/** The field that the `name` of an element says, where it is one of the form’s own. */
export function fieldNamed(apart: Apart, element: NodePath<t.JSXElement>): string | undefined {
  const name = attributesOf(element).find((one) => one.name === 'name')?.text;
  return name !== undefined && isField(apart, name) ? name : undefined;
}

/** The handler of a control’s own changes; undefined where it cannot be told, which is said. */
export function changeHandler(apart: Apart, tied: Tied): string | undefined {
  const { leaving, names, needs } = apart;
  const { element, tag, field, row, at } = tied;
  const choice = chosenBy(apart, tied);
  if (choice !== undefined) {
    needs.add('change');
    return `() => ${changeText(apart, tied, choice)}`;
  }
  const gives = givenBy(element, tag, tied.type);
  const isText = gives === 'text' || (gives === 'number' && apart.numberOf('', field) === '.value');
  // the name of a value inside of another one is no key of the values
  if (isText && !row && !field.includes('.') && apart.kinds.get(field) !== 'list') {
    needs.add('handleChange').add('change');
    apart.changed.add(tag);
    return names.handleChange;
  }
  const next = nextValue(apart, tied, 'event');
  if (next === undefined) {
    stays(leaving, at, `what <${tag}> gives ${field} is not told by it alone`);
    return undefined;
  }
  needs.add('change');
  return `(event) => ${changeText(apart, tied, next)}`;
}

/** The value that a radio stands for: it has the type that its field may need. */
function chosenBy({ leaving }: Apart, { element, type }: Tied): string | undefined {
  const attributes = attributesOf(element);
  if ((attributes.find(({ name }) => name === 'type')?.text ?? type) !== 'radio') return undefined;
  const value = attributes.find(({ name }) => name === 'value')?.value;
  if (!value) return undefined;
  return value.isStringLiteral() ? quoted(value.node.value, leaving.context.style) : textIn(leaving, value);
}

/** The name of a field as a text of the file. */
export function nameText({ leaving }: Apart, field: string): string {
  return quoted(field, leaving.context.style);
}

/** What a control gives its field, by the event. */
export function nextValue(apart: Apart, tied: Tied, event: string): string | undefined {
  const { leaving } = apart;
  const { element, tag, field, row } = tied;
  const gives = givenBy(element, tag, tied.type);
  const kind = row ? row.kind : apart.kinds.get(field);
  const of = `${event}.target`;
  if (gives === 'text') return kind === 'list' ? undefined : `${of}.value`;
  if (gives === 'number') return apart.numberOf(of, field);
  if (gives === 'checked' && kind === 'flag') return `${of}.checked`;
  const value = attributesOf(element).find(({ name }) => name === 'value')?.value;
  if (gives !== 'listed' || kind !== 'list' || !value) return undefined;
  const own = value.isStringLiteral() ? quoted(value.node.value, leaving.context.style) : textIn(leaving, value);
  return apart.listWith(heldBy(apart, tied), own, `${of}.checked`, element);
}

/** The expression for the value of a control. */
export function heldBy({ names, leaving }: Apart, { field, row }: Pick<Tied, 'field' | 'row'>): string {
  return row ? `${names.values}.${row.list}[${textIn(leaving, row.index)}].${row.key}` : `${names.values}.${field}`;
}

/** The call by which a control changes its field. */
function changeText(apart: Apart, { field, row }: Tied, next: string): string {
  if (row) return changeOfRow(apart, row, next);
  return apart.changes(valuesWith(apart, pairOf(field, next, apart.names.values)), nameText(apart, field));
}

/** How a value is shown by a control, as an attribute. */
export function shownIn(apart: Apart, tied: Tied): string {
  const { element, tag, field } = tied;
  const held = heldBy(apart, tied);
  const attributes = attributesOf(element);
  const type = attributes.find(({ name }) => name === 'type')?.text ?? tied.type;
  const value = attributes.find(({ name }) => name === 'value')?.value;
  const { leaving } = apart;
  const own = value?.isStringLiteral()
    ? quoted(value.node.value, leaving.context.style)
    : value && textIn(leaving, value);
  if (type === 'radio' && own !== undefined) return `checked={${held} === ${own}}`;
  const gives = givenBy(element, tag, tied.type);
  if (gives === 'listed' && own !== undefined) return `checked={${held}.includes(${own})}`;
  return gives === 'checked' ? `checked={${held}}` : `value={${apart.shownValue?.(held, field) ?? held}}`;
}

/** The attributes that tie a control to its field. `without` are those that the element has itself. */
export function tiedBy(apart: Apart, tied: Tied, without: ReadonlySet<string>, blurs: boolean): string[] | undefined {
  const { names, needs, leaving } = apart;
  const called = [names.values, names.change, names.handleChange, names.handleBlur];
  const hidden = called.find((name) => !isSeenAt(leaving, tied.at, name));
  if (hidden !== undefined) {
    stays(leaving, tied.at, `${hidden} means something else here`);
    return undefined;
  }
  const shows = shownIn(apart, tied);
  const handler = without.has('onChange') ? '' : changeHandler(apart, tied);
  if (handler === undefined) return undefined;
  if (blurs) {
    needs.add('handleBlur');
    apart.left.add(tied.tag);
  }
  return [
    ...(without.has('checked') && shows.startsWith('checked') ? [] : [shows]),
    ...(handler === '' ? [] : [`onChange={${handler}}`]),
    ...(without.has('onBlur') || !blurs ? [] : [`onBlur={${names.handleBlur}}`]),
  ];
}

/** The attribute that a path is the value of, and its element. */
export function attributeOf(path: NodePath): { name: string; element: NodePath<t.JSXElement> } | undefined {
  const container = path.parentPath;
  const attribute = container?.isJSXExpressionContainer() ? container.parentPath : undefined;
  const element = elementOf(path);
  if (!attribute?.isJSXAttribute() || !element) return undefined;
  return { name: String(attribute.node.name.name), element };
}

/** The union of the types of elements, for an event. */
export function elementsOf(tags: ReadonlySet<string>): string {
  return [...tags]
    .flatMap((tag) => elementTypes[tag] ?? [])
    .sort()
    .join(' | ');
}

/** Whether a value is only asked whether it is there. */
export function isTested(path: NodePath): boolean {
  const { parentPath: parent, key } = path;
  if (!parent) return false;
  if (parent.isLogicalExpression()) return key === 'left' || isTested(parent);
  if (parent.isConditionalExpression() && key === 'test') return true;
  if (parent.isUnaryExpression({ operator: '!' }) || parent.isIfStatement()) return true;
  if (parent.isCallExpression() && t.isIdentifier(parent.node.callee, { name: 'Boolean' })) return true;
  return parent.isBinaryExpression() && /^[!=]==?$/.test(parent.node.operator) && isNothing(parent.node, path.node);
}

function isNothing({ left, right }: t.BinaryExpression, own: t.Node): boolean {
  return t.isIdentifier(left === own ? right : left, { name: 'undefined' });
}
