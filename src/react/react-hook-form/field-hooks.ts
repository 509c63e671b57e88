import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { attributesOf } from '../jsx-controls.js';
import { otherwise } from '../package-leaving/conditions.js';
import {
  callingComponents,
  fieldComponent,
  type Asked,
  type FieldComponent,
} from '../package-leaving/field-components.js';
import { asks, controlAt, ensureName, sayAsked, saySpread, sayTaken } from '../package-leaving/field-controls.js';
import type { FormFiles } from '../package-leaving/form-files.js';
import { patternIn } from '../package-leaving/given-props.js';
import { forgetNames } from '../package-leaving/hook-form.js';
import {
  drawnText,
  referencesTo,
  says,
  stays,
  takeAttribute,
  takeStatement,
  takenApart,
  textIn,
} from '../package-leaving/leaving.js';
import { callOf, type MemberPlace } from '../package-leaving/members.js';
import { attributeOf, isTested } from '../package-leaving/ties.js';
import { fieldHookOf, type FieldHook } from './field-hook.js';
import { sayFieldTypes } from './field-types.js';
import { notesFocus, type TakenApart } from './form.js';
import { memberAround } from './messages.js';
import { registers } from './registered.js';

/** Components of the project that take one field by the package’s hooks are given it by the form’s own. */
export function sayFieldComponents(apart: TakenApart, files: FormFiles): FieldComponent[] {
  return callingComponents(apart.leaving, 'react-hook-form').flatMap((calling): FieldComponent[] => {
    const hook = fieldHookOf(calling.placed);
    const part = hook && fieldComponent(apart, calling, hook.named, files);
    if (!part) return [];
    sayHook(apart, part, hook);
    return [part];
  });
}

function sayHook(apart: TakenApart, part: FieldComponent, hook: FieldHook): void {
  const { leaving } = part;
  const { statement, given, taken, call, drawn } = hook;
  handedIn(apart, part, hook);
  stateRules(apart, part, hook);
  if (given && call) {
    sayGiven(apart, part, given);
    for (const one of [...call.node.arguments, ...given.map(([, target]) => target.node)])
      otherwise(leaving, [one.start, one.end], call.node, 'each element says which field it shows, and is given it');
  } else if (statement) {
    forgetNames(leaving, [
      statement.get('declarations')[0]?.get('id') as NodePath,
      ...taken.patterns.map((one) => one.get('id') as NodePath),
    ]);
    for (const place of taken.places) if (place.member !== 'control') sayPlace(apart, part, place);
    for (const one of taken.patterns) takeStatement(leaving, one.parentPath);
  }
  for (const element of drawn) sayDrawn(apart, part, element);
  notesFocusOf(apart, part);
  sayFieldTypes(part, statement?.node);
  if (statement) takeStatement(leaving, statement);
}

/** Fields whose components hand their control on to the package get the focus where they are wrong. */
export function notesFocusOf(apart: TakenApart, { drawn, focused }: FieldComponent): void {
  if (focused) for (const { field } of drawn) notesFocus(apart, field);
}

/** What `<Controller name={name} render={({ field }) => …} />` draws, in the component’s own elements. */
function sayDrawn(apart: TakenApart, part: FieldComponent, element: NodePath<t.JSXElement>): void {
  const { leaving } = part;
  const attributes = attributesOf(element);
  const odd = attributes.find(({ name }) => !/^(?:name|control|rules|render)$/.test(name));
  const render = attributes.find(({ name }) => name === 'render')?.value;
  const body = render?.isArrowFunctionExpression() ? (render.get('body') as NodePath) : undefined;
  const [given] = render?.isArrowFunctionExpression() ? (render.get('params') as NodePath[]) : [];
  if (odd || !body || body.isBlockStatement() || !given?.isObjectPattern()) {
    stays(leaving, odd?.path ?? element.get('openingElement'), 'it does more than draw a part of the page');
    return;
  }
  sayGiven(apart, part, takenApart(given));
  for (const { name, value } of attributes)
    if (value && name !== 'render')
      otherwise(leaving, [value.node.start, value.node.end], value.node, 'the component is given the field');
  says(leaving, element, () => drawnText(leaving, element, body));
}

