import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { drawnOf } from '../package-leaving/drawn-components.js';
import {
  callingComponents,
  controlAt,
  ensureName,
  fieldComponent,
  namedBy,
  sayAsked,
  saySpread,
  tiedIn,
  asks,
  type Asked,
  type FieldComponent,
  type Named,
} from '../package-leaving/field-components.js';
import { otherwise } from '../package-leaving/conditions.js';
import { restOf } from '../package-leaving/given-props.js';
import { declaredBy, forgetNames } from '../package-leaving/hook-form.js';
import {
  asAttributes,
  referencesTo,
  renameTag,
  says,
  saysAt,
  stays,
  takeAttribute,
  takeStatement,
  takenApart,
  type Leaving,
} from '../package-leaving/leaving.js';
import { attributeOf } from '../package-leaving/ties.js';
import type { TakenApart } from './form.js';
import { drawMessage } from './parts.js';
import { isAskedBehind } from './places.js';

/** `const [field, meta, helpers] = useField(…)`, as the only call of the package in a component. */
interface FieldHook {
  named: Named;
  /** The hook’s call; none where only elements of the package speak of the field. */
  call: HookCall | undefined;
}

interface HookCall {
  type: string | undefined;
  given: NodePath;
  statement: NodePath<t.VariableDeclaration>;
  parts: (NodePath | undefined)[];
}

/** Components of the project that take one field by the package’s hook are given it by the form’s own. */
export function sayFieldComponents(apart: TakenApart): FieldComponent[] {
  const files = new Map<string, Leaving>();
  return callingComponents(apart.leaving, 'formik').flatMap((calling): FieldComponent[] => {
    const hook = fieldHookOf(calling.placed);
    const part = hook && fieldComponent(apart, calling, hook.named, files);
    if (!part) return [];
    sayHook(apart, part, hook);
    return [part];
  });
}

/** How a component takes one field of the package; undefined where it takes more of it than that. */
export function fieldHookOf(placed: Placed): FieldHook | undefined {
  const [only, ...more] = callsOf(placed.path, 'formik');
  const own = only && hookCallOf(placed, only.call);
  if (more.length || (only && (only.name !== 'useField' || !own))) return undefined;
  const drawn = drawnOf(placed.path, 'formik').map(({ element, name }) => drawnName(placed, element, name));
  const [named, ...others] = [...(own ? [own.named] : []), ...drawn];
  if (!named || others.some((one) => one?.property !== named.property)) return undefined;
  return { named, call: own?.call };
}

/** The property that names the field of an element of the package. */
function drawnName(placed: Placed, element: NodePath<t.JSXElement>, part: string): Named | undefined {
  const name = attributesOf(element).find((one) => one.name === 'name');
  const rest = restOf(placed.path);
  const isRest = element.node.openingElement.attributes.some(
    (one) => t.isJSXSpreadAttribute(one) && t.isIdentifier(one.argument) && one.argument.name === rest,
  );
  if (!/^(?:Field|FastField|ErrorMessage)$/.test(part)) return undefined;
  if (name?.value) return namedBy(name.value, placed);
  return isRest && rest !== undefined ? { property: 'name', text: `${rest}.name`, rest } : undefined;
}

