import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare } from '../source/behind-names.js';
import { walk } from '../source/traverse.js';

/** An attribute of a JSX element. `value` is what stands between the braces or quotes; undefined for a bare attribute. */
export interface JsxAttribute {
  name: string;
  path: NodePath<t.JSXAttribute>;
  value: NodePath<t.Expression> | undefined;
  /** Its text, where it is plain. */
  text: string | undefined;
}

/** An element that may show and edit a value. */
export interface JsxControl {
  element: NodePath<t.JSXElement>;
  tag: string;
  /** Written by React itself rather than by a component. */
  intrinsic: boolean;
  attributes: JsxAttribute[];
  spread: boolean;
  type: string | undefined;
  name: string | undefined;
  label: string | undefined;
}

const valueAttributes = [
  'value',
  'checked',
  'selected',
  'modelValue',
  'date',
  'selectedValue',
  'isSelected',
  'isChecked',
];
const silentTypes = ['submit', 'button', 'reset', 'image', 'hidden'];

/** The tag of an element as written: `input`, `Form.Item`. */
export function tagOf(element: NodePath<t.JSXElement>): string {
  const name = element.node.openingElement.name;
  const write = (part: t.JSXIdentifier | t.JSXMemberExpression | t.JSXNamespacedName): string => {
    if (t.isJSXIdentifier(part)) return part.name;
    if (t.isJSXMemberExpression(part)) return `${write(part.object)}.${part.property.name}`;
    return `${part.namespace.name}:${part.name.name}`;
  };
  return write(name);
}

/** The attributes of an element, spreads left out. */
export function attributesOf(element: NodePath<t.JSXElement>): JsxAttribute[] {
  const found: JsxAttribute[] = [];
  for (const attribute of element.get('openingElement').get('attributes')) {
    if (!attribute.isJSXAttribute() || !t.isJSXIdentifier(attribute.node.name)) continue;
    const value = attribute.get('value');
    const inner = value.isJSXExpressionContainer() ? value.get('expression') : value;
    const expression = inner.node && (inner as NodePath).isExpression() ? (inner as NodePath<t.Expression>) : undefined;
    found.push({ name: attribute.node.name.name, path: attribute, value: expression, text: plainText(expression) });
  }
  return found;
}

function plainText(expression: NodePath<t.Expression> | undefined): string | undefined {
  // a name may be said to be one of a type's: `name={'town' as keyof Crate}`
  const node = expression && bare(expression).node;
  if (t.isStringLiteral(node)) return node.value;
  if (t.isTemplateLiteral(node) && !node.expressions.length) return node.quasis[0]?.value.cooked ?? undefined;
  return undefined;
}

/** An attribute by name. */
export function attribute(control: { attributes: JsxAttribute[] }, name: string): JsxAttribute | undefined {
  return control.attributes.find((candidate) => candidate.name === name);
}

/** The text a person reads inside an element, its expressions left out. */
function visibleText(node: t.Node): string {
  if (t.isJSXText(node)) return node.value;
  if (t.isJSXElement(node) || t.isJSXFragment(node))
    return node.children.map((child) => (holdsChoices(child) ? '' : visibleText(child))).join(' ');
  if (t.isJSXExpressionContainer(node) && t.isStringLiteral(node.expression)) return node.expression.value;
  return '';
}

/** Whether a part of a label is a control with texts of its own: its options are no part of the label. */
function holdsChoices(node: t.Node): boolean {
  return (
    t.isJSXElement(node) &&
    t.isJSXIdentifier(node.openingElement.name) &&
    /^(select|datalist|option|button|textarea)$/.test(node.openingElement.name.name)
  );
}

function tidy(text: string): string | undefined {
  const words = text
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[:*\s]+$/, '');
  return words === '' ? undefined : words;
}

/** The text of a button or another element as a person would call it. */
export function captionOf(element: NodePath<t.JSXElement>): string | undefined {
  return tidy(visibleText(element.node));
}

