import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Component } from '../components.js';
import { pascal } from '../form-names.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { givenIn } from './drawn-control.js';
import type { Asked, FieldComponent } from './field-components.js';
import { patternIn, spreads } from './given-props.js';
import { forgetNames } from './hook-form.js';
import { asAttributes, sayName, says, saysAt, stays, takeStatement, type Leaving } from './leaving.js';
import { membersTaken, type Members } from './members.js';
import { walk } from '../../source/traverse.js';

/**
 * Notes that a component asks something of its field at a place.
 * @returns the property by which it is given that; undefined where its name means something else there, which is said
 */
export function asks({ leaving, asked, component }: FieldComponent, what: Asked, path: NodePath): string | undefined {
  const name = asked.get(what) ?? [what, `field${pascal(what)}`].find((one) => isFree(one, component, leaving));
  if (name === undefined) {
    stays(leaving, path, `${what} means something else here`);
    return undefined;
  }
  asked.set(what, name);
  return name;
}

/** Whether a component has no name like this, neither its own nor in one of its functions. */
function isFree(name: string, { path }: Component, { gone, script }: Leaving): boolean {
  let free = true;
  walk(path, {
    Scope({ scope }) {
      const own = scope.getOwnBinding(name);
      if (own && !gone.has(own)) free = false;
    },
  });
  const known = path.scope.getBinding(name);
  if (known && !gone.has(known)) return false;
  const [parameter] = path.isFunction() ? path.node.params : [];
  const pattern = patternIn(path)?.node;
  const isGiven = pattern
    ? pattern.properties.some((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name }))
    : t.isIdentifier(parameter) &&
      new RegExp(`\\b${parameter.name}\\.${name}\\b`).test(textOfNode(path.node, script.text));
  return free && !isGiven;
}

function textOfNode({ start, end }: t.Node, text: string): string {
  return text.slice(start ?? 0, end ?? 0);
}

/** Says what a component is given in place of an expression. */
export function sayAsked(part: FieldComponent, path: NodePath, what: Asked): void {
  const name = asks(part, what, path);
  if (name !== undefined) sayName(part.leaving, path, name);
}

/** What a control of a component gives by its element, or by the type that its elements say. */
export function controlAt(
  part: FieldComponent,
  element: NodePath<t.JSXElement>,
  type: string | undefined,
  tag = tagOf(element),
): { tag: string; type: string | undefined } | undefined {
  const attributes = attributesOf(element);
  const own = attributes.find(({ name }) => name === 'type');
  const begins = own?.value && own.text === undefined ? typeAsGiven(part, own.value) : undefined;
  if (own && own.text === undefined && begins === undefined) return undefined;
  // a property decides it, which each element says for itself
  const said = own?.text ?? begins?.text ?? type;
  const control = { tag, type: said };
  const isOther =
    part.control !== undefined && (part.control.tag !== control.tag || part.control.type !== control.type);
  const isListed = said === 'checkbox' && attributes.some(({ name }) => name === 'value');
  if (!/^(?:input|select|textarea)$/.test(tag) || /^(?:radio|file)$/.test(said ?? '') || isListed || isOther)
    return undefined;
  if (tag === 'select' && attributes.some(({ name }) => name === 'multiple')) return undefined;
  part.control = control;
  return control;
}

/** What the property `type` of a component is where its elements do not say it; undefined where something else decides. */
function typeAsGiven({ component }: FieldComponent, value: NodePath): { text: string | undefined } | undefined {
  const given = givenIn(component.path);
  if (value.isMemberExpression() && t.isIdentifier(value.node.property, { name: 'type' }))
    return t.isIdentifier(value.node.object) && value.node.object.name === given?.rest?.node.name
      ? { text: undefined }
      : undefined;
  const own = given?.pattern.get('type');
  return own && value.isIdentifier({ name: own.local.node.name }) ? { text: own.begins } : undefined;
}