function hookCallOf(placed: Placed, call: NodePath<t.CallExpression>): { named: Named; call: HookCall } | undefined {
  const declared = declaredBy(call);
  const [given, ...others] = call.get('arguments') as NodePath[];
  if (!declared?.target.isArrayPattern() || !given || others.length) return undefined;
  const rest = restOf(placed.path);
  const all: Named | undefined = rest === undefined ? undefined : { property: 'name', text: `${rest}.name`, rest };
  const parts = declared.target.get('elements').map((one) => (one.node ? (one as NodePath) : undefined));
  const by = (named: Named | undefined, type?: string): { named: Named; call: HookCall } | undefined =>
    named && { named, call: { statement: declared.statement, given, parts, type } };
  if (given.isIdentifier() && given.node.name === rest) return by(all);
  if (!given.isObjectExpression()) return by(namedBy(given, placed));
  const known = given.node.properties.every(
    (one) =>
      (t.isSpreadElement(one) && t.isIdentifier(one.argument) && one.argument.name === rest) ||
      (t.isObjectProperty(one) && t.isIdentifier(one.key) && /^(?:name|type)$/.test(one.key.name)),
  );
  const [name, type] = [memberNamed(given, 'name'), memberNamed(given, 'type')];
  if (!known || (type && !type.isStringLiteral())) return undefined;
  return by(name ? namedBy(name, placed) : all, type?.isStringLiteral() ? type.node.value : undefined);
}

/** What a member of the field, of its state or of its helpers is called where the component is given it. */
const members: Readonly<Record<string, Asked>> = {
  'field.value': 'value',
  'field.checked': 'checked',
  'meta.value': 'value',
  'meta.error': 'error',
  'meta.touched': 'touched',
};

function sayHook(apart: TakenApart, part: FieldComponent, { call }: FieldHook): void {
  if (call) sayCall(apart, part, call);
  for (const { element, name } of drawnOf(part.component.path, 'formik'))
    if (name === 'ErrorMessage') sayMessageOf(apart, part, element);
    else sayFieldOf(part, element);
  // what elements of the package would be drawn as is told by no element of the component
  for (const { element } of part.drawn)
    for (const { name, path } of attributesOf(element))
      if (/^(?:as|component|validate|innerRef)$/.test(name))
        stays(apart.leaving, path, 'what it decides is told only when the form runs');
}

/** `<Field name={name} …>`: the element that it draws, which is given the field. */
function sayFieldOf(part: FieldComponent, element: NodePath<t.JSXElement>): void {
  const { leaving } = part;
  const opening = element.get('openingElement');
  const attributes = attributesOf(element);
  const as = attributes.find(({ name }) => name === 'as' || name === 'component');
  const tag = as ? as.text : 'input';
  const type = attributes.find(({ name }) => name === 'type')?.text;
  const control = tag === undefined ? undefined : controlAt(part, element, type, tag);
  const isFilled = element.node.children.some((one) => !t.isJSXText(one)) && tag !== 'select';
  const odd = attributes.find(({ name }) => /^(?:validate|innerRef|onChange|onBlur)$/.test(name));
  const tied = control && !odd && !isFilled ? tiedIn(part, element, control, opening, true) : undefined;
  if (!tied || tag === undefined) {
    stays(leaving, odd?.path ?? opening, 'what it draws is told only when the form runs');
    return;
  }
  renameTag(leaving, element, tag);
  if (as) takeAttribute(leaving, as.path);
  const name = attributes.find((one) => one.name === 'name')?.path;
  const spread = opening.get('attributes').find((one) => one.isJSXSpreadAttribute());
  if (name) {
    const at = name.node.end ?? 0;
    saysAt(leaving, at, at, () => tied.map((one) => asAttributes(leaving, name, ['', '']) + one).join(''));
  } else if (spread) {
    const at = spread.node.start ?? 0;
    saysAt(leaving, at, at, () => tied.map((one) => one + asAttributes(leaving, spread, ['', ''])).join(''));
  }
}

function sayMessageOf(apart: TakenApart, part: FieldComponent, element: NodePath<t.JSXElement>): void {
  const [touched, error] = [asks(part, 'touched', element), asks(part, 'error', element)];
  if (touched === undefined || error === undefined) return;
  apart.asked.push({ gated: true });
  drawMessage(part.leaving, element, `${touched} && ${error}`, error);
}

