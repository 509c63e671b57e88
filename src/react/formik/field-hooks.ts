import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed, type Placed } from '../../source/behind-names.js';
import { callsOf } from '../hook-calls.js';
import {
  asks,
  callingComponents,
  controlAt,
  fieldComponent,
  namedBy,
  restOf,
  sayAsked,
  saySpread,
  type Asked,
  type FieldComponent,
  type Named,
} from '../package-leaving/field-components.js';
import { otherwise } from '../package-leaving/conditions.js';
import { declaredBy, forgetNames } from '../package-leaving/hook-form.js';
import { referencesTo, says, stays, takeStatement, takenApart, type Leaving } from '../package-leaving/leaving.js';
import { attributeOf } from '../package-leaving/ties.js';
import type { TakenApart } from './form.js';
import { isAskedBehind } from './places.js';

/** `const [field, meta, helpers] = useField(…)`, as the only call of the package in a component. */
interface FieldHook {
  named: Named;
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

/** How a component takes one field by the package’s hook; undefined where it takes more of the package than that. */
export function fieldHookOf(placed: Placed): FieldHook | undefined {
  const [only, ...more] = callsOf(placed.path, 'formik');
  const declared = only && declaredBy(only.call);
  const [given, ...others] = (only?.call.get('arguments') ?? []) as NodePath[];
  if (only?.name !== 'useField' || more.length || !declared?.target.isArrayPattern() || !given || others.length)
    return undefined;
  const [parameter] = placed.path.isFunction() ? (placed.path.get('params') as NodePath[]) : [];
  const rest = restOf(parameter);
  const all: Named | undefined = rest === undefined ? undefined : { property: 'name', text: `${rest}.name`, rest };
  const parts = declared.target.get('elements').map((one) => (one.node ? (one as NodePath) : undefined));
  const hook = { statement: declared.statement, given, parts };
  if (given.isIdentifier() && given.node.name === rest) return all && { ...hook, named: all, type: undefined };
  if (!given.isObjectExpression()) {
    const named = namedBy(given, placed);
    return named && { ...hook, named, type: undefined };
  }
  const known = given.node.properties.every(
    (one) =>
      (t.isSpreadElement(one) && t.isIdentifier(one.argument) && one.argument.name === rest) ||
      (t.isObjectProperty(one) && t.isIdentifier(one.key) && /^(?:name|type)$/.test(one.key.name)),
  );
  const [name, type] = [memberNamed(given, 'name'), memberNamed(given, 'type')];
  const named = name ? namedBy(name, placed) : all;
  if (!known || !named || (type && !type.isStringLiteral())) return undefined;
  return { ...hook, named, type: type?.isStringLiteral() ? type.node.value : undefined };
}

/** What a member of the field, of its state or of its helpers is called where the component is given it. */
const members: Readonly<Record<string, Asked>> = {
  'field.value': 'value',
  'field.checked': 'checked',
  'meta.value': 'value',
  'meta.error': 'error',
  'meta.touched': 'touched',
};

function sayHook(apart: TakenApart, part: FieldComponent, { parts, statement, given, type }: FieldHook): void {
  const { leaving } = part;
  forgetNames(
    leaving,
    parts.flatMap((one) => one ?? []),
  );
  const keys = ['field', 'meta', 'helpers'];
  parts.forEach((target, index) => {
    const key = keys[index] ?? '';
    if (target?.isIdentifier()) sayObject(apart, part, key, target, type);
    else if (target?.isObjectPattern()) {
      for (const [name, local] of takenApart(target)) {
        if (!local.isIdentifier()) stays(leaving, local, 'what it takes is no plain name');
        else
          for (const path of referencesTo(leaving, local)) sayMember(apart, part, `${key}.${name ?? ''}`, path, type);
      }
    } else if (target) stays(leaving, target, 'what it takes is no plain name');
  });
  const { start, end } = given.node;
  otherwise(leaving, [start, end], given.parent, 'each element says which field it shows, and is given it');
  takeStatement(leaving, statement);
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
      if (!target.isObjectPattern()) {
        stays(leaving, reference, 'it is handed on as a whole');
        continue;
      }
      forgetNames(leaving, [target]);
      for (const [name, local] of takenApart(target)) {
        if (!local.isIdentifier()) stays(leaving, local, 'what it takes is no plain name');
        else
          for (const path of referencesTo(leaving, local)) sayMember(apart, part, `${key}.${name ?? ''}`, path, type);
      }
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
      sayAsked(part, path, event);
      return;
    }
  }
  if (member === 'helpers.setValue' && call?.node.arguments.length === 1) {
    leaving.turns.push({ path: call, does: 'whole' });
    if (asks(part, 'setValue', path)) says(leaving, path, 'setValue');
    return;
  }
  stays(leaving, call ?? path, `${member} of the package is not said here without it yet`);
}

function sameName(a: t.Node | undefined, b: t.Node | undefined): boolean {
  return t.isIdentifier(a) && t.isIdentifier(b) && a.name === b.name;
}
