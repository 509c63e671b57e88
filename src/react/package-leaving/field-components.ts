import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { componentsOf, type Component } from '../components.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf, type JsxAttribute } from '../jsx-controls.js';
import type { Apart } from './apart.js';
import { componentOf, drawnOf, isDrawnAlone } from './drawn-components.js';
import type { FormFiles } from './form-files.js';
import { patternIn, restOf, spreads } from './given-props.js';
import { stays, type Leaving } from './leaving.js';
import { isField } from './nested.js';
import { walk } from '../../source/traverse.js';

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
  walk(site.component.path, {
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

/**
 * The property by which a component’s field is named in what it gives a hook: all that it is given itself, its name, or an
 * object with that and options of these names.
 */
export function namedIn(given: NodePath, placed: Placed, options: RegExp): Named | undefined {
  const rest = restOf(placed.path);
  const all: Named | undefined = rest === undefined ? undefined : { property: 'name', text: `${rest}.name`, rest };
  if (given.isIdentifier() && given.node.name === rest) return all;
  if (!given.isObjectExpression()) return namedBy(given, placed);
  const known = given.node.properties.every(
    (one) =>
      (t.isSpreadElement(one) && t.isIdentifier(one.argument) && one.argument.name === rest) ||
      (t.isObjectProperty(one) && t.isIdentifier(one.key) && options.test(one.key.name)),
  );
  const name = memberNamed(given, 'name');
  return known ? (name ? namedBy(name, placed) : all) : undefined;
}

/** The property that names the field of an element, where all that its component is given may hold it. */
export function namedOn(element: NodePath<t.JSXElement>, placed: Placed): Named | undefined {
  const name = attributesOf(element).find((one) => one.name === 'name');
  const rest = restOf(placed.path);
  if (name?.value) return namedBy(name.value, placed);
  return rest !== undefined && spreads(element, rest) ? { property: 'name', text: `${rest}.name`, rest } : undefined;
}

function bindingOf(path: NodePath<t.Identifier>): t.Node | undefined {
  return path.scope.getBinding(path.node.name)?.identifier;
}

/**
 * A component that is to be given what it asks for its field.
 * @returns undefined where it cannot be, which is said
 */
export function fieldComponent(
  apart: Apart,
  { placed, drawn }: DrawnComponent,
  named: Named,
  files: FormFiles,
  fieldAt = (element: NodePath<t.JSXElement>): ShownField | undefined => namedField(apart, element, named),
): FieldComponent | undefined {
  const { leaving } = apart;
  const component = componentsOf(placed.script).find(({ path }) => path.node === placed.path.node);
  const refuse = (path: NodePath, why: string): undefined => void stays(leaving, path, why);
  const [first] = drawn;
  if (!first) return undefined;
  const opening = first.get('openingElement');
  if (component?.kind !== 'function') return refuse(opening, 'what its component does with its field is not told');
  const own = files.leavingOf({ ...leaving.site, script: placed.script, component });
  if (!isDrawnAlone(component, own.script, drawn, leaving))
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
  files: FormFiles,
  fieldAt: (element: NodePath<t.JSXElement>) => ShownField | undefined,
): FieldComponent | undefined {
  return fieldComponent(apart, drawn, { property: undefined, text: 'name', rest: undefined }, files, fieldAt);
}

function namedField(apart: Apart, element: NodePath<t.JSXElement>, { property }: Named): ShownField | undefined {
  const name = attributesOf(element).find((one) => one.name === property);
  return name?.text !== undefined && isField(apart, name.text) ? { field: name.text, name } : undefined;
}
