import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { drawnOf } from '../package-leaving/drawn-components.js';
import { otherwise } from '../package-leaving/conditions.js';
import {
  asks,
  callingComponents,
  controlAt,
  ensureName,
  fieldComponent,
  namedBy,
  sayAsked,
  saySpread,
  type Asked,
  type FieldComponent,
  type Named,
} from '../package-leaving/field-components.js';
import { patternIn, restOf } from '../package-leaving/given-props.js';
import { declaredBy, forgetNames } from '../package-leaving/hook-form.js';
import {
  drawnText,
  referencesTo,
  says,
  stays,
  takeAttribute,
  takeStatement,
  takenApart,
  textIn,
  type Leaving,
} from '../package-leaving/leaving.js';
import { callOf, membersTaken, type MemberPlace, type Members } from '../package-leaving/members.js';
import { attributeOf, isTested } from '../package-leaving/ties.js';
import { sayFieldTypes } from './field-types.js';
import { notesFocus, type TakenApart } from './form.js';
import { memberAround } from './messages.js';
import { registers } from './registered.js';

const module = 'react-hook-form';

const none: Members = { places: [], locals: new Map(), patterns: [], unclear: [] };

/** The one call of the package by which a component takes the field that one of its properties names. */
interface FieldHook {
  named: Named;
  /** The hook’s call, and the statement that it stands in; none where only an element of the package is given the form’s control. */
  call: NodePath<t.CallExpression> | undefined;
  statement: NodePath<t.VariableDeclaration> | undefined;
  /** Elements of the package that draw the field. */
  drawn: NodePath<t.JSXElement>[];
  /** What a controller gives, by its keys; none where the form comes out of the context. */
  given: [string | undefined, NodePath][] | undefined;
  taken: Members;
  /** The rules that are stated in the component, or the property that brings them. */
  rules: { own: NodePath<t.ObjectExpression> } | { property: string } | undefined;
}

/** How a component takes one field of the form that it is given by name; undefined where it does more with the form than that. */
export function fieldHookOf(placed: Placed): FieldHook | undefined {
  const [only, ...more] = callsOf(placed.path, module);
  const elements = drawnOf(placed.path, module);
  const declared = only && declaredBy(only.call);
  if (more.length || (only && !declared) || elements.some(({ name }) => name !== 'Controller')) return undefined;
  const drawn = elements.map(({ element }) => element);
  if (!only || !declared) return drawn.length ? drawnFieldOf(placed, drawn) : undefined;
  const { statement, target } = declared;
  if (only.name === 'useController')
    return drawn.length ? undefined : controllerOf(placed, only.call, statement, target);
  return only.name === 'useFormContext' && !only.call.node.arguments.length
    ? contextFieldOf(placed, only.call, statement, target, drawn)
    : undefined;
}

/** `<Controller name={name} control={control} …>`, in a component that is given the form’s control. */
function drawnFieldOf(placed: Placed, drawn: NodePath<t.JSXElement>[]): FieldHook | undefined {
  const names = drawn.map((element) => drawnName(element, placed));
  const [named] = names;
  const rules = drawnRules(drawn, placed);
  if (!named || rules === 'other' || names.some((one) => one?.property !== named.property)) return undefined;
  return { named, call: undefined, statement: undefined, drawn, given: undefined, taken: none, rules };
}

/** The property that names the field of an element of the package. */
function drawnName(element: NodePath<t.JSXElement>, placed: Placed): Named | undefined {
  const name = attributesOf(element).find((one) => one.name === 'name')?.value;
  return name && namedBy(name, placed);
}

/** The rules that elements of the package state. */
function drawnRules(drawn: readonly NodePath<t.JSXElement>[], placed: Placed): FieldHook['rules'] | 'other' {
  const [only, ...more] = drawn.flatMap((element) => attributesOf(element).filter(({ name }) => name === 'rules'));
  return more.length ? 'other' : rulesOf(only?.value, placed);
}

function controllerOf(
  placed: Placed,
  call: NodePath<t.CallExpression>,
  statement: NodePath<t.VariableDeclaration>,
  target: NodePath,
): FieldHook | undefined {
  const [given, ...others] = call.get('arguments') as (NodePath | undefined)[];
  if (!given || others.length || !target.isObjectPattern()) return undefined;
  const rest = restOf(placed.path);
  const all: Named | undefined = rest === undefined ? undefined : { property: 'name', text: `${rest}.name`, rest };
  const hook = { call, statement, drawn: [], given: takenApart(target), taken: none };
  if (given.isIdentifier() && given.node.name === rest)
    return all && { ...hook, named: all, rules: { property: 'rules' } };
  if (!given.isObjectExpression()) return undefined;
  const known = given.node.properties.every(
    (one) =>
      (t.isSpreadElement(one) && t.isIdentifier(one.argument) && one.argument.name === rest) ||
      (t.isObjectProperty(one) && t.isIdentifier(one.key) && /^(?:name|control|rules)$/.test(one.key.name)),
  );
  const [name, rules] = [memberNamed(given, 'name'), memberNamed(given, 'rules')];
  const named = name ? namedBy(name, placed) : all;
  const stated = rulesOf(rules, placed);
  return known && named && stated !== 'other' ? { ...hook, named, rules: stated } : undefined;
}

