import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { keyText, valuesWith } from '../package-leaving/apart.js';
import { otherwise, standingFor } from '../package-leaving/conditions.js';
import {
  commentsIn,
  depthOf,
  drawnText,
  isSeenAt,
  reindented,
  says,
  saysAt,
  stays,
  textIn,
} from '../package-leaving/leaving.js';
import { shownWhen } from '../package-leaving/shown.js';
import { attributeOf, isTested, nameText } from '../package-leaving/ties.js';
import { errorsOf, type OwnField, type Slot, type TakenApart } from './form.js';
import { givenNames } from './rules.js';
import { sayState, selectedBy } from './state.js';

/** The member of the form’s own components that an element is: `Field` of `<form.Field>`. */
export function partOf({ form }: TakenApart, element: NodePath<t.JSXElement>): string | undefined {
  const { name } = element.node.openingElement;
  const place = form.taken.places.find(({ path }) => path.node === name);
  return place?.member;
}

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
      lines: () => {
        const text = reindented(textIn(leaving, body), depthOf(leaving, body), '');
        return text
          .replace(/^\{[ \t]*\r?\n?/, '')
          .replace(/\s*\}$/, '')
          .split(/\r?\n/);
      },
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

/** Says what the component of a field draws. */
export function sayField(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const name = attributesOf(element).find((one) => one.name === 'name')?.text ?? '';
  const own = apart.own.get(name);
  if (!own) return;
  const drawn = drawnBy(apart, element, (parameter) => sayGiven(apart, parameter, own, []));
  if (drawn) says(apart.leaving, element, () => drawnText(apart.leaving, element, drawn));
}

/** What a field’s function is given: the field by a name, or members of it taken apart. */
function sayGiven(apart: TakenApart, given: NodePath, own: OwnField, keys: readonly string[]): void {
  if (!given.isObjectPattern()) {
    for (const reference of referencesOf(apart, given)) sayOfField(apart, reference, own, keys);
    return;
  }
  for (const property of given.get('properties')) {
    const local = property.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    const key = property.isObjectProperty() && t.isIdentifier(property.node.key) ? property.node.key.name : undefined;
    if (!local || key === undefined) stays(apart.leaving, property, 'what it is given is no plain name');
    else sayGiven(apart, local, own, [...keys, key]);
  }
}

/** `<form.Subscribe selector={…}>`: what it draws, with values of the component. */
export function saySubscribed(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving } = apart;
  const selector = attributesOf(element).find(({ name }) => name === 'selector')?.value;
  const texts = selector ? selectedBy(apart, selector) : 'state';
  if (texts === undefined) {
    stays(leaving, selector ?? element, 'what it follows is not said without the package yet');
    return;
  }
  const drawn = drawnBy(apart, element, (parameter) => {
    if (texts === 'state') {
      for (const reference of referencesOf(apart, parameter)) {
        const member = reference.parentPath;
        const key =
          member?.isMemberExpression() && t.isIdentifier(member.node.property) ? member.node.property.name : '';
        if (!member || !sayState(apart, member, key))
          stays(leaving, member ?? reference, 'it is not said without the package yet');
      }
      return;
    }
    const parts: [string | number, NodePath][] = parameter.isArrayPattern()
      ? (parameter.get('elements') as NodePath[]).map((one, index) => [index, one])
      : parameter.isObjectPattern()
        ? parameter.get('properties').flatMap((one): [string, NodePath][] => {
            const key = one.isObjectProperty() && t.isIdentifier(one.node.key) ? one.node.key.name : '';
            return [[key, one.isObjectProperty() ? (one.get('value') as NodePath) : one]];
          })
        : [[0, parameter]];
    parts.forEach(([key, part]) => {
      const text = texts.get(key);
      if (!part.isIdentifier() || text === undefined) stays(leaving, part, 'what it is given is no plain name');
      else for (const reference of referencesOf(apart, part)) saysWhole(apart, reference, text);
    });
  });
  if (drawn) says(leaving, element, () => drawnText(leaving, element, drawn));
}

