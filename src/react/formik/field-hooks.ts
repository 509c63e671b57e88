import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { drawnOf } from '../package-leaving/drawn-components.js';
import {
  callingComponents,
  fieldComponent,
  namedIn,
  namedOn,
  type Asked,
  type FieldComponent,
  type Named,
} from '../package-leaving/field-components.js';
import {
  asks,
  controlAt,
  ensureName,
  sayAsked,
  saySpread,
  sayTaken,
  tiedIn,
} from '../package-leaving/field-controls.js';
import type { FormFiles } from '../package-leaving/form-files.js';
import { otherwise } from '../package-leaving/conditions.js';
import { declaredBy } from '../package-leaving/hook-form.js';
import {
  asAttributes,
  renameTag,
  says,
  saysAt,
  stays,
  takeAttribute,
  takeStatement,
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
export function sayFieldComponents(apart: TakenApart, files: FormFiles): FieldComponent[] {
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
  return /^(?:Field|FastField|ErrorMessage)$/.test(part) ? namedOn(element, placed) : undefined;
}

function hookCallOf(placed: Placed, call: NodePath<t.CallExpression>): { named: Named; call: HookCall } | undefined {
  const declared = declaredBy(call);
  const [given, ...others] = call.get('arguments') as NodePath[];
  if (!declared?.target.isArrayPattern() || !given || others.length) return undefined;
  const named = namedIn(given, placed, /^(?:name|type)$/);
  const type = given.isObjectExpression() ? memberNamed(given, 'type') : undefined;
  if (!named || (type && !type.isStringLiteral())) return undefined;
  const parts = declared.target.get('elements').map((one) => (one.node ? (one as NodePath) : undefined));
  const said = type?.isStringLiteral() ? type.node.value : undefined;
  return { named, call: { statement: declared.statement, given, parts, type: said } };
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
  const keys = ['field', 'meta', 'helpers'];
  sayTaken(
    part,
    parts.flatMap((target, index) => (target ? [[keys[index] ?? '', target] as const] : [])),
    (member, path) => sayMember(apart, part, member, path, type),
    (key, spread) => key === 'field' && saySpread(part, spread, type, true),
  );
  const { start, end } = given.node;
  otherwise(leaving, [start, end], given.parent, 'each element says which field it shows, and is given it');
  takeStatement(leaving, statement);
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