function rulesOf(rules: NodePath | undefined, placed: Placed): FieldHook['rules'] | 'other' {
  if (!rules) return undefined;
  if (rules.isObjectExpression()) return { own: rules };
  const by = namedBy(rules, placed);
  return by?.property === undefined ? 'other' : { property: by.property };
}

/** `const { register, formState: { errors } } = useFormContext()`, where everything that is asked is asked by the one name. */
function contextFieldOf(
  placed: Placed,
  call: NodePath<t.CallExpression>,
  statement: NodePath<t.VariableDeclaration>,
  target: NodePath,
  drawn: NodePath<t.JSXElement>[],
): FieldHook | undefined {
  const taken = membersTaken(target);
  const names: Named[] = [];
  let rules = drawnRules(drawn, placed);
  for (const element of drawn) {
    const named = drawnName(element, placed);
    if (!named) return undefined;
    names.push(named);
  }
  for (const place of taken.places) {
    // an element of the package is given it
    if (place.member === 'control' && attributeOf(place.path)?.name === 'control') continue;
    const named = nameAt(place, placed);
    if (!named) return undefined;
    names.push(named);
    const asked = place.member === 'register' ? callOf(place.path)?.get('arguments')[1] : undefined;
    if (asked) rules = rulesOf(asked as NodePath, placed);
  }
  const [named] = names;
  const isOne = names.every(({ property }) => property === named?.property);
  if (!named || !isOne || rules === 'other' || taken.unclear.length) return undefined;
  return { named, call, statement, drawn, given: undefined, taken, rules };
}

/** The property by which a member of the form is asked for a field. */
function nameAt({ member, path }: MemberPlace, placed: Placed): Named | undefined {
  if (member === 'formState.errors') {
    const node = path.parentPath?.node;
    const isComputed = (t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) && node.computed;
    return isComputed && path.parentPath ? namedBy(path.parentPath.get('property') as NodePath, placed) : undefined;
  }
  if (!/^(?:register|watch|setValue)$/.test(member)) return undefined;
  const call = callOf(path);
  const [name, second, ...more] = (call?.get('arguments') ?? []) as (NodePath | undefined)[];
  const fits = member === 'setValue' ? second !== undefined : member === 'register' || !second;
  return name && fits && !more.length ? namedBy(name, placed) : undefined;
}

/** Components of the project that take one field by the package’s hooks are given it by the form’s own. */
export function sayFieldComponents(apart: TakenApart, files: Map<string, Leaving>): FieldComponent[] {
  return callingComponents(apart.leaving, module).flatMap((calling): FieldComponent[] => {
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
    forgetNames(
      leaving,
      given.map(([, target]) => target),
    );
    for (const [key, target] of given) sayGiven(apart, part, key ?? '', target);
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
  forgetNames(leaving, [given]);
  for (const [key, target] of takenApart(given)) sayGiven(apart, part, key ?? '', target);
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

export function sayGiven(apart: TakenApart, part: FieldComponent, key: string, target: NodePath): void {
  const { leaving } = part;
  if (target.isObjectPattern()) {
    for (const [name, local] of takenApart(target)) {
      if (!local.isIdentifier()) stays(leaving, local, 'what it takes is no plain name');
      else for (const path of referencesTo(leaving, local)) sayMember(apart, part, `${key}.${name ?? ''}`, path);
    }
    return;
  }
  if (!target.isIdentifier()) {
    stays(leaving, target, 'what it takes is no plain name');
    return;
  }
  for (const reference of referencesTo(leaving, target)) {
    const { parentPath: parent } = reference;
    const asked = memberAround(reference);
    if (key === 'field' && parent?.isJSXSpreadAttribute()) {
      part.focused = true;
      saySpread(part, parent, undefined, apart.needs.has('handleBlur'));
    } else if (asked?.key !== undefined) sayMember(apart, part, `${key}.${asked.key}`, asked.member);
    else stays(leaving, reference, 'it is handed on as a whole');
  }
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
function saySetter(
  part: FieldComponent,
  call: NodePath<t.CallExpression> | undefined,
  path: NodePath,
  value = call?.get('arguments')[0] as NodePath | undefined,
): boolean {
  const { leaving } = part;
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
 * What a component asks of an error: its message, or whether there is one.
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
  } else if (member !== 'setValue' || !call?.parentPath.isExpressionStatement() || !saySetter(part, call, path, value))
    stays(leaving, call ?? path, `${member} of the package is not said here without it yet`);
}