/** Says a text in place of a name; a shorthand property keeps its key. */
function saysWhole({ leaving }: TakenApart, reference: NodePath, text: string): void {
  const root = /^[\w$]+/.exec(text)?.[0] ?? text;
  if (!isSeenAt(leaving, reference, root)) stays(leaving, reference, `${root} means something else here`);
  const parent = reference.parentPath;
  const key =
    parent?.isObjectProperty() && parent.node.shorthand && t.isIdentifier(parent.node.key)
      ? parent.node.key.name
      : undefined;
  if (parent && key !== undefined) says(leaving, parent, `${key}: ${text}`);
  else says(leaving, reference, text);
}

/** The markup that a component’s child function draws; constants in front of it are said where they are asked. */
function drawnBy(
  apart: TakenApart,
  element: NodePath<t.JSXElement>,
  sayParameter: (parameter: NodePath) => void,
): NodePath | undefined {
  const { leaving } = apart;
  const given = attributesOf(element).find(({ name }) => name === 'children')?.value;
  const child = element
    .get('children')
    .find((one) => one.isJSXExpressionContainer() && !t.isJSXEmptyExpression(one.node.expression));
  const fn = given ?? (child?.isJSXExpressionContainer() ? (child.get('expression') as NodePath) : undefined);
  if (!fn?.isArrowFunctionExpression()) {
    stays(leaving, element.get('openingElement'), 'what it draws is told only when the form runs');
    return undefined;
  }
  const [parameter] = fn.get('params') as NodePath[];
  const body = fn.get('body') as NodePath;
  if (parameter) sayParameter(parameter);
  if (!body.isBlockStatement()) return body;
  const statements = body.get('body');
  const last = statements.at(-1);
  const value = last?.isReturnStatement() ? (last.get('argument') as NodePath) : undefined;
  const constants = statements.slice(0, -1);
  if (!value?.node || !constants.every((one) => inlined(apart, one))) {
    stays(leaving, body, 'it does more than draw a part of the page');
    return undefined;
  }
  return value;
}

/** A constant that is only asked: its value is said where its name stands. */
function inlined(apart: TakenApart, statement: NodePath): boolean {
  if (!statement.isVariableDeclaration({ kind: 'const' })) return false;
  return statement.get('declarations').every((one) => {
    const [id, init] = [one.get('id') as NodePath, one.get('init') as NodePath];
    if (!id.isIdentifier() || !init.node || init.isCallExpression() || init.isFunction()) return false;
    const plain = init.isIdentifier() || init.isMemberExpression();
    const why = 'its value stands where it is asked';
    otherwise(apart.leaving, [id.node.start, id.node.end], one.node, why);
    for (const reference of referencesOf(apart, id)) {
      otherwise(apart.leaving, [reference.node.start, reference.node.end], reference.node, why);
      const joined =
        init.isLogicalExpression({ operator: '&&' }) &&
        reference.parentPath?.isLogicalExpression({ operator: '&&' }) === true;
      const alone =
        plain || joined || reference.parentPath?.isJSXExpressionContainer() === true || isTestAlone(reference);
      says(apart.leaving, reference, () => (alone ? textIn(apart.leaving, init) : `(${textIn(apart.leaving, init)})`));
    }
    return true;
  });
}

function isTestAlone({ parentPath, key }: NodePath): boolean {
  return parentPath?.isConditionalExpression() === true && key === 'test';
}

function referencesOf({ leaving }: TakenApart, parameter: NodePath): NodePath[] {
  if (!parameter.isIdentifier()) {
    stays(leaving, parameter, 'what it is given is no plain name');
    return [];
  }
  const binding = parameter.scope.getBinding(parameter.node.name);
  if (binding) leaving.gone.add(binding);
  return binding?.referencePaths ?? [];
}