/** Properties that only the package asks for go: the form’s control, and rules. */
function handedIn({ form }: TakenApart, part: FieldComponent, { rules, statement, drawn }: FieldHook): void {
  const isDrawn = ({ node, parent }: NodePath): boolean =>
    t.isJSXAttribute(node) &&
    /^(?:control|rules)$/.test(String(node.name.name)) &&
    drawn.some((one) => one.node.openingElement === parent);
  const pattern = patternIn(part.component.path);
  const names = new Set(['control', ...(rules && 'property' in rules ? [rules.property] : [])]);
  for (const { element } of part.drawn)
    for (const { name, value } of attributesOf(element)) {
      if (name !== 'control' || !value) continue;
      form.taken.places = form.taken.places.filter(({ path }) => path.node !== value.node);
    }
  for (const name of names) part.gone.add(name);
  for (const property of pattern?.get('properties') ?? []) {
    const { node } = property;
    if (!property.isObjectProperty() || !t.isObjectProperty(node) || !t.isIdentifier(node.key)) continue;
    if (!names.has(node.key.name)) continue;
    const local = property.get('value') as NodePath;
    const places = local.isIdentifier() ? (local.scope.getBinding(local.node.name)?.referencePaths ?? []) : [];
    const isAsked = places.some(
      (one) => !one.findParent((up) => up.node === statement?.node || isDrawn(up)) && !isRegistering(one),
    );
    if (local.isIdentifier() && !isAsked) part.handed.push(property);
    else stays(part.leaving, property, 'what it does with this besides is not told');
  }
}

/** Whether a name is an argument by which a field is registered. */
function isRegistering({ parentPath: call, key }: NodePath): boolean {
  return call?.isCallExpression() === true && key === 1 && /(?:^|\.)register$/.test(call.get('callee').toString());
}

/** The rules of each field: those of the component, or those that its element brings. */
function stateRules(apart: TakenApart, part: FieldComponent, { rules, call }: FieldHook): void {
  for (const { element, field } of part.drawn) {
    if (rules && 'own' in rules) {
      const inner: TakenApart = { ...apart, leaving: part.leaving, drawnBy: { apart, element } };
      registers(inner, { field, rules: rules.own, at: call ?? rules.own, element: undefined, numeric: false });
      continue;
    }
    const brought = rules && attributesOf(element).find(({ name }) => name === rules.property);
    if (brought && !brought.value?.isObjectExpression()) {
      stays(apart.leaving, brought.path, 'its rules are told only when the form runs');
      continue;
    }
    const stated = brought?.value?.isObjectExpression() ? brought.value : undefined;
    if (stated && memberNamed(stated, 'valueAsNumber')) stays(apart.leaving, stated, 'it makes a number of a text');
    if (stated && (memberNamed(stated, 'onChange') ?? memberNamed(stated, 'deps')))
      stays(apart.leaving, stated, 'it does more than check');
    registers(apart, { field, rules: stated, at: element, element, numeric: false });
  }
}

const members: Readonly<Record<string, Asked>> = { 'field.value': 'value' };

/**
 * Says what a component does with what the package gives it of its field.
 * @param given what it takes that into, by the package’s names of it
 */
export function sayGiven(
  apart: TakenApart,
  part: FieldComponent,
  given: readonly (readonly [key: string | undefined, target: NodePath])[],
): void {
  sayTaken(
    part,
    given.map(([key, target]) => [key ?? '', target]),
    (member, path) => sayMember(apart, part, member, path),
    (key, spread) => {
      if (key !== 'field') return false;
      part.focused = true;
      return saySpread(part, spread, undefined, apart.needs.has('handleBlur'));
    },
  );
}

function sayMember(apart: TakenApart, part: FieldComponent, member: string, path: NodePath): void {
  const { leaving, named } = part;
  const known = members[member];
  if (known) sayAsked(part, path, known);
  else if (member === 'field.name') says(leaving, path, named.text);
  else if (member === 'fieldState.error') sayError(apart, part, path);
  else if (member === 'fieldState.invalid') {
    const error = asks(part, 'error', path);
    if (error !== undefined) says(leaving, path, isTested(path) ? error : `${error} !== undefined`);
  } else if (!sayHandler(apart, part, member, path))
    stays(leaving, path, `${member} of the package is not said here without it yet`);
}

