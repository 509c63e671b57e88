import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { expressionTypes } from '../../source/expression-types.js';
import type { FormSite } from '../approach.js';
import { isInside } from '../form-regions.js';
import { attribute, type JsxControl } from '../jsx-controls.js';
import { walk } from '../../source/traverse.js';

/** A field whose value the page itself keeps. */
export interface PageField {
  /** Name by which the page knows it: the control's name, its id, or the variable that refers to it. */
  name: string;
  /** The variable of the component that refers to its control. */
  ref: string | undefined;
  /** `list`: several of one name, asked for together. */
  kind: 'text' | 'checked' | 'radio' | 'list';
  controls: JsxControl[];
  /** What it begins with, as source text; undefined where the page alone decides. */
  initial: string | undefined;
  /** What a checked control sends. */
  sent: string;
}

function refOf(control: JsxControl): string | undefined {
  const ref = attribute(control, 'ref')?.value;
  return ref?.isIdentifier() ? ref.node.name : undefined;
}

function nameOf(control: JsxControl): string | undefined {
  const ref = refOf(control);
  return control.name ?? attribute(control, 'id')?.text ?? ref?.replace(/(Input|Field)?(Ref)?$/, '') ?? control.label;
}

/** The native controls of a form whose values the page keeps. */
export function pageControls(site: FormSite): JsxControl[] {
  return site.candidates.filter((control) => control.intrinsic && isInside(control.element, site.region.element));
}

/** The fields of a form whose values the page keeps; a control without any name is left out. */
export function pageFields(site: FormSite): PageField[] {
  const fields: PageField[] = [];
  const lists = askedTogether(site);
  for (const control of pageControls(site)) {
    const name = nameOf(control);
    if (name === undefined || control.type === 'submit') continue;
    const kind = kindOfControl(control, lists.has(name));
    const known = fields.find((field) => field.name === name && field.kind === kind && /^(radio|list)$/.test(kind));
    if (known) {
      known.controls.push(control);
      known.initial = kind === 'list' ? chosenAtFirst(known.controls) : initialOf([...known.controls], site);
      continue;
    }
    fields.push({
      name,
      ref: refOf(control),
      kind,
      controls: [control],
      initial: kind === 'list' ? chosenAtFirst([control]) : initialOf([control], site),
      sent: attribute(control, 'value')?.text ?? 'on',
    });
  }
  return fields;
}

/** Names of which the component asks the page for all values: `data.getAll('graft')`. */
function askedTogether({ component }: FormSite): Set<string> {
  const names = new Set<string>();
  walk(component.path, {
    CallExpression({ node: { callee, arguments: given } }) {
      const [name] = given;
      const isAsked = t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'getAll' });
      if (isAsked && t.isStringLiteral(name)) names.add(name.value);
    },
  });
  return names;
}

function kindOfControl(control: JsxControl, together: boolean): PageField['kind'] {
  const several = control.type === 'checkbox' || attribute(control, 'multiple') !== undefined;
  if (together && several) return 'list';
  if (control.type === 'radio') return 'radio';
  return control.type === 'checkbox' ? 'checked' : 'text';
}

/** The values of a list that are chosen at first. */
function chosenAtFirst(controls: readonly JsxControl[]): string | undefined {
  const chosen: string[] = [];
  for (const control of controls) {
    if (control.tag === 'select') return attribute(control, 'defaultValue') ? undefined : '[]';
    const given = attribute(control, 'defaultChecked');
    const text = attribute(control, 'value')?.text;
    if (given && (given.value || text === undefined)) return undefined;
    if (given && text !== undefined) chosen.push(textSource(text));
  }
  return `[${chosen.join(', ')}]`;
}

function sourceOf(path: NodePath | undefined, site: FormSite): string {
  return site.script.text.slice(path?.node.start ?? 0, path?.node.end ?? 0);
}

function initialOf(controls: readonly JsxControl[], site: FormSite): string | undefined {
  const [control] = controls;
  if (!control) return undefined;
  if (control.type === 'radio') {
    const chosen = controls.find((one) => attribute(one, 'defaultChecked'));
    const given = chosen && attribute(chosen, 'defaultChecked')?.value;
    if (given && sourceOf(given, site) !== 'true') return chosenRow(given, attribute(chosen, 'value')?.value, site);
    return chosen ? textSource(attribute(chosen, 'value')?.text ?? 'on') : "''";
  }
  if (control.type === 'checkbox') {
    const given = attribute(control, 'defaultChecked');
    if (!given) return 'false';
    const text = given.value ? sourceOf(given.value, site) : 'true';
    return /^(true|false)$/.test(text) ? text : `Boolean(${text})`;
  }
  const given = attribute(control, 'defaultValue');
  if (given?.text !== undefined) return textSource(given.text);
  if (given?.value) return writtenText(given.value, site);
  if (control.tag === 'select') return firstOption(control);
  if (
    control.tag === 'textarea' &&
    control.element.node.children.some((child) => !t.isJSXText(child) || child.value.trim())
  )
    return undefined;
  return "''";
}

/** What a row of radio buttons is compared with: `defaultChecked={kind === 'pear'}` beside `value={kind}`. */
function chosenRow(
  given: NodePath<t.Expression>,
  own: NodePath<t.Expression> | undefined,
  site: FormSite,
): string | undefined {
  if (!own || !given.isBinaryExpression({ operator: '===' })) return undefined;
  const sides = [given.get('left') as NodePath, given.get('right')];
  const other = sides.find((side) => sourceOf(side, site) !== sourceOf(own, site));
  const compares = sides.some((side) => sourceOf(side, site) === sourceOf(own, site));
  if (!compares || !other) return undefined;
  if (other.isStringLiteral()) return textSource(other.node.value);
  // what the component knows outside of the row
  const outside = other.isIdentifier() && other.scope.getBinding(other.node.name)?.scope === site.component.path.scope;
  return outside ? sourceOf(other, site) : undefined;
}

/** A value that the page shows as text. */
function writtenText(value: NodePath<t.Expression>, site: FormSite): string {
  const text = sourceOf(value, site);
  if (value.isNumericLiteral()) return textSource(text);
  const type = expressionTypes(site.script).typeOf(value);
  if (type === 'string') return text;
  if (type === 'number') return `String(${text})`;
  return `String(${text} ?? '')`;
}

function textSource(text: string): string {
  return `'${text.replace(/\\/g, '\\\\').replace(/'/g, "\\'")}'`;
}

/** The option that a page chooses by itself, where the options are written out. */
function firstOption(control: JsxControl): string | undefined {
  if (attribute(control, 'multiple')) return undefined;
  const [first] = control.element.get('children').filter((child) => !(child.isJSXText() && !child.node.value.trim()));
  if (!first?.isJSXElement()) return undefined;
  const { openingElement, children } = first.node;
  if (!t.isJSXIdentifier(openingElement.name, { name: 'option' })) return undefined;
  const value = openingElement.attributes.find((one) => t.isJSXAttribute(one) && one.name.name === 'value');
  if (t.isJSXAttribute(value)) return t.isStringLiteral(value.value) ? textSource(value.value.value) : undefined;
  const [text, ...more] = children;
  return t.isJSXText(text) && !more.length ? textSource(text.value.replace(/\s+/g, ' ').trim()) : undefined;
}