function labelsById(root: NodePath, text: string): Map<string, string> {
  const labels = new Map<string, string>();
  walk(root, {
    JSXElement(element) {
      const target = attributesOf(element).find((candidate) => candidate.name === 'htmlFor');
      const words = tidy(visibleText(element.node));
      if (target?.value && words)
        labels.set(text.slice(target.value.node.start ?? 0, target.value.node.end ?? 0), words);
    },
  });
  return labels;
}

/** Whether an element could be a control at all: a native one, or a component that is given a value or takes changes. */
function mayBeControl(tag: string, attributes: JsxAttribute[], valueNames: readonly string[]): boolean {
  const type = attributes.find((candidate) => candidate.name === 'type')?.text;
  if (tag === 'input') return !silentTypes.includes(type ?? 'text');
  if (tag === 'select' || tag === 'textarea') return true;
  if (!/^[A-Z]/.test(tag) && !tag.includes('.')) return false;
  const shows = attributes.some((candidate) => valueNames.includes(candidate.name));
  const takes = attributes.some(
    (candidate) => /^(on|set|handle|change|update|dispatch)[A-Z]?/.test(candidate.name) && candidate.value,
  );
  return (shows && takes) || takes;
}

/**
 * The elements below a path that may be controls, in order.
 * @param ownValueNames names under which the project's own components take their value
 */
export function controlsIn(root: NodePath, text: string, ownValueNames: readonly string[] = []): JsxControl[] {
  const labels = labelsById(root, text);
  const valueNames = [...valueAttributes, ...ownValueNames];
  const found: JsxControl[] = [];
  walk(root, {
    JSXElement(element) {
      const tag = tagOf(element);
      const attributes = attributesOf(element);
      if (!mayBeControl(tag, attributes, valueNames)) return;
      const plain = (name: string): string | undefined => attributes.find((candidate) => candidate.name === name)?.text;
      const id = attributes.find((candidate) => candidate.name === 'id')?.value;
      const wrapping = element.findParent(
        (parent) => parent.isJSXElement() && tagOf(parent as NodePath<t.JSXElement>) === 'label',
      );
      const label =
        (id ? labels.get(text.slice(id.node.start ?? 0, id.node.end ?? 0)) : undefined) ??
        (wrapping ? tidy(visibleText(wrapping.node)) : undefined) ??
        plain('aria-label') ??
        plain('label') ??
        plain('placeholder');
      found.push({
        element,
        tag,
        intrinsic: /^[a-z]/.test(tag) && !tag.includes('.'),
        attributes,
        spread: element.node.openingElement.attributes.some((candidate) => t.isJSXSpreadAttribute(candidate)),
        type: plain('type'),
        name: plain('name'),
        label,
      });
    },
  });
  return found;
}

/** The attribute that shows the value: the checked state for checkboxes and radios. */
export function shownBy(control: JsxControl, ownValueNames: readonly string[] = []): JsxAttribute | undefined {
  const names =
    control.intrinsic && (control.type === 'checkbox' || control.type === 'radio')
      ? ['checked']
      : control.intrinsic
        ? ['value']
        : // what a box of a list is for is no value of its own
          attribute(control, 'checked')?.value
          ? [...ownValueNames, 'checked']
          : [...ownValueNames, ...valueAttributes];
  for (const name of names) {
    const found = attribute(control, name);
    if (found?.value) return found;
  }
  return undefined;
}

/** The attributes through which an element reports changes, the plainest first. */
export function changedBy(control: JsxControl): JsxAttribute[] {
  const rank = (name: string): number => ['onChange', 'onInput', 'onBlur', 'onClick'].indexOf(name) & 7;
  return control.attributes
    .filter(
      ({ name, value }) =>
        value &&
        /^(on|set|handle|change|update)[A-Z]/.test(name) &&
        !/^on(?:Submit|Finish|Cancel|Close|Reset)$/.test(name),
    )
    .sort((a, b) => rank(a.name) - rank(b.name));
}