/**
 * Says the attributes by which an element of a component shows its field and takes in what a person enters.
 * @param blurs whether it tells that it was left
 * @returns false where it cannot be told, which is said
 */
export function saySpread(part: FieldComponent, spread: NodePath, type: string | undefined, blurs: boolean): boolean {
  const { leaving } = part;
  const element = spread.parentPath?.parentPath as NodePath<t.JSXElement>;
  const control = controlAt(part, element, type);
  if (!control) {
    stays(leaving, spread, `what <${tagOf(element)}> takes of its field is not told`);
    return false;
  }
  const tied = tiedIn(part, element, control, spread, blurs);
  if (tied) says(leaving, spread, () => asAttributes(leaving, spread, tied));
  return tied !== undefined;
}

/**
 * The attributes by which a control of a component shows its field, by the properties that the component is given.
 * @param at where a reason is told, if one of them means something else there
 */
export function tiedIn(
  part: FieldComponent,
  element: NodePath<t.JSXElement>,
  control: { type: string | undefined },
  at: NodePath,
  blurs: boolean,
): string[] | undefined {
  const { named } = part;
  const own = new Set(attributesOf(element).map(({ name }) => name));
  const shows: Asked = control.type === 'checkbox' ? 'checked' : 'value';
  const wanted: Asked[] = [shows, 'onChange', ...(blurs ? (['onBlur'] as const) : [])];
  const given = wanted.filter((one) => !own.has(one));
  const names = given.map((one) => asks(part, one, at));
  if (names.includes(undefined)) return undefined;
  const isAnew = named.property === undefined;
  const anew = isAnew && !own.has('name') ? asks(part, 'name', at) : named.text;
  if (anew === undefined) return undefined;
  const name = own.has('name') || (!isAnew && spreads(element, named.rest)) ? [] : [`name={${anew}}`];
  return [...name, ...given.map((one, index) => `${one}={${names[index] ?? one}}`)];
}

/** Gives a control the name of its field where it has none: events, and what looks for a control, tell it by that. */
export function ensureName(part: FieldComponent, element: NodePath<t.JSXElement>): void {
  const { leaving, named, namedControls } = part;
  const hasName = attributesOf(element).some(({ name }) => name === 'name');
  if (hasName || spreads(element, named.rest) || namedControls.has(element.node)) return;
  namedControls.add(element.node);
  const name = named.property === undefined ? asks(part, 'name', element) : named.text;
  const at = element.node.openingElement.name.end ?? 0;
  if (name !== undefined) saysAt(leaving, at, at, ` name={${name}}`);
}

/**
 * Says every place where a component takes something of the parts of its field: a name of the whole, or of members.
 * @param parts the parts, by what the package calls them, and what the component takes them into
 * @param sayMember says a member (`field.value`) at a place
 * @param sayWhole says the whole of a part where an element is given all of it; false where it cannot
 */
export function sayTaken(
  { leaving }: FieldComponent,
  parts: readonly (readonly [key: string, target: NodePath])[],
  sayMember: (member: string, path: NodePath) => void,
  sayWhole: (key: string, spread: NodePath) => boolean,
): void {
  const taken = parts.map(([key, target]) => ({ key, target, ...membersTaken(target) }));
  const ids = ({ patterns }: Members): NodePath[] => patterns.map((one) => one.get('id') as NodePath);
  forgetNames(
    leaving,
    taken.flatMap((one) => [one.target, ...ids(one)]),
  );
  for (const { key, places, patterns, unclear } of taken) {
    for (const { member, path } of places) sayMember(`${key}.${member}`, path);
    for (const path of unclear) {
      const spread = path.parentPath?.isJSXSpreadAttribute() ? path.parentPath : undefined;
      if (!spread || !sayWhole(key, spread)) stays(leaving, path, 'it is handed on as a whole');
    }
    for (const { parentPath } of patterns) takeStatement(leaving, parentPath);
  }
}
