import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, type Placed } from '../source/behind-names.js';
import type { LoadScript } from '../source/project-files.js';

/** What a name stands for inside a function that states rules. */
export type Meaning =
  | { kind: 'values' }
  | { kind: 'field'; name: string }
  | { kind: 'key'; name: string | undefined }
  | { kind: 'errors' }
  | { kind: 'code'; at: Asked }
  /** What is left of a call's arguments: `(...checks)`. */
  | { kind: 'list'; items: Asked[] };

/** Names with a meaning, by binding. */
export type Names = ReadonlyMap<unknown, Meaning>;

/** An expression with what the names in it mean. */
export interface Asked extends Placed {
  names: Names;
}

/** How rules are told from other code. */
export interface RuleLens {
  /** The field that an expression reads by itself: `town`, `values.town`. */
  fieldOf(path: NodePath): string | undefined;
  /** Whether an expression stands for all values. */
  isValues(path: NodePath): boolean;
  /** Kind of value a field holds: `number`, `boolean`, `many choices`, …; undefined where nothing tells it. */
  kindOf(field: string): string | undefined;
  /** The fields in order. */
  fields: readonly string[];
  /** Names of status that is kept beside the fields, in the same object. */
  status: readonly string[];
  /** Whether a function that is called changes fields of the form. */
  changes(callee: NodePath): boolean;
  load: LoadScript;
}

/** What a name means at a place. */
export function meaningOf(asked: Asked): Meaning | undefined {
  const { path, names } = asked;
  return path.isIdentifier() ? names.get(path.scope.getBinding(path.node.name)) : undefined;
}

/** The declared constant behind a name that only stands for an expression of the same function. */
export function localValue(asked: Asked): Asked | undefined {
  const { path } = asked;
  if (!path.isIdentifier()) return undefined;
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (!binding?.constant || !declared?.isVariableDeclarator() || !declared.node.init) return undefined;
  if (t.isIdentifier(declared.node.id)) return { ...asked, path: declared.get('init') as NodePath };
  return undefined;
}

/** The name that an expression asks by, where it is known: a key, a text, or a member that holds one. */
export function keyAt(asked: Asked): { name: string | undefined } | undefined {
  const path = bare(asked.path);
  const meaning = meaningOf({ ...asked, path });
  if (meaning?.kind === 'key') return { name: meaning.name };
  if (meaning?.kind === 'code') return keyAt(meaning.at);
  if (t.isStringLiteral(path.node)) return { name: path.node.value };
  if (!path.isMemberExpression() || path.node.computed || !t.isIdentifier(path.node.property)) return undefined;
  const member = memberHanded({ ...asked, path: path.get('object') }, path.node.property.name);
  return member ? keyAt(member) : undefined;
}

/** A member of an object that was written out where it was handed over: `check({ place, caught })`. */
export function memberHanded(object: Asked, name: string): Asked | undefined {
  const path = bare(object.path);
  const meaning = meaningOf({ ...object, path });
  if (meaning?.kind === 'code') return memberHanded(meaning.at, name);
  const local = localValue({ ...object, path });
  if (local) return memberHanded(local, name);
  if (!path.isObjectExpression()) return undefined;
  for (const property of path.get('properties')) {
    if (property.isObjectProperty() && t.isIdentifier(property.node.key, { name }) && !property.node.computed)
      return { ...object, path: property.get('value') as NodePath };
  }
  return undefined;
}

/** The field that a pattern takes out of all values: `const { place, caught: count } = values`. */
function takenField(asked: Asked, lens: RuleLens): string | undefined {
  const { path } = asked;
  if (!path.isIdentifier()) return undefined;
  const declared = path.scope.getBinding(path.node.name)?.path;
  if (!declared?.isVariableDeclarator() || !t.isObjectPattern(declared.node.id)) return undefined;
  const source = declared.get('init') as NodePath;
  const key = keyTaken(declared.node.id, path.node.name);
  if (!source.node || key === undefined) return undefined;
  if (standsForValues({ ...asked, path: source }, lens)) return key;
  const member = memberHanded({ ...asked, path: source }, key);
  return member ? fieldAt(member, lens) : undefined;
}

/** The key under which an object pattern takes a local name. */
export function keyTaken(pattern: t.ObjectPattern, local: string): string | undefined {
  for (const property of pattern.properties) {
    if (!t.isObjectProperty(property) || property.computed || !t.isIdentifier(property.key)) continue;
    const value = t.isAssignmentPattern(property.value) ? property.value.left : property.value;
    if (t.isIdentifier(value, { name: local })) return property.key.name;
  }
  return undefined;
}

/** Whether an expression stands for all values of the form. */
export function standsForValues(asked: Asked, lens: RuleLens): boolean {
  const path = bare(asked.path);
  const meaning = meaningOf({ ...asked, path });
  if (meaning) return meaning.kind === 'values' || (meaning.kind === 'code' && standsForValues(meaning.at, lens));
  return lens.isValues(path);
}

