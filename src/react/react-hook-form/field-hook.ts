import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { drawnOf } from '../package-leaving/drawn-components.js';
import { namedBy, namedIn, type Named } from '../package-leaving/field-components.js';
import { declaredBy } from '../package-leaving/hook-form.js';
import { takenApart } from '../package-leaving/leaving.js';
import { callOf, membersTaken, type MemberPlace, type Members } from '../package-leaving/members.js';
import { attributeOf } from '../package-leaving/ties.js';

const module = 'react-hook-form';

const none: Members = { places: [], locals: new Map(), patterns: [], unclear: [] };

/** The one call of the package by which a component takes the field that one of its properties names. */
export interface FieldHook {
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
  if (!given.isObjectExpression() && !given.isIdentifier()) return undefined;
  const named = namedIn(given, placed, /^(?:name|control|rules)$/);
  // where it gives all that it is given, its elements may bring rules
  const rules = given.isObjectExpression() ? rulesOf(memberNamed(given, 'rules'), placed) : { property: 'rules' };
  if (!named || rules === 'other') return undefined;
  return { named, call, statement, drawn: [], given: takenApart(target), taken: none, rules };
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
  if (!/^(?:register|watch)$/.test(member)) return undefined;
  const call = callOf(path);
  const [name, second, ...more] = (call?.get('arguments') ?? []) as (NodePath | undefined)[];
  return name && (member === 'register' || !second) && !more.length ? namedBy(name, placed) : undefined;
}
