import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { editedStretch, type Edit } from '../../source/edits.js';
import { spanOf } from '../code.js';
import { functionOf } from '../components.js';
import { declarationNamed, typeMembers } from '../../source/type-members.js';
import type { Move } from './move.js';
import { givenTypes } from './move-types.js';
import { walk } from '../../source/traverse.js';

/**
 * Attributes that an element takes from the hook together: `<input {...field('town')} />` names each of them.
 * @param asked the names by which the component knows the hook's members
 * @returns edits of the component, and the members that nothing but such attributes asks for
 */
export function spreadEdits(
  move: Move,
  asked: ReadonlyMap<string, string>,
  members: ReadonlyMap<string, NodePath>,
): { edits: Edit[]; only: Map<string, NodePath> } {
  const { site } = move;
  const edits: Edit[] = [];
  const only = new Map<string, NodePath>();
  for (const [key, local] of asked) {
    const maker = members.get(key);
    if (maker?.isObjectExpression()) {
      const whole = wholeSpreads(move, key, local, maker);
      edits.push(...whole.edits);
      if (whole.only) only.set(key, maker);
      continue;
    }
    const fn = maker && functionOf(maker);
    const object = fn && returnedObject(fn);
    if (!fn || !object) continue;
    let others = 0;
    const own: (Edit | undefined)[] = [];
    const visit = (call: NodePath<t.CallExpression>): void => {
      const callee = call.get('callee') as NodePath;
      const named =
        (callee.isIdentifier() && callee.node.name === local) ||
        (callee.isMemberExpression() && t.isIdentifier(callee.node.property, { name: key }));
      if (!named) return;
      if (!call.parentPath.isJSXSpreadAttribute()) {
        others += 1;
        return;
      }
      const text = attributesText(move, call, fn, object);
      const { start, end } = spanOf(site.script.file, call.parentPath);
      own.push(text === undefined ? undefined : { start, end, text });
    };
    walk(site.component.path, { CallExpression: visit });
    const written = own.filter((edit) => edit !== undefined);
    // where one element cannot name its attributes, the function stays for all of them
    if (written.length < own.length) continue;
    edits.push(...written);
    if (own.length && !others) only.set(key, object);
  }
  return { edits, only };
}

/** `{...birdInput}`: the object that the hook gives names the attributes. */
function wholeSpreads(
  move: Move,
  key: string,
  local: string,
  object: NodePath<t.ObjectExpression>,
): { edits: Edit[]; only: boolean } {
  const { site, hook } = move;
  const edits: Edit[] = [];
  let others = 0;
  const isNamed = (path: NodePath): boolean =>
    (path.isIdentifier() && path.node.name === local && path.isReferencedIdentifier()) ||
    (path.isMemberExpression() &&
      t.isIdentifier(path.node.property, { name: key }) &&
      t.isIdentifier(path.node.object) &&
      t.isIdentifier(hook.declarator.node.id, { name: path.node.object.name }));
  const visit = (path: NodePath): void => {
    if (!isNamed(path)) return;
    if (!path.parentPath?.isJSXSpreadAttribute()) {
      others += 1;
      return;
    }
    const text = objectAttributes(move, object, []);
    if (text === undefined) others += 1;
    else edits.push({ start: path.parent.start ?? 0, end: path.parent.end ?? 0, text });
  };
  walk(site.component.path, { Identifier: visit, MemberExpression: visit });
  return { edits, only: edits.length > 0 && others === 0 };
}

/**
 * A cast to the type of a value by its key (`e.target.value as T[typeof key]`), which goes where that type is a text anyway.
 * @param key the key that is written out
 */
function spareCast(move: Move, reference: NodePath, key: string): Edit | undefined {
  const { hook, site } = move;
  const cast = reference.findParent((one) => one.isTSAsExpression());
  if (!cast?.isTSAsExpression()) return undefined;
  const { typeAnnotation: type, expression } = cast.node;
  const of =
    t.isTSIndexedAccessType(type) && t.isTSTypeReference(type.objectType) ? type.objectType.typeName : undefined;
  const name = t.isIdentifier(of) ? givenTypes(move).get(of.name) : undefined;
  const declared = name === undefined ? undefined : declarationNamed(name, site.script, site.load);
  const isText = typeMembers(declared, site.load).get(key)?.text === 'string';
  if (!isText || !/\.value$/.test(hook.script.text.slice(expression.start ?? 0, expression.end ?? 0))) return undefined;
  const span = { file: hook.script.file, start: expression.end ?? 0, end: cast.node.end ?? 0 };
  const what = hook.script.text.slice(cast.node.start ?? 0, span.end);
  move.ledger.push({ entry: 'carried', span, what, why: 'it is a text already', takenOver: true });
  return { start: span.start, end: span.end, text: '' };
}

