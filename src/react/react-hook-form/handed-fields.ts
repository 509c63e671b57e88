import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import { callsOf } from '../hook-calls.js';
import { groupsOf } from '../package-leaving/nested.js';
import { attributesOf, type JsxAttribute } from '../jsx-controls.js';
import {
  handedComponent,
  ownComponents,
  type DrawnComponent,
  type FieldComponent,
} from '../package-leaving/field-components.js';
import { membersOf, nameOfMember, takenProperty } from '../package-leaving/given-props.js';
import type { FormFiles } from '../package-leaving/form-files.js';
import { referencesTo, says, saysAt, stays } from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import { notesFocusOf, sayError, sayGiven } from './field-hooks.js';
import { errorOf, fieldIn, type TakenApart } from './form.js';
import { memberAround } from './messages.js';
import { registers } from './registered.js';

/** What an element hands its component of one field, as the package has it. */
interface HandedField {
  field: string;
  attribute: JsxAttribute;
  rules: NodePath<t.ObjectExpression> | undefined;
}

/**
 * Components that are handed what registers a field (`field={register('town')}`), or its error as the package has it
 * (`error={errors.town}`): they are given the parts of it, and the message.
 */
export function sayHandedFields(apart: TakenApart, files: FormFiles): FieldComponent[] {
  return ownComponents(apart.leaving.site).flatMap((drawn): FieldComponent[] => {
    const registered = drawn.drawn.map((element) => handedAt(apart, element, registeredIn));
    const errors = drawn.drawn.map((element) => handedAt(apart, element, errorIn));
    const property = propertyOf(registered);
    if (registered.some((one) => one)) {
      if (property === undefined || registered.some((one) => !one)) return [];
      const part = handedPart(apart, drawn, files, registered);
      if (!part) return [];
      sayRegistering(apart, part, drawn, property, registered);
      const own = propertyOf(errors);
      if (own !== undefined) sayHandedError(apart, part, drawn.placed, own, errors);
      return [part];
    }
    const own = propertyOf(errors);
    const part = own === undefined ? undefined : handedPart(apart, drawn, files, errors);
    if (!part || own === undefined) return [];
    sayHandedError(apart, part, drawn.placed, own, errors);
    return [part];
  });
}

/** The one property by which elements hand something on; undefined where it is none, or several. */
function propertyOf(handed: readonly (HandedField | undefined)[]): string | undefined {
  const names = new Set(handed.flatMap((one) => (one ? [one.attribute.name] : [])));
  const [only, ...more] = names;
  return more.length ? undefined : only;
}

function handedAt(
  apart: TakenApart,
  element: NodePath<t.JSXElement>,
  read: (apart: TakenApart, attribute: JsxAttribute) => HandedField | undefined,
): HandedField | undefined {
  for (const attribute of attributesOf(element)) {
    const found = read(apart, attribute);
    if (found) return found;
  }
  return undefined;
}

function registeredIn(apart: TakenApart, attribute: JsxAttribute): HandedField | undefined {
  const { value } = attribute;
  if (!value?.isCallExpression()) return undefined;
  const isOwn = apart.form.taken.places.some(
    ({ member, path }) => member === 'register' && callOf(path)?.node === value.node,
  );
  const [name, rules, ...more] = value.get('arguments') as (NodePath | undefined)[];
  const field = isOwn ? fieldIn(apart, name) : undefined;
  if (field === undefined || more.length || (rules && !rules.isObjectExpression())) return undefined;
  return { field, attribute, rules };
}

function errorIn(apart: TakenApart, attribute: JsxAttribute): HandedField | undefined {
  const { value } = attribute;
  for (const { member, path } of apart.form.taken.places) {
    const asked = member === 'formState.errors' ? memberAround(path) : undefined;
    if (!asked || asked.member.node !== value?.node || asked.key === undefined) continue;
    const isOne = apart.fields.includes(asked.key) && !groupsOf(apart).includes(asked.key) && !isList(apart, asked.key);
    return isOne ? { field: asked.key, attribute, rules: undefined } : undefined;
  }
  return undefined;
}

