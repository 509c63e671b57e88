import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { keyText, valuesWith } from '../package-leaving/apart.js';
import { otherwise, standingFor } from '../package-leaving/conditions.js';
import {
  drawnText,
  isSeenAt,
  referencesTo,
  sayName,
  says,
  stays,
  takenApart,
  textIn,
} from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import { attributeOf, nameText } from '../package-leaving/ties.js';
import type { OwnField, TakenApart } from './form.js';
import { sayErrors } from './messages.js';
import { listenerName } from './noted.js';
import { sayState, selectedBy } from './state.js';

/** The member of the form’s own components that an element is: `Field` of `<form.Field>`. */
export function partOf({ form }: TakenApart, element: NodePath<t.JSXElement>): string | undefined {
  const { name } = element.node.openingElement;
  const place = form.taken.places.find(({ path }) => path.node === name);
  return place?.member;
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
  for (const [key, local] of takenApart(given)) {
    if (key === undefined) stays(apart.leaving, local, 'what it is given is no plain name');
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
        ? takenApart(parameter).map(([key, one]): [string, NodePath] => [key ?? '', one])
        : [[0, parameter]];
    parts.forEach(([key, part]) => {
      const text = texts.get(key);
      if (!part.isIdentifier() || text === undefined) stays(leaving, part, 'what it is given is no plain name');
      else for (const reference of referencesOf(apart, part)) sayName(leaving, reference, text);
    });
  });
  if (drawn) says(leaving, element, () => drawnText(leaving, element, drawn));
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

function referencesOf(apart: TakenApart, parameter: NodePath): NodePath[] {
  if (parameter.isIdentifier()) return referencesTo(apart.leaving, parameter);
  stays(apart.leaving, parameter, 'what it is given is no plain name');
  return [];
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
  const call = callOf(path);
  if (!call) {
    const at = attributeOf(path);
    if (!at || !/^[A-Z]/.test(tagOf(at.element)) || !leaving.script.typescript) return false;
    const name = path.scope.getBinding(own.name) ? 'value' : own.name;
    says(leaving, path, `(${name}) => ${changed(name)}`);
    return true;
  }
  const [next, ...more] = call.get('arguments') as NodePath[];
  if (!next || more.length) return false;
  leaving.turns.push({ path: call, does: 'whole' });
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
