import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { Placed } from '../../source/behind-names.js';
import { styleOf } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { componentsOf, type Component } from '../components.js';
import { exportedAs } from '../exported-names.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf, tagOf, type JsxAttribute } from '../jsx-controls.js';
import { pascal } from '../form-names.js';
import { pairOf, valuesWith, type Apart, type Kind } from './apart.js';
import { newBlock, planOf, type Block } from './block.js';
import { componentOf, drawnOf, takersOf } from './drawn-components.js';
import { patternIn, restOf, sayPattern, sayType, sayTypeOf } from './given-props.js';
import { asAttributes, sayName, says, saysAt, stays, takeAttribute, type Leaving } from './leaving.js';
import { isField, keptMember } from './nested.js';
import { elementsOf, heldBy, nameText, tiedBy, type Tied } from './ties.js';

/** What a component asks of its field: by these names it is given that as properties. */
export type Asked = 'name' | 'value' | 'checked' | 'onChange' | 'onBlur' | 'setValue' | 'error' | 'touched';

/** Which property of a component names its field, and how the component calls it. */
export interface Named {
  /** None where it is given the name anew, by that word. */
  property: string | undefined;
  text: string;
  /** The name of all properties, or of those that are not taken apart, where it is among these. */
  rest: string | undefined;
}

/** The field that an element of a component shows, and the attribute that says so. */
export interface ShownField {
  field: string;
  name: JsxAttribute;
}

/** A component of the project that shows one field of the form, which one of its properties names. */
export interface FieldComponent {
  component: Component & { kind: 'function' };
  /** That of the component’s own file. */
  leaving: Leaving;
  named: Named;
  drawn: (ShownField & { element: NodePath<t.JSXElement> })[];
  /** Properties that it was given for the package alone. */
  handed: NodePath<t.ObjectProperty>[];
  /** The names of these, and of others that its elements give it no more. */
  gone: Set<string>;
  /** What it asks for, and the property by which it is given that. */
  asked: Map<Asked, string>;
  /** What its elements give it, and of which type that is, where that is not as for any control. */
  own?: {
    expression(what: Asked, field: string): string | undefined;
    type(what: Asked): string | undefined;
  };
  /** Controls that were given a name. */
  namedControls: Set<t.Node>;
  /** The package gives its control the focus. */
  focused: boolean;
  /** The control of the page that it draws, where it draws one. */
  control: { tag: string; type: string | undefined } | undefined;
}

/** A component of the project with the elements that draw it. */
export interface DrawnComponent {
  placed: Placed;
  drawn: NodePath<t.JSXElement>[];
}

/** The components that an element of the form’s component draws and that call a package, or draw elements of it, each with all of its elements. */
export function callingComponents({ site }: Leaving, module: string): DrawnComponent[] {
  return ownComponents(site).filter(
    ({ placed: { path } }) => callsOf(path, module).length > 0 || drawnOf(path, module).length > 0,
  );
}

/** The components of the project that the form’s component draws, each with all of its elements. */
export function ownComponents(site: FormSite): DrawnComponent[] {
  const found = new Map<t.Node, DrawnComponent>();
  site.component.path.traverse({
    JSXElement(element) {
      const placed = componentOf(element, site);
      if (!placed || placed.path.node === site.component.path.node) return;
      const known = found.get(placed.path.node);
      if (known) known.drawn.push(element);
      else found.set(placed.path.node, { placed, drawn: [element] });
    },
  });
  return [...found.values()];
}

/** The property of a component that an expression is, or a member of all that it is given. */
export function namedBy(path: NodePath, { path: component }: Placed): Named | undefined {
  const pattern = patternIn(component);
  const all = restOf(component);
  if (path.isIdentifier()) {
    const property = pattern
      ? pattern.get('properties').find((one) => t.isObjectProperty(one.node) && one.node.value === bindingOf(path))
      : undefined;
    const key = property?.isObjectProperty() ? property.node.key : undefined;
    return t.isIdentifier(key) ? { property: key.name, text: path.node.name, rest: undefined } : undefined;
  }
  if (!path.isMemberExpression() || path.node.computed || !t.isIdentifier(path.node.property)) return undefined;
  const object = path.get('object') as NodePath;
  if (!all || !object.isIdentifier({ name: all })) return undefined;
  const property = path.node.property.name;
  return { property, text: `${all}.${property}`, rest: all };
}

function bindingOf(path: NodePath<t.Identifier>): t.Node | undefined {
  return path.scope.getBinding(path.node.name)?.identifier;
}

/**
 * A component that is to be given what it asks for its field.
 * @param files the leavings of files that are known so far
 * @returns undefined where it cannot be, which is said
 */