/** The chain of members behind a reference: `state.meta.errors`, and the outermost of them. */
function chainOf(reference: NodePath, known: readonly string[]): { keys: string[]; path: NodePath } {
  const keys = [...known];
  let path = reference;
  for (;;) {
    const parent = path.parentPath;
    if (
      !parent?.isMemberExpression() ||
      path.key !== 'object' ||
      parent.node.computed ||
      !t.isIdentifier(parent.node.property)
    )
      break;
    const sofar = keys.join('.');
    if (sofar === 'state.value' || sofar === 'state.meta.errors' || /^handle|^name$|^state\.meta\.is/.test(sofar))
      break;
    keys.push(parent.node.property.name);
    path = parent;
  }
  return { keys, path };
}

function sayOfField(apart: TakenApart, reference: NodePath, own: OwnField, known: readonly string[]): void {
  const { leaving, names, needs } = apart;
  const { keys, path } = chainOf(reference, known);
  const member = keys.join('.');
  const held = `${names.values}.${own.name}`;
  if (!isSeenAt(leaving, reference, names.values))
    stays(leaving, reference, `${names.values} means something else here`);
  if (member === 'state.value') {
    says(leaving, path, held);
    return;
  }
  if (member === 'name') {
    const container = path.parentPath;
    const isAttribute = container?.isJSXExpressionContainer() && container.parentPath.isJSXAttribute();
    if (container && isAttribute) says(leaving, container, `"${own.name}"`);
    else says(leaving, path, nameText(apart, own.name));
    return;
  }
  if (member === 'state.meta.isTouched') {
    needs.add('touched');
    says(leaving, path, `${names.touched}.${own.name}`);
    return;
  }
  if (member === 'state.meta.isValid' || member === 'state.meta.errors') {
    if (!sayErrors(apart, path, member, own)) stays(leaving, path, 'its messages are not said without the package yet');
    return;
  }
  if (member === 'handleBlur') {
    needs.add('left');
    if (attributeOf(path)) says(leaving, path, `() => ${names.left}(${nameText(apart, own.name)})`);
    else if (path.parentPath?.isCallExpression() && path.key === 'callee')
      says(leaving, path.parentPath, `${names.left}(${nameText(apart, own.name)})`);
    else stays(leaving, path, 'it is handed on');
    return;
  }
  if (member === 'handleChange' || member === 'setValue') {
    if (!sayChange(apart, path, own)) stays(leaving, path, 'what it is given is not told');
    return;
  }
  stays(leaving, path, `${member || 'the field'} of the package is not said here without it yet`);
}

/** A change of a field; one with a listener has a function of its own. */
function sayChange(apart: TakenApart, path: NodePath, own: OwnField): boolean {
  const { leaving, names, needs, listeners } = apart;
  needs.add('change');
  const changed = (text: string): string =>
    listeners.has(own.name)
      ? `${listenerName(own.name)}(${text})`
      : apart.changes(
          valuesWith(apart, keyText(own.name) === text ? text : `${keyText(own.name)}: ${text}`),
          nameText(apart, own.name),
        );
  const call = path.parentPath?.isCallExpression() && path.key === 'callee' ? path.parentPath : undefined;
  if (!call) {
    const at = attributeOf(path);
    if (!at || !/^[A-Z]/.test(tagOf(at.element)) || !leaving.script.typescript) return false;
    const name = path.scope.getBinding(own.name) ? 'value' : own.name;
    says(leaving, path, `(${name}) => ${changed(name)}`);
    return true;
  }
  const [next, ...more] = call.get('arguments') as NodePath[];
  if (!next || more.length) return false;
  if (next.isArrowFunctionExpression()) {
    const [before] = next.get('params') as NodePath[];
    const body = next.get('body') as NodePath;
    if (!before?.isIdentifier() || body.isBlockStatement()) return false;
    const stands = new Map([[before.node.name, `${names.values}.${own.name}`]]);
    says(leaving, call, () => changed(standingFor(apart, body, stands, next)));
    return true;
  }
  says(leaving, call, () => changed(textIn(leaving, next)));
  return true;
}

/** The function that changes a field and does what its listener does. */
export function listenerName(field: string): string {
  return `change${field.charAt(0).toUpperCase()}${field.slice(1)}`;
}

