import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { typeMembers } from '../../source/type-members.js';
import type { Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { componentNamed } from './drawn-components.js';
import { patternIn, spreads } from './given-props.js';
import { walk } from '../../source/traverse.js';

/** The one control of the page that a component of the project draws, as far as it hands on what it is given. */
export interface DrawnControl {
  tag: string;
  /** Its `type`, by what it says itself or what the component is given; undefined where it has none. */
  type: string | undefined;
  /** How the component hands a reference on to it, where it does: by `forwardRef`, or as a property like any other. */
  reference: 'forwarded' | 'property' | undefined;
}

/**
 * The control that a component hands some of its properties on to, just as it is given them.
 * @param handed names of these properties
 * @param as the component’s name, where that is not the element’s own tag
 * @returns undefined where it draws none or several, or does more with one of them
 */
export function drawnControl(
  element: NodePath<t.JSXElement>,
  site: FormSite,
  handed: readonly string[],
  as: NodePath = element.get('openingElement').get('name') as NodePath,
  depth = 0,
): DrawnControl | undefined {
  const placed = componentNamed(as, site);
  const inner = placed && controlOf(placed);
  if (!placed || !inner || depth > 3) return undefined;
  if (!takesProps(placed, site, handed)) return undefined;
  const given = givenIn(placed.path);
  // what it begins with would stand beside what it shows
  if (attributesOf(inner).some(({ name }) => /^(?:defaultValue|defaultChecked|checked)$/.test(name))) return undefined;
  if (!given || !handed.every((name) => handsOn(given, inner, name))) return undefined;
  const tag = tagOf(inner);
  const own = { ...site, script: placed.script };
  if (/^[A-Z]/.test(tag)) {
    const further = drawnControl(inner, own, handed, undefined, depth + 1);
    const type = typeGiven(element, inner, given);
    const reference = further?.reference && referenceOf(placed, inner, given);
    return further && type && { tag: further.tag, type: further.type ?? type.text, reference };
  }
  const type = typeGiven(element, inner, given);
  return type && { tag, type: type.text, reference: referenceOf(placed, inner, given) };
}

/** What a component is given: names that it takes apart, and the name of all others. */
interface GivenNames {
  pattern: ReadonlyMap<string, { local: NodePath<t.Identifier>; begins: string | undefined }>;
  rest: NodePath<t.Identifier> | undefined;
}

/** What a component takes of its properties by names; undefined where it takes some of them apart further. */
export function givenIn(path: NodePath): GivenNames | undefined {
  const [parameter] = path.isFunction() ? (path.get('params') as NodePath[]) : [];
  const taken = patternIn(path);
  if (!taken) return parameter?.isIdentifier() ? { pattern: new Map(), rest: parameter } : undefined;
  const pattern = new Map<string, { local: NodePath<t.Identifier>; begins: string | undefined }>();
  let rest: NodePath<t.Identifier> | undefined;
  for (const property of taken.get('properties')) {
    if (property.isRestElement()) {
      const name = property.get('argument');
      if (name.isIdentifier()) rest = name;
      continue;
    }
    const { node } = property;
    const value = property.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    const local = value?.isAssignmentPattern() ? (value.get('left') as NodePath) : value;
    if (!t.isObjectProperty(node) || !t.isIdentifier(node.key) || !local?.isIdentifier()) return undefined;
    const right = value?.isAssignmentPattern() ? value.node.right : undefined;
    pattern.set(node.key.name, { local, begins: t.isStringLiteral(right) ? right.value : undefined });
  }
  return { pattern, rest };
}

/** The one element of a component that may be a control, or draw one: what a spread of its properties goes to, else a native one. */
function controlOf({ path }: Placed): NodePath<t.JSXElement> | undefined {
  const native: NodePath<t.JSXElement>[] = [];
  const spread: NodePath<t.JSXElement>[] = [];
  walk(path, {
    JSXElement(element) {
      const isNative = /^(?:input|select|textarea)$/.test(tagOf(element));
      if (isNative) native.push(element);
      else if (element.node.openingElement.attributes.some((one) => t.isJSXSpreadAttribute(one))) spread.push(element);
    },
  });
  const [only, ...more] = native.length ? native : spread;
  return more.length ? undefined : only;
}

/** Whether a component hands a property on to an element and does nothing else with it that depends on what it is. */
function handsOn({ pattern, rest }: GivenNames, element: NodePath<t.JSXElement>, name: string): boolean {
  const own = attributesOf(element).find((one) => one.name === name);
  const taken = pattern.get(name);
  if (!taken) return rest !== undefined && own === undefined && spreads(element, rest.node.name);
  const places = taken.local.scope.getBinding(taken.local.node.name)?.referencePaths ?? [];
  const isHanded = own?.value?.isIdentifier({ name: taken.local.node.name }) === true;
  // what a value or a name is may be shown as well; a handler is called by nobody else
  return isHanded && (/^(?:name|value)$/.test(name) || places.length === 1);
}

function referenceOf({ path }: Placed, element: NodePath<t.JSXElement>, given: GivenNames): DrawnControl['reference'] {
  const [, second] = path.isFunction() ? path.node.params : [];
  const own = attributesOf(element).find(({ name }) => name === 'ref')?.value;
  if (t.isIdentifier(second)) return own?.isIdentifier({ name: second.name }) === true ? 'forwarded' : undefined;
  return handsOn(given, element, 'ref') ? 'property' : undefined;
}

/** The `type` that a control has in a component; undefined where it is worked out. */
function typeGiven(
  element: NodePath<t.JSXElement>,
  inner: NodePath<t.JSXElement>,
  { pattern, rest }: GivenNames,
): { text: string | undefined } | undefined {
  const own = attributesOf(inner).find(({ name }) => name === 'type');
  const given = attributesOf(element).find(({ name }) => name === 'type');
  if (given && given.text === undefined) return undefined;
  if (own?.text !== undefined) return own.text === given?.text || !given ? { text: own.text } : undefined;
  if (own) {
    const [name, taken] =
      [...pattern].find(([, { local }]) => own.value?.isIdentifier({ name: local.node.name }) === true) ?? [];
    return name === 'type' && taken ? { text: given?.text ?? taken.begins } : undefined;
  }
  const isHanded = !pattern.has('type') && rest !== undefined && spreads(inner, rest.node.name);
  return { text: isHanded ? given?.text : undefined };
}

const ofElements =
  /\b(?:(?:Input|Select|Textarea|All)HTMLAttributes|ComponentProps(?:With(?:out)?Ref)?|HTMLProps|DetailedHTMLProps)\b/;

/** Whether a component’s type, where it has one, lets it be given some properties. */
function takesProps({ path, script }: Placed, { load }: FormSite, names: readonly string[]): boolean {
  if (!script.typescript) return true;
  const [parameter] = path.isFunction() ? path.node.params : [];
  const note = t.isObjectPattern(parameter) || t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined;
  const call = path.parentPath?.isCallExpression() ? path.parentPath.node : undefined;
  const type = t.isTSTypeAnnotation(note) ? note.typeAnnotation : call?.typeParameters?.params[1];
  if (!type) return false;
  const known = typeMembers({ node: type, script }, load);
  return names.every((name) => known.has(name)) || ofElements.test(typeText(type, script.text));
}

/** The text of a type with that of the declaration behind its name. */
function typeText(type: t.Node, text: string): string {
  const own = text.slice(type.start ?? 0, type.end ?? 0);
  const [name = ''] = /^\w+/.exec(own) ?? [];
  return own + (new RegExp(`\\b(?:interface|type)\\s+${name}\\b[^{;]*`).exec(text)?.[0] ?? '');
}