export function fieldComponent(
  apart: Apart,
  { placed, drawn }: DrawnComponent,
  named: Named,
  files: Map<string, Leaving>,
  fieldAt = (element: NodePath<t.JSXElement>): ShownField | undefined => namedField(apart, element, named),
): FieldComponent | undefined {
  const { leaving } = apart;
  const component = componentsOf(placed.script).find(({ path }) => path.node === placed.path.node);
  const refuse = (path: NodePath, why: string): undefined => void stays(leaving, path, why);
  const [first] = drawn;
  if (!first) return undefined;
  const opening = first.get('openingElement');
  if (component?.kind !== 'function') return refuse(opening, 'what its component does with its field is not told');
  const own = leavingOf(placed, { ...leaving.site, script: placed.script, component }, leaving, files);
  if (!isDrawnHereAlone(component, own, drawn, leaving))
    return refuse(opening, 'its component takes the form out of the package, and others may draw it as well');
  const fields: FieldComponent['drawn'] = [];
  for (const element of drawn) {
    const shown = fieldAt(element);
    const isSpread = element.node.openingElement.attributes.some((one) => t.isJSXSpreadAttribute(one));
    if (!shown || (isSpread && named.property !== undefined))
      return refuse(element.get('openingElement'), 'which field it shows is told only when the form runs');
    fields.push({ element, ...shown });
  }
  return {
    component,
    leaving: own,
    named,
    drawn: fields,
    handed: [],
    gone: new Set(),
    asked: new Map(),
    namedControls: new Set(),
    focused: false,
    control: undefined,
  };
}

/** A component that is handed something of a field by the package: it is given the field’s name anew. */
export function handedComponent(
  apart: Apart,
  drawn: DrawnComponent,
  files: Map<string, Leaving>,
  fieldAt: (element: NodePath<t.JSXElement>) => ShownField | undefined,
): FieldComponent | undefined {
  return fieldComponent(apart, drawn, { property: undefined, text: 'name', rest: undefined }, files, fieldAt);
}

function namedField(apart: Apart, element: NodePath<t.JSXElement>, { property }: Named): ShownField | undefined {
  const name = attributesOf(element).find((one) => one.name === property);
  return name?.text !== undefined && isField(apart, name.text) ? { field: name.text, name } : undefined;
}

function leavingOf({ script }: Placed, site: FormSite, outer: Leaving, files: Map<string, Leaving>): Leaving {
  const known = script.file === outer.script.file ? outer : files.get(script.file);
  if (known) return { ...known, site, outer };
  const own: Leaving = {
    ...outer,
    site,
    script,
    context: { ...outer.context, style: styleOf(script.text) },
    said: [],
    outer,
  };
  files.set(script.file, own);
  return own;
}