/** The field an expression stands for, by itself or through names. */
export function fieldAt(asked: Asked, lens: RuleLens, depth = 0): string | undefined {
  const path = bare(asked.path);
  if (depth > 8) return undefined;
  const here = { ...asked, path };
  const meaning = meaningOf(here);
  if (meaning?.kind === 'field') return meaning.name;
  if (meaning?.kind === 'code') return fieldAt(meaning.at, lens, depth + 1);
  if (meaning) return undefined;
  const own = lens.fieldOf(path);
  if (own !== undefined) return own;
  if (path.isLogicalExpression() && path.node.operator === '??' && isEmptyText(path.get('right')))
    return fieldAt({ ...asked, path: path.get('left') }, lens, depth + 1);
  if (path.isMemberExpression() || path.isOptionalMemberExpression()) {
    const object = { ...asked, path: path.get('object') as NodePath };
    const { property, computed } = path.node;
    if (standsForValues(object, lens)) {
      if (!computed && t.isIdentifier(property)) return lens.status.includes(property.name) ? undefined : property.name;
      if (t.isStringLiteral(property)) return property.value;
      return keyAt({ ...asked, path: path.get('property') as NodePath })?.name;
    }
    if (computed || !t.isIdentifier(property) || /^(length|value|checked)$/.test(property.name)) return undefined;
    const holder = fieldAt(object, lens, depth + 1);
    if (holder !== undefined) return `${holder}.${property.name}`;
    const member = memberHanded(object, property.name);
    return member ? fieldAt(member, lens, depth + 1) : undefined;
  }
  if (!path.isIdentifier()) return undefined;
  const taken = takenField(here, lens);
  if (taken !== undefined) return taken;
  const local = localValue(here);
  return local ? fieldAt(local, lens, depth + 1) : undefined;
}

function isEmptyText(path: NodePath): boolean {
  return t.isStringLiteral(path.node, { value: '' });
}

/** Whether a function asks for a field's name by a parameter: in a switch, a comparison, or as a key. */
function asksByName(fn: NodePath<t.Function>, parameter: string): boolean {
  const references = fn.scope.getOwnBinding(parameter)?.referencePaths ?? [];
  return references.some((reference) => {
    const parent = reference.parentPath;
    if (parent?.isSwitchStatement()) return reference.key === 'discriminant';
    if (parent?.isMemberExpression()) return reference.key === 'property' && parent.node.computed;
    if (!parent?.isBinaryExpression()) return parent?.isObjectProperty() === true && reference.key === 'key';
    return [parent.node.left, parent.node.right].some((side) => t.isStringLiteral(side) && side.value !== '');
  });
}

/**
 * What the parameters of a function stand for where it is given some arguments.
 * @param given the arguments, with what names mean where they stand
 */
export function namesGiven(fn: NodePath<t.Function>, given: readonly Asked[], lens: RuleLens, known: Names): Names {
  const names = new Map<unknown, Meaning>(known);
  fn.node.params.forEach((one, index) => {
    const argument = given[index];
    const parameter = t.isAssignmentPattern(one) ? one.left : one;
    if (t.isRestElement(parameter) && t.isIdentifier(parameter.argument))
      names.set(fn.scope.getOwnBinding(parameter.argument.name), { kind: 'list', items: given.slice(index) });
    if (!argument) return;
    if (t.isIdentifier(parameter)) {
      const binding = fn.scope.getOwnBinding(parameter.name);
      const literal = bare(argument.path).node;
      const isField = fieldAt(argument, lens) !== undefined || standsForValues(argument, lens);
      const meaning = meaningOf({ ...argument, path: bare(argument.path) });
      if (!isField && meaning?.kind !== 'key' && asksByName(fn, parameter.name))
        names.set(binding, { kind: 'key', name: t.isStringLiteral(literal) ? literal.value : undefined });
      else names.set(binding, meaning?.kind === 'key' ? meaning : { kind: 'code', at: argument });
    }
    if (!t.isObjectPattern(parameter)) return;
    for (const local of Object.keys(t.getBindingIdentifiers(parameter))) {
      const key = keyTaken(parameter, local);
      if (key === undefined) continue;
      const member = memberHanded(argument, key);
      const field = standsForValues(argument, lens) ? key : member ? fieldAt(member, lens) : undefined;
      if (field !== undefined) names.set(fn.scope.getOwnBinding(local), { kind: 'field', name: field });
    }
  });
  return names;
}

/**
 * What the parameters of a function stand for in one call of it.
 * @param around what names mean where the function stands, beside those of the call
 */
export function namesOfCall(
  fn: NodePath<t.Function>,
  call: NodePath<t.CallExpression>,
  asked: Asked,
  lens: RuleLens,
  around: Names = new Map(),
): Names {
  const given = (call.get('arguments') as NodePath[]).map((path) => ({ ...asked, path }));
  return namesGiven(fn, given, lens, new Map([...asked.names, ...around]));
}