/** Whether a value is a list of rows, whose errors are those of its rows. */
function isList({ leaving, kinds }: TakenApart, field: string): boolean {
  const calls = callsOf(leaving.site.component.path, 'react-hook-form');
  const isNamed = (call: NodePath<t.CallExpression>): boolean => {
    const [given] = call.get('arguments') as (NodePath | undefined)[];
    return (given && memberNamed(given, 'name')?.isStringLiteral({ value: field })) === true;
  };
  return kinds.get(field) === 'rows' || calls.some(({ call, name }) => name === 'useFieldArray' && isNamed(call));
}

function handedPart(
  apart: TakenApart,
  drawn: DrawnComponent,
  files: FormFiles,
  handed: readonly (HandedField | undefined)[],
): FieldComponent | undefined {
  const by = new Map(drawn.drawn.map((element, index) => [element.node, handed[index]]));
  const shown = drawn.drawn.filter((element) => by.get(element.node));
  const part = handedComponent(apart, drawn, files, (element) => {
    const own = by.get(element.node) ?? handed.find((one) => one !== undefined);
    return own && { field: own.field, name: own.attribute };
  });
  if (part) part.drawn = part.drawn.filter(({ element }) => shown.some(({ node }) => node === element.node));
  return part;
}

function sayRegistering(
  apart: TakenApart,
  part: FieldComponent,
  { placed }: DrawnComponent,
  property: string,
  handed: readonly (HandedField | undefined)[],
): void {
  const taken = takenProperty(placed.path, property);
  if (!taken) {
    stays(apart.leaving, part.component.path, 'what it takes has no plain name');
    return;
  }
  part.handed.push(taken.property);
  part.gone.add(property);
  sayGiven(apart, part, [['field', taken.local]]);
  notesFocusOf(apart, part);
  for (const one of handed) {
    if (!one) continue;
    const element = one.attribute.path.parentPath.parentPath as NodePath<t.JSXElement>;
    registers(apart, {
      field: one.field,
      row: undefined,
      rules: one.rules,
      at: one.attribute.path,
      element,
      numeric: false,
    });
    const { value } = one.attribute;
    const places = apart.form.taken.places;
    apart.form.taken.places = places.filter(({ path }) => callOf(path)?.node !== value?.node);
  }
}

/** The error of a field is its message: what asks for that asks for the error. */
function sayHandedError(
  apart: TakenApart,
  part: FieldComponent,
  placed: Placed,
  property: string,
  handed: readonly (HandedField | undefined)[],
): void {
  const { leaving } = part;
  const local = takenProperty(placed.path, property)?.local;
  if (!local) {
    stays(apart.leaving, part.component.path, 'what it takes has no plain name');
    return;
  }
  for (const reference of referencesTo(leaving, local)) sayError(apart, part, reference, local.node.name);
  for (const one of handed) {
    if (!one?.attribute.value) continue;
    const { value } = one.attribute;
    apart.needs.add('errors');
    apart.worded.add(one.field);
    const places = apart.form.taken.places;
    apart.form.taken.places = places.filter(({ path }) => memberAround(path)?.member.node !== value.node);
    says(apart.leaving, value, errorOf(apart, { field: one.field }));
  }
  sayErrorType(part, property);
}

function sayErrorType({ leaving, component }: FieldComponent, property: string): void {
  const { typescript, text } = leaving.script;
  const [parameter] = component.path.get('params') as NodePath[];
  if (!typescript || !parameter) return;
  const member = membersOf(parameter)?.nodes.find((one) => nameOfMember(one) === property);
  const type = member?.typeAnnotation?.typeAnnotation;
  const said = type && text.slice(type.start ?? 0, type.end ?? 0);
  if (!type || !/^FieldError(?:\s*\|\s*undefined)?$/.test(said ?? '')) {
    stays(leaving, component.path, 'the type of the error that it is handed is not told');
    return;
  }
  const end = (type.start ?? 0) + 'FieldError'.length;
  saysAt(leaving, type.start ?? 0, end, 'string');
}