/** Whether nothing of the project draws a component but some elements of the form. */
function isDrawnHereAlone(
  { name }: Component,
  own: Leaving,
  drawn: readonly NodePath<t.JSXElement>[],
  leaving: Leaving,
): boolean {
  const tags = drawn.map((one) => one.get('openingElement').get('name') as NodePath<t.JSXIdentifier>);
  const nodes = new Set<t.Node>(tags.map(({ node }) => node));
  const bindings = [
    ...tags.map((tag) => tag.scope.getBinding(tag.node.name)),
    own.script.program.scope.getBinding(name),
  ];
  for (const binding of bindings)
    for (const one of binding?.referencePaths ?? []) {
      const { parentPath: parent } = one;
      const isPlain =
        one.isExportDeclaration() ||
        parent?.isExportDeclaration() === true ||
        parent?.isExportSpecifier() === true ||
        parent?.isJSXClosingElement() === true ||
        // what wraps it is drawn in its place
        (parent?.isCallExpression() === true && !parent.parentPath.isExpressionStatement());
      if (!nodes.has(one.node) && !isPlain) return false;
    }
  const exported = exportedAs(own.script, name);
  if (exported === undefined) return own.script.file === leaving.script.file;
  return takersOf(leaving, own.script.file, exported)?.every((file) => file === leaving.script.file) === true;
}

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
  path.traverse({
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
  const rest = restOf(component.path);
  if (value.isMemberExpression() && t.isIdentifier(value.node.property, { name: 'type' }))
    return t.isIdentifier(value.node.object) && value.node.object.name === rest ? { text: undefined } : undefined;
  if (!value.isIdentifier()) return undefined;
  const property = patternIn(component.path)
    ?.get('properties')
    .find((one) => t.isObjectProperty(one.node) && t.isIdentifier(one.node.key, { name: 'type' }));
  const local = property?.isObjectProperty() ? property.node.value : undefined;
  if (t.isIdentifier(local)) return local.name === value.node.name ? { text: undefined } : undefined;
  const isOwn = t.isAssignmentPattern(local) && t.isIdentifier(local.left, { name: value.node.name });
  return isOwn && t.isStringLiteral(local.right) ? { text: local.right.value } : undefined;
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
  const hasRest = element.node.openingElement.attributes.some(
    (one) => t.isJSXSpreadAttribute(one) && t.isIdentifier(one.argument) && one.argument.name === named.rest,
  );
  const isAnew = named.property === undefined;
  const anew = isAnew && !own.has('name') ? asks(part, 'name', at) : named.text;
  if (anew === undefined) return undefined;
  const name = own.has('name') || (hasRest && !isAnew) ? [] : [`name={${anew}}`];
  return [...name, ...given.map((one, index) => `${one}={${names[index] ?? one}}`)];
}

/** Gives a control the name of its field where it has none: events, and what looks for a control, tell it by that. */
export function ensureName(part: FieldComponent, element: NodePath<t.JSXElement>): void {
  const { leaving, named, namedControls } = part;
  const { openingElement } = element.node;
  const hasName = attributesOf(element).some(({ name }) => name === 'name');
  const hasRest = openingElement.attributes.some(
    (one) => t.isJSXSpreadAttribute(one) && t.isIdentifier(one.argument) && one.argument.name === named.rest,
  );
  if (hasName || hasRest || namedControls.has(element.node)) return;
  namedControls.add(element.node);
  const name = named.property === undefined ? asks(part, 'name', element) : named.text;
  const at = openingElement.name.end ?? 0;
  if (name !== undefined) saysAt(leaving, at, at, ` name={${name}}`);
}

/** Gives every element of a component what that asks for, and the component its properties. */
export function giveFields(apart: Apart, part: FieldComponent, block: Block, blurs: boolean): void {
  const { component, leaving: own, asked, handed, gone, control } = part;
  const wanted = order.filter((one) => asked.has(one));
  const names = wanted.map((one) => asked.get(one) ?? one);
  for (const { element, field, name } of part.drawn) {
    const attributes = attributesOf(element);
    for (const one of attributes)
      if (gone.has(one.name) && one.name !== name.name) takeAttribute(apart.leaving, one.path);
    const clash = attributes.find((one) => names.includes(one.name));
    const given = attributes.find((one) => one.name === 'type');
    const isOther =
      given &&
      (given.text === undefined || (/^(?:checkbox|radio|file)$/.test(given.text) && given.text !== control?.type));
    if (clash ?? isOther) {
      stays(apart.leaving, (clash ?? given)?.path ?? element, 'what it is given for its field is told here already');
      continue;
    }
    const tied: Tied = {
      element,
      tag: control?.tag ?? 'input',
      type: control?.type,
      field,
      at: element.get('openingElement'),
    };
    const texts = (): string[] | undefined =>
      part.own ? ownGiven(part.own, field, asked, wanted) : givenTo(apart, tied, asked, wanted, blurs);
    if (texts() === undefined) continue;
    if (gone.has(name.name)) {
      says(apart.leaving, name.path, () => asAttributes(apart.leaving, name.path, texts() ?? []));
      continue;
    }
    const at = name.path.node.end ?? 0;
    saysAt(apart.leaving, at, at, () => {
      const lead = asAttributes(apart.leaving, name.path, ['', '']);
      return (texts() ?? []).map((one) => lead + one).join('');
    });
  }
  const [parameter] = component.path.get('params') as NodePath[];
  if (!parameter || (!names.length && !handed.length)) return;
  const pattern = patternIn(component.path);
  if (pattern) sayPattern({ leaving: own, component, handed }, pattern, names);
  else if (parameter.isIdentifier()) {
    const typed = parameter.node.typeAnnotation?.start ?? parameter.node.end ?? 0;
    saysAt(own, parameter.node.start ?? 0, typed, `{ ${[...names, `...${parameter.node.name}`].join(', ')} }`);
  } else {
    stays(own, parameter, 'what it is given has no plain name');
    return;
  }
  if (!own.script.typescript) return;
  const types = wanted.map((one): [string, string | undefined] => {
    const type = typeOf(apart, part, one);
    // some of its elements have nothing of it
    const mayMiss = (part.own ?? apart.errorless) && one === 'error' ? '?' : '';
    return [(asked.get(one) ?? one) + mayMiss, type];
  });
  const untold = types.find(([, type]) => type === undefined);
  if (untold) {
    stays(own, component.path, `the type of ${untold[0]} is not told for all of its fields`);
    return;
  }
  const typeName = names.length ? sayType({ leaving: own, component, handed }, types, block) : undefined;
  const unsaid = sayTypeOf({ leaving: own, component, handed }, parameter, typeName);
  if (unsaid !== undefined) stays(own, component.path, unsaid);
}

const order: readonly Asked[] = ['name', 'value', 'checked', 'onChange', 'onBlur', 'setValue', 'touched', 'error'];

/** The attributes of one element of a component; undefined where one cannot be told, which is said. */
function givenTo(
  apart: Apart,
  tied: Tied,
  asked: ReadonlyMap<Asked, string>,
  wanted: readonly Asked[],
  blurs: boolean,
): string[] | undefined {
  const { field } = tied;
  const needsTies = wanted.some((one) => /^(?:checked|onChange|onBlur)$/.test(one));
  // what it does not ask for needs no function of the form
  const without = new Set(wanted.includes('onChange') ? [] : ['onChange']);
  const ties = needsTies ? tiedBy(apart, tied, without, blurs && wanted.includes('onBlur')) : [];
  if (!ties) return undefined;
  const { needs } = apart;
  return wanted.flatMap((one): string[] => {
    const name = asked.get(one) ?? one;
    const own = ties.find((text) => text.startsWith(`${one}=`));
    if (own !== undefined) return [name + own.slice(one.length)];
    if (one === 'name') return [`${name}="${field}"`];
    if (one === 'value') return [`${name}={${apart.shownValue?.(heldBy(apart, tied), field) ?? heldBy(apart, tied)}}`];
    if (one === 'error') {
      if (apart.errorless) return [];
      needs.add('errors');
      return [`${name}={${apart.names.errors}${keptMember(apart, field)}}`];
    }
    if (one === 'touched') {
      needs.add('touched');
      return [`${name}={${apart.names.touched}${keptMember(apart, field)}}`];
    }
    if (one !== 'setValue') return [];
    needs.add('change');
    return [`${name}={${setterOf(apart, tied)}}`];
  });
}

/** What an element gives its component in words of its own; what there is none of is left out. */
function ownGiven(
  { expression }: NonNullable<FieldComponent['own']>,
  field: string,
  asked: ReadonlyMap<Asked, string>,
  wanted: readonly Asked[],
): string[] {
  return wanted.flatMap((one) => {
    const name = asked.get(one) ?? one;
    if (one === 'name') return [`${name}="${field}"`];
    const text = expression(one, field);
    return text === undefined ? [] : [`${name}={${text}}`];
  });
}

function setterOf(apart: Apart, { field }: Tied): string {
  const local = /^[\w$]+$/.test(field) ? field : 'value';
  const next = valuesWith(apart, pairOf(field, local, apart.names.values));
  return `(${local}) => ${apart.changes(next, nameText(apart, field))}`;
}

const types: Partial<Record<Kind, string>> = { text: 'string', flag: 'boolean', list: 'string[]', number: 'number' };

/** The type of what a component is given for its fields; undefined where it is not told for one of them. */
function typeOf(apart: Apart, { drawn, control, own }: FieldComponent, what: Asked): string | undefined {
  if (own && /^(?:value|setValue|onBlur)$/.test(what)) return own.type(what);
  const tags = new Set([control?.tag ?? 'input']);
  const values = drawn.map(({ field }) => types[apart.kinds.get(field) ?? 'other']);
  const value = values.every((one) => one !== undefined) ? [...new Set(values)].join(' | ') : undefined;
  switch (what) {
    case 'name':
      return 'string';
    case 'value':
      return value;
    case 'checked':
      return value === 'boolean' ? value : undefined;
    case 'setValue':
      return value !== undefined && !value.includes('|') ? `(value: ${value}) => void` : undefined;
    case 'onChange':
      return `(event: ChangeEvent<${elementsOf(tags)}>) => void`;
    case 'onBlur':
      return `(event: FocusEvent<${elementsOf(tags)}>) => void`;
    case 'error':
      return 'string | undefined';
    case 'touched':
      return 'boolean | undefined';
    default: {
      const never: never = what;
      return never;
    }
  }
}

/**
 * Gives all components what they ask for.
 * @param block the form’s own, which takes what components of its file need
 * @returns asks for the edits of the other files
 */
export function giveAllFields(
  apart: Apart,
  parts: readonly FieldComponent[],
  block: Block,
  blurs: boolean,
): () => RewritePlan['edits'] {
  const { file } = apart.leaving.script;
  const blocks = new Map<string, { own: Leaving; block: Block }>();
  for (const part of parts) {
    const { leaving: own } = part;
    const isHere = own.script.file === file;
    const known = isHere ? { own, block } : (blocks.get(own.script.file) ?? { own, block: newBlock() });
    if (!isHere) blocks.set(own.script.file, known);
    giveFields(apart, part, known.block, blurs);
  }
  return () => [...blocks.values()].flatMap((one) => planOf(one.own, one.block).edits);
}