function sayCall(apart: TakenApart, part: FieldComponent, { parts, statement, given, type }: HookCall): void {
  const { leaving } = part;
  forgetNames(
    leaving,
    parts.flatMap((one) => one ?? []),
  );
  const keys = ['field', 'meta', 'helpers'];
  parts.forEach((target, index) => {
    if (target) sayTarget(apart, part, keys[index] ?? '', target, type);
  });
  const { start, end } = given.node;
  otherwise(leaving, [start, end], given.parent, 'each element says which field it shows, and is given it');
  takeStatement(leaving, statement);
}

/** What a component does with a part of its field: with the whole of it, or with members taken apart. */
function sayTarget(
  apart: TakenApart,
  part: FieldComponent,
  key: string,
  target: NodePath,
  type: string | undefined,
): void {
  const { leaving } = part;
  if (target.isIdentifier()) {
    sayObject(apart, part, key, target, type);
    return;
  }
  for (const [name, local] of target.isObjectPattern() ? takenApart(target) : [[undefined, target] as const])
    if (!local.isIdentifier()) stays(leaving, local, 'what it takes is no plain name');
    else for (const path of referencesTo(leaving, local)) sayMember(apart, part, `${key}.${name ?? ''}`, path, type);
}

function sayObject(
  apart: TakenApart,
  part: FieldComponent,
  key: string,
  object: NodePath<t.Identifier>,
  type: string | undefined,
): void {
  const { leaving } = part;
  for (const reference of referencesTo(leaving, object)) {
    const { parentPath: parent } = reference;
    const isMember = (parent?.isMemberExpression() ?? false) || (parent?.isOptionalMemberExpression() ?? false);
    if (key === 'field' && parent?.isJSXSpreadAttribute()) saySpread(part, parent, type, true);
    else if (parent?.isVariableDeclarator() && reference.key === 'init') {
      const target = parent.get('id') as NodePath;
      forgetNames(leaving, [target]);
      sayTarget(apart, part, key, target, type);
      takeStatement(leaving, parent.parentPath);
    } else if (parent && isMember && t.isIdentifier((parent.node as t.MemberExpression).property)) {
      const { property } = parent.node as t.MemberExpression;
      sayMember(apart, part, `${key}.${t.isIdentifier(property) ? property.name : ''}`, parent, type);
    } else stays(leaving, reference, 'it is handed on as a whole');
  }
}

function sayMember(
  apart: TakenApart,
  part: FieldComponent,
  member: string,
  path: NodePath,
  type: string | undefined,
): void {
  const { leaving, named } = part;
  const known = members[member];
  if (known) {
    if (known === 'error') apart.asked.push({ gated: isAskedBehind(path, /\btouched\b/, leaving.script.text) });
    sayAsked(part, path, known);
    return;
  }
  if (member === 'field.name') {
    says(leaving, path, named.text);
    return;
  }
  const at = attributeOf(path);
  const call = path.parentPath?.isCallExpression() && path.key === 'callee' ? path.parentPath : undefined;
  if (member === 'field.onChange' || member === 'field.onBlur') {
    const fn = call?.findParent((one) => one.isFunction());
    const own = at ?? (fn && attributeOf(fn));
    const event = member === 'field.onChange' ? 'onChange' : 'onBlur';
    const isEvent =
      own?.name === event &&
      (!call || (fn?.isFunction() && sameName(call.node.arguments[0], fn.node.params[0]) && !call.node.arguments[1]));
    if (own && isEvent && controlAt(part, own.element, type)) {
      ensureName(part, own.element);
      sayAsked(part, path, event);
      return;
    }
  }
  if (member === 'helpers.setValue' && call?.node.arguments.length === 1) {
    leaving.turns.push({ path: call, does: 'whole' });
    sayAsked(part, path, 'setValue');
    return;
  }
  stays(leaving, call ?? path, `${member} of the package is not said here without it yet`);
}

function sameName(a: t.Node | undefined, b: t.Node | undefined): boolean {
  return t.isIdentifier(a) && t.isIdentifier(b) && a.name === b.name;
}