function returnedObject(fn: NodePath<t.Function>): NodePath<t.ObjectExpression> | undefined {
  const body = fn.get('body') as NodePath;
  if (body.isObjectExpression()) return body;
  if (!body.isBlockStatement()) return undefined;
  const [only, ...more] = body.get('body');
  const value = only?.isReturnStatement() && !more.length ? (only.get('argument') as NodePath) : undefined;
  return value?.isObjectExpression() ? value : undefined;
}

/** The attributes of one element, with what the call hands over in the place of the parameters. */
function attributesText(
  move: Move,
  call: NodePath<t.CallExpression>,
  fn: NodePath<t.Function>,
  object: NodePath<t.ObjectExpression>,
): string | undefined {
  const { hook, site } = move;
  const given = call.get('arguments') as NodePath[];
  const inner: Edit[] = [];
  for (const [index, parameter] of fn.node.params.entries()) {
    if (!t.isIdentifier(parameter)) return undefined;
    const argument = given[index];
    if (argument?.isFunction()) return undefined;
    const references = fn.scope.getBinding(parameter.name)?.referencePaths ?? [];
    if (!argument && references.length) return undefined;
    for (const reference of references) {
      const member = reference.parentPath;
      const key = argument?.isStringLiteral() ? argument.node.value : undefined;
      if (
        key !== undefined &&
        member?.isMemberExpression() &&
        member.node.computed &&
        reference.key === 'property' &&
        /^[A-Za-z_$][\w$]*$/.test(key)
      ) {
        const objectEnd = member.node.object.end ?? 0;
        inner.push({ start: objectEnd, end: member.node.end ?? 0, text: `.${key}` });
        continue;
      }
      const text = site.script.text.slice(argument?.node.start ?? 0, argument?.node.end ?? 0);
      if (t.isTSTypeQuery(reference.parent)) {
        const cast = key === undefined ? undefined : spareCast(move, reference, key);
        if (!cast) return undefined;
        inner.push(cast);
        continue;
      }
      const textOf = member?.isCallExpression() === true && t.isIdentifier(member.node.callee, { name: 'String' });
      if (key !== undefined && textOf && reference.listKey === 'arguments') {
        inner.push({ start: member.node.start ?? 0, end: member.node.end ?? 0, text });
        continue;
      }
      if (key !== undefined && member?.isObjectProperty() && member.node.computed && reference.key === 'key') {
        const open = hook.script.text.lastIndexOf('[', reference.node.start ?? 0);
        const close = hook.script.text.indexOf(']', reference.node.end ?? 0) + 1;
        inner.push({ start: open, end: close, text: /^[A-Za-z_$][\w$]*$/.test(key) ? key : text });
        continue;
      }
      const short = t.isObjectProperty(reference.parent) && reference.parent.shorthand;
      inner.push({
        start: reference.node.start ?? 0,
        end: reference.node.end ?? 0,
        text: short ? `${parameter.name}: ${text}` : text,
      });
    }
  }
  return objectAttributes(move, object, inner);
}

/** An object's members as attributes. */
function objectAttributes(
  move: Move,
  object: NodePath<t.ObjectExpression>,
  inner: readonly Edit[],
): string | undefined {
  const { hook } = move;
  const parts: string[] = [];
  for (const property of object.get('properties')) {
    if (!property.isObjectProperty() || property.node.computed) return undefined;
    const { key } = property.node;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    const value = property.get('value') as NodePath;
    if (name === undefined) return undefined;
    const start = value.node.start ?? 0;
    const end = value.node.end ?? 0;
    const others = move.edits.filter((edit) => !inner.some((one) => one.start <= edit.start && one.end >= edit.end));
    const edits = [...inner, ...others].map((edit) => ({
      ...edit,
      text: property.node.shorthand ? edit.text.replace(/^\w+: /, '') : edit.text,
    }));
    const text = editedStretch(hook.script.text, start, end, edits);
    const plain = /^(['"])([^'"{}]*)\1$/.exec(text);
    parts.push(plain ? `${name}="${plain[2] ?? ''}"` : `${name}={${text}}`);
  }
  return parts.join(' ');
}