function sayHandler(apart: TakenApart, part: FieldComponent, member: string, path: NodePath): boolean {
  const { leaving } = part;
  const at = attributeOf(path);
  const call = callOf(path);
  const isNative = at !== undefined && controlAt(part, at.element, undefined) !== undefined;
  if (isNative && /^field\.(?:ref|onBlur|onChange)$/.test(member)) ensureName(part, at.element);
  if (member === 'field.ref' && at && isNative) {
    part.focused = true;
    takeAttribute(leaving, path);
    return true;
  }
  if (member === 'field.onBlur' && at && isNative) {
    if (apart.needs.has('handleBlur')) sayAsked(part, path, 'onBlur');
    else takeAttribute(leaving, path);
    return true;
  }
  if (member !== 'field.onChange') return false;
  if (at?.name === 'onChange' && isNative) {
    sayAsked(part, path, 'onChange');
    return true;
  }
  return saySetter(part, call, path);
}

/** A call that gives the field a value, rather than an event. */
function saySetter(part: FieldComponent, call: NodePath<t.CallExpression> | undefined, path: NodePath): boolean {
  const { leaving } = part;
  const value = call?.get('arguments')[0] as NodePath | undefined;
  const fn = call?.findParent((one) => one.isFunction());
  const [event] = fn?.isFunction() ? fn.node.params : [];
  const isEvent = value?.isIdentifier() === true && t.isIdentifier(event, { name: value.node.name });
  const set = call && value && !isEvent ? asks(part, 'setValue', path) : undefined;
  if (!call || !value || set === undefined) return false;
  leaving.turns.push({ path: call, does: 'whole' });
  const { start, end } = call.node.callee;
  otherwise(leaving, [start, end], call.node, 'a function of the form’s own sets the value');
  says(leaving, call, () => `${set}(${textIn(leaving, value)})`);
  return true;
}

/**
 * What a component asks of an error: its message, or whether there is one; what else it does with it stays, and is said.
 * @param path where it asks for the error
 * @param name a constant that it is kept in
 */
export function sayError(apart: TakenApart, part: FieldComponent, path: NodePath, name?: string): void {
  const say = (place: NodePath): void => {
    if (name === undefined) sayAsked(part, place, 'error');
    else says(part.leaving, place, name);
  };
  const { leaving } = part;
  const declarator = path.parentPath;
  const id = declarator?.isVariableDeclarator() ? (declarator.get('id') as NodePath) : undefined;
  if (id?.isIdentifier() && name === undefined) {
    sayAsked(part, path, 'error');
    for (const reference of referencesTo(leaving, id)) sayError(apart, part, reference, id.node.name);
    return;
  }
  const asked = memberAround(path);
  if (asked?.key === 'message') {
    for (const { field } of part.drawn) apart.worded.add(field);
    say(asked.member);
  } else if (!asked && isTested(path)) say(path);
  else stays(leaving, path, 'the error is handed on as the package has it');
}

/** A place that asks the form of the context for the one field. */
function sayPlace(apart: TakenApart, part: FieldComponent, { member, path }: MemberPlace): void {
  const { leaving } = part;
  const { parentPath: around } = path;
  if (member === 'formState.errors' && around) {
    sayError(apart, part, around);
    return;
  }
  const call = callOf(path);
  const spread = call?.parentPath;
  const value = call?.get('arguments')[1] as NodePath | undefined;
  if (member === 'register' && spread?.isJSXSpreadAttribute()) {
    part.focused = true;
    const element = spread.parentPath.parentPath as NodePath<t.JSXElement>;
    const type = attributesOf(element).find(({ name }) => name === 'type')?.text;
    if (saySpread(part, spread, type, apart.needs.has('handleBlur')) && value)
      otherwise(leaving, [value.node.start, value.node.end], call?.node ?? value.node, 'the form’s own check says it');
  } else if (member === 'watch' && call) {
    const held = asks(part, 'value', path);
    if (held !== undefined) says(leaving, call, held);
  } else stays(leaving, call ?? path, `${member} of the package is not said here without it yet`);
}
