import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { attributesOf } from '../jsx-controls.js';
import { keyText, valuesWith } from '../package-leaving/apart.js';
import { commentsIn, depthOf, reindented, says, stays, textIn } from '../package-leaving/leaving.js';
import { relative } from '../package-leaving/sending.js';
import { shownWhen } from '../package-leaving/shown.js';
import { nameText } from '../package-leaving/ties.js';
import type { OwnField, Slot, TakenApart } from './form.js';
import { givenNames } from './rules.js';

/** Takes the rules of a field from its element, before anything is said. */
export function noteField(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving, fields } = apart;
  const attributes = attributesOf(element);
  const opening = element.get('openingElement');
  const name = attributes.find((one) => one.name === 'name')?.text;
  if (name === undefined || !fields.includes(name)) {
    stays(leaving, opening, 'its field is told only when the form runs, or is no value of its own');
    return;
  }
  const own: OwnField = { name, rules: new Map(), shownWhen: [], listensTo: [], comments: [] };
  apart.own.set(name, own);
  for (const { name: key, value, path } of attributes) {
    if (key === 'name' || key === 'children') continue;
    if (key === 'validators' && value?.isObjectExpression()) noteRules(apart, own, value);
    else if (key === 'listeners' && value?.isObjectExpression()) noteListeners(apart, own, value);
    else stays(leaving, path, `${key} is not said without the package yet`);
  }
  // a function of several statements keeps its comments
  const bodies: t.Node[] = [];
  t.traverseFast(opening.node, (node) => {
    if (t.isArrowFunctionExpression(node) && t.isBlockStatement(node.body)) bodies.push(node.body);
  });
  own.comments.push(...commentsIn(leaving, opening.node, bodies));
  const when = own.rules.size ? shownWhen(apart, element) : [];
  if (!when) stays(leaving, opening, 'when it is shown is no plain condition');
  own.shownWhen = when ?? [];
}

function noteRules({ leaving, fields }: TakenApart, own: OwnField, rules: NodePath<t.ObjectExpression>): void {
  for (const property of rules.get('properties')) {
    const { node } = property;
    const key = t.isObjectProperty(node) && t.isIdentifier(node.key) ? node.key.name : '';
    const value = key === '' ? undefined : memberNamed(rules, key);
    if (value && (key === 'onChange' || key === 'onBlur')) own.rules.set(key satisfies Slot, value);
    else if (value?.isArrayExpression() && key === 'onChangeListenTo') {
      const names = value.node.elements.flatMap((one) => (t.isStringLiteral(one) ? [one.value] : []));
      if (names.every((name) => fields.includes(name))) own.listensTo.push(...names);
      else stays(leaving, value, 'a field that it listens to is none of the form’s');
    } else stays(leaving, property, `rules in ${key} are not said without the package yet`);
  }
}

function noteListeners(apart: TakenApart, own: OwnField, listeners: NodePath<t.ObjectExpression>): void {
  const { leaving } = apart;
  for (const property of listeners.get('properties')) {
    const { node } = property;
    const key = t.isObjectProperty(node) && t.isIdentifier(node.key) ? node.key.name : '';
    const fn = key === 'onChange' ? memberNamed(listeners, key) : undefined;
    const given = fn?.isArrowFunctionExpression() ? givenNames(fn) : undefined;
    const body = fn?.isArrowFunctionExpression() ? (fn.get('body') as NodePath) : undefined;
    if (!fn || !given || !body?.isBlockStatement()) {
      stays(leaving, property, `what happens in ${key || 'it'} is not said without the package yet`);
      continue;
    }
    const held = given.value?.node.name ?? own.name;
    if (given.api && !saySettings(apart, own, given.api, held)) continue;
    apart.needs.add('change');
    apart.listeners.set(own.name, {
      fn,
      held,
      lines: () =>
        relative(reindented(textIn(leaving, body), depthOf(leaving, body), ''), leaving.context.style.indent),
    });
  }
}

/** `fieldApi.form.setFieldValue('electric', true)` of a listener; false where it does more. */
function saySettings(apart: TakenApart, own: OwnField, api: NodePath<t.Identifier>, held: string): boolean {
  const { leaving, fields } = apart;
  const references = api.scope.getBinding(api.node.name)?.referencePaths ?? [];
  if (references.length > 1) {
    stays(leaving, api, 'it sets several fields, one after the other');
    return false;
  }
  for (const reference of references) {
    const member = reference.parentPath?.parentPath;
    const call = member?.parentPath;
    const [name, value, ...more] = call?.isCallExpression() ? (call.get('arguments') as NodePath[]) : [];
    const isSet =
      member?.isMemberExpression() === true && t.isIdentifier(member.node.property, { name: 'setFieldValue' });
    if (!call || !isSet || !name?.isStringLiteral() || !value || more.length || !fields.includes(name.node.value)) {
      stays(leaving, call ?? reference, 'it is not said without the package yet');
      return false;
    }
    const field = name.node.value;
    const first = held === own.name ? own.name : `${keyText(own.name)}: ${held}`;
    says(leaving, call, () =>
      apart.changes(
        valuesWith(apart, `${first}, ${keyText(field)}: ${textIn(leaving, value)}`),
        nameText(apart, field),
      ),
    );
  }
  return true;
}

/** The function that changes a field and does what its listener does. */
export function listenerName(field: string): string {
  return `change${field.charAt(0).toUpperCase()}${field.slice(1)}`;
}