const oneMessage = 'a field has one message at most';

/** What is asked of a field’s messages: whether there are some, the first, all of them, each drawn. */
function sayErrors(apart: TakenApart, path: NodePath, member: string, own: OwnField): boolean {
  const { leaving, needs } = apart;
  const texts = errorsOf(apart, own.name);
  needs.add('errors');
  if (!texts.length) return false;
  const [first = ''] = texts;
  const some = texts.length > 1 ? texts.join(' || ') : first;
  const inside = texts.length > 1 ? `(${some})` : some;
  if (member === 'state.meta.isValid') {
    const not = path.parentPath?.isUnaryExpression({ operator: '!' }) ? path.parentPath : undefined;
    if (not) says(leaving, not, isTested(not) ? inside : texts.map((one) => `${one} !== undefined`).join(' || '));
    else says(leaving, path, texts.map((one) => `${one} === undefined`).join(' && '));
    return true;
  }
  const parent = path.parentPath;
  if (!parent?.isMemberExpression() || path.key !== 'object') return false;
  const { property, computed } = parent.node;
  if (computed) {
    if (!t.isNumericLiteral(property, { value: 0 })) return false;
    otherwise(leaving, [property.start, property.end], parent.node, oneMessage);
    says(leaving, parent, texts.length > 1 ? `(${texts.join(' ?? ')})` : first);
    return true;
  }
  const key = t.isIdentifier(property) ? property.name : '';
  const around = parent.parentPath;
  if (key === 'length') {
    const counted =
      around.isBinaryExpression() &&
      /^>$|^!==?$/.test(around.node.operator) &&
      t.isNumericLiteral(around.node.right, { value: 0 });
    const whole = counted ? around : parent;
    if (!isTested(whole)) return false;
    if (counted) otherwise(leaving, [around.node.left.end, around.node.end], around.node, oneMessage);
    says(leaving, whole, inside);
    return true;
  }
  if (!around.isCallExpression() || parent.key !== 'callee') return false;
  if (key === 'join') {
    const [between] = around.get('arguments') as NodePath[];
    if (texts.length === 1 && between)
      otherwise(leaving, [between.node.start, between.node.end], around.node, oneMessage);
    if (texts.length === 1) says(leaving, around, first);
    else
      says(leaving, around, `[${texts.join(', ')}].filter(Boolean).join(${between ? textIn(leaving, between) : ''})`);
    return true;
  }
  return key === 'map' && texts.length === 1 && sayEach(apart, around, first);
}

/** `errors.map((error) => <em key={error}>{error}</em>)`: the one message, where there is one. */
function sayEach(apart: TakenApart, call: NodePath<t.CallExpression>, error: string): boolean {
  const { leaving } = apart;
  const [fn] = call.get('arguments') as NodePath[];
  const [parameter, ...more] = fn?.isArrowFunctionExpression() ? (fn.get('params') as NodePath[]) : [];
  const body = fn?.isArrowFunctionExpression() ? (fn.get('body') as NodePath) : undefined;
  if (!parameter || more.length || !body?.isJSXElement()) return false;
  const key = attributesOf(body).find(({ name }) => name === 'key');
  if (key) {
    const start = key.path.node.start ?? 0;
    const before = /\s*$/.exec(leaving.script.text.slice(0, start))?.[0].length ?? 0;
    saysAt(leaving, start - before, key.path.node.end ?? 0, '');
  }
  for (const reference of referencesOf(apart, parameter)) {
    const isKey =
      key &&
      (reference.node.start ?? 0) >= (key.path.node.start ?? 0) &&
      (reference.node.end ?? 0) <= (key.path.node.end ?? 0);
    if (!isKey) says(leaving, reference, error);
  }
  says(leaving, call, () => {
    const text = textIn(leaving, body);
    return text.includes('\n')
      ? `${error} && (\n${depthOf(leaving, body)}${text}\n${depthOf(leaving, call)})`
      : `${error} && ${text}`;
  });
  return true;
}
