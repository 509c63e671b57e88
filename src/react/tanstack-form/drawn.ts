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
  takeStatement,
  textIn,
  type Leaving,
} from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import { attributeOf, nameText } from '../package-leaving/ties.js';
import { errorsOf, type OwnField, type TakenApart } from './form.js';
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

/** How a component speaks of one field. */
export interface FieldWords {
  leaving: Leaving;
  /** The field’s name as an attribute has it, and as an expression. */
  name: { attribute: string; text: string };
  /** Its value; undefined where the name means something else at a place, which is said. */
  value(at: NodePath): string | undefined;
  touched(at: NodePath): string | undefined;
  /** Its messages, one expression for each kind of rules that it has. */
  errors(at: NodePath): string[] | undefined;
  /** What runs when it is left: a call, and a handler. */
  left(at: NodePath): { call: string; handler: string } | undefined;
  /** Says a change of it; false where it cannot be told. */
  changes(at: NodePath): boolean;
}

/** The words of the form’s own component. */
function wordsOf(apart: TakenApart, own: OwnField): FieldWords {
  const { leaving, names, needs } = apart;
  const text = nameText(apart, own.name);
  return {
    leaving,
    name: { attribute: `"${own.name}"`, text },
    value(at) {
      if (!isSeenAt(leaving, at, names.values)) stays(leaving, at, `${names.values} means something else here`);
      return `${names.values}.${own.name}`;
    },
    touched() {
      needs.add('touched');
      return `${names.touched}.${own.name}`;
    },
    errors() {
      needs.add('errors');
      return errorsOf(apart, own.name);
    },
    left() {
      needs.add('left');
      return { call: `${names.left}(${text})`, handler: `() => ${names.left}(${text})` };
    },
    changes: (at) => sayChange(apart, at, own),
  };
}

function sayOfField(apart: TakenApart, reference: NodePath, own: OwnField, known: readonly string[]): void {
  const at = known.length ? undefined : attributeOf(reference);
  if (at && /^[A-Z]/.test(tagOf(at.element))) apart.handed.push({ element: at.element, own, at: reference });
  else sayWords(wordsOf(apart, own), reference, known);
}

/** Says what is asked of a field at a reference to it, in the words of its component. */
export function sayWords(words: FieldWords, reference: NodePath, known: readonly string[]): void {
  const { leaving } = words;
  const { keys, path } = chainOf(reference, known);
  const member = keys.join('.');
  const say = (text: string | undefined): void => {
    if (text !== undefined) says(leaving, path, text);
  };
  switch (member) {
    case 'state.value':
      return say(words.value(path));
    case 'state.meta.isTouched':
      return say(words.touched(path));
    case 'name': {
      const container = path.parentPath;
      const isAttribute = container?.isJSXExpressionContainer() && container.parentPath.isJSXAttribute();
      if (container && isAttribute) says(leaving, container, words.name.attribute);
      else say(words.name.text);
      return;
    }
    case 'state.meta.isValid':
    case 'state.meta.errors':
      if (!sayErrors(words, path, member)) stays(leaving, path, 'its messages are not said without the package yet');
      return;
    case 'handleBlur': {
      const left = words.left(path);
      if (!left) return;
      if (attributeOf(path)) say(left.handler);
      else if (path.parentPath?.isCallExpression() && path.key === 'callee') says(leaving, path.parentPath, left.call);
      else stays(leaving, path, 'it is handed on');
      return;
    }
    case 'state.meta.isValidating':
      if (!saidNever(leaving, path)) stays(leaving, path, 'it is false at any time, as no rule of the form waits');
      return;
    case 'handleChange':
    case 'setValue':
      if (!words.changes(path)) stays(leaving, path, 'what it is given is not told');
      return;
    default:
      stays(leaving, path, `${member || 'the field'} of the package is not said here without it yet`);
  }
}

/** What is drawn while a rule waits for something goes, as none does. */
function saidNever(leaving: Leaving, path: NodePath): boolean {
  const { parentPath: around, key } = path;
  const isTest =
    (around?.isConditionalExpression() === true && key === 'test') ||
    (around?.isLogicalExpression({ operator: '&&' }) === true && key === 'left');
  const container = around?.parentPath;
  const isDrawn = container?.isJSXExpressionContainer() === true && !container.parentPath.isJSXAttribute();
  if (!around || !container || !isTest || !isDrawn) return false;
  const why = 'no rule of the form waits for anything';
  const rest = around.isConditionalExpression() ? (around.get('alternate') as NodePath) : undefined;
  if (rest && !rest.isNullLiteral()) {
    otherwise(leaving, [around.node.start, rest.node.start], around.node, why);
    says(leaving, around, () => textIn(leaving, rest));
    return true;
  }
  otherwise(leaving, [container.node.start, container.node.end], around.node, why);
  takeStatement(leaving, container);
  return true;
}

/** The call that changes a field; one with a listener has a function of its own. */
export function changedAs(apart: TakenApart, field: string, text: string): string {
  return apart.listeners.has(field)
    ? `${listenerName(field)}(${text})`
    : apart.changes(
        valuesWith(apart, keyText(field) === text ? text : `${keyText(field)}: ${text}`),
        nameText(apart, field),
      );
}

function sayChange(apart: TakenApart, path: NodePath, own: OwnField): boolean {
  const { leaving, names, needs } = apart;
  needs.add('change');
  const changed = (text: string): string => changedAs(apart, own.name, text);
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
