import type { Binding, NodePath } from '@babel/traverse';
import { bare, behindName, copiedBy, returnedValue, type Placed } from '../../source/behind-names.js';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import * as t from '@babel/types';
import type { FormSite } from '../approach.js';
import { keptFirst, type Slot } from './held-starts.js';
import { walk } from '../../source/traverse.js';

/** What an object begins as where only the running form tells the values: their names, and the whole expression. */
export interface ComputedStart {
  slots: Slot[];
  whole: NodePath;
  /** An object written out that it may begin as; its place tells a type. */
  object: Placed | undefined;
}

/**
 * The values of an object whose start is worked out: `toForm(entry)`, `entry ?? blank`, `() => ({ ...blank(), row })`.
 * @param start the expression, or the function called once
 * @param type the object's type, where one is written
 */
export function computedStart(
  start: NodePath | undefined,
  type: TypeInFile | undefined,
  { script, load }: FormSite,
): ComputedStart | undefined {
  if (!start) return undefined;
  const told = start.isFunction() ? returnedValue(start) : start;
  const object = told && objectBehind({ path: told, script }, load);
  const members = [...typeMembers(type, load).entries()];
  const names = members.length ? members.map(([name]) => name) : object ? namesOf(object, load) : undefined;
  // what is read off a component's own value by name is no object that is made here
  if (!names?.length || !told || !isWorkedOut(told, type !== undefined)) return undefined;
  return {
    slots: names.map((name) => ({ name, alias: undefined, initial: undefined, untold: true })),
    whole: start,
    object,
  };
}

/** Whether an expression makes its object when the form runs. */
function isWorkedOut(told: NodePath, typed: boolean): boolean {
  const path = bare(told);
  if (path.isConditionalExpression() || path.isLogicalExpression() || path.isCallExpression()) return true;
  return typed && (path.isObjectExpression() || path.isIdentifier() || path.isMemberExpression());
}

/** An object written out that an expression may give, followed through choices and functions. */
function objectBehind(at: Placed, load: FormSite['load'], depth = 0): Placed | undefined {
  const { path, script } = behindName(at, load);
  if (depth > 4) return undefined;
  if (path.isObjectExpression()) return { path, script };
  const among = (parts: (NodePath | undefined)[], file = script): Placed | undefined => {
    for (const part of parts) {
      const found = part && objectBehind({ path: part, script: file }, load, depth + 1);
      if (found) return found;
    }
    return undefined;
  };
  if (path.isConditionalExpression()) return among([path.get('alternate'), path.get('consequent')]);
  if (path.isLogicalExpression()) return among([path.get('right'), path.get('left')]);
  if (!path.isCallExpression()) return undefined;
  const copied = copiedBy(path);
  if (copied) return among([copied]);
  const called = behindName({ path: path.get('callee') as NodePath, script }, load);
  return called.path.isFunction() ? among([returnedValue(called.path)], called.script) : undefined;
}

/**
 * Whether every value that an expression gives is written out somewhere, so that it holds no others.
 * @param isKnown tells expressions that are known to hold nothing else
 */
export function isClosed(
  at: Placed,
  load: FormSite['load'],
  isKnown: (path: NodePath) => boolean = () => false,
  depth = 0,
): boolean {
  if (isKnown(bare(at.path))) return true;
  const { path, script } = behindName(at, load);
  if (depth > 6) return false;
  const closed = (part: NodePath | undefined, file = script): boolean =>
    part?.node !== undefined && isClosed({ path: part, script: file }, load, isKnown, depth + 1);
  if (isKnown(path)) return true;
  if (path.isConditionalExpression()) return closed(path.get('consequent')) && closed(path.get('alternate'));
  if (path.isLogicalExpression()) return closed(path.get('left')) && closed(path.get('right'));
  if (path.isFunction()) return givenBy(path).every((one) => closed(one));
  if (path.isCallExpression()) {
    const copied = copiedBy(path);
    if (copied) return closed(copied);
    const called = behindName({ path: path.get('callee') as NodePath, script }, load);
    return called.path.isFunction() && closed(called.path, called.script);
  }
  if (path.isIdentifier()) {
    const first = keptFirst(path);
    if (first) return closed(first);
    const handed = handedTo(path);
    return handed !== undefined && handed.every((one) => closed(one));
  }
  if (!path.isObjectExpression()) return false;
  return path.get('properties').every((one) => (one.isSpreadElement() ? closed(one.get('argument')) : true));
}

/** What a function gives: its expression, or what each `return` says. */
function givenBy(fn: NodePath<t.Function>): NodePath[] {
  const body = fn.get('body') as NodePath;
  if (!body.isBlockStatement()) return [body];
  const returned: NodePath[] = [];
  walk(body, {
    Function: (inner) => inner.skip(),
    ReturnStatement: (inner) => {
      returned.push(inner.get('argument') as NodePath);
    },
  });
  return returned.length ? returned : [body];
}

/** What a parameter is given wherever its function is called by name; undefined where it may be given anything. */
function handedTo(path: NodePath<t.Identifier>): NodePath[] | undefined {
  const binding = path.scope.getBinding(path.node.name);
  const fn = binding?.kind === 'param' ? binding.scope.path : undefined;
  if (!fn?.isFunction()) return undefined;
  const index = fn.node.params.findIndex((one) => one === binding?.identifier);
  const holder =
    fn.isFunctionDeclaration() && fn.node.id ? fn.parentPath.scope.getBinding(fn.node.id.name) : heldAs(fn);
  if (!holder || index < 0 || !holder.referencePaths.length) return undefined;
  const given: NodePath[] = [];
  for (const reference of holder.referencePaths) {
    const call = reference.parentPath;
    const argument = call?.isCallExpression() && reference.key === 'callee' ? call.get('arguments')[index] : undefined;
    if (!argument) return undefined;
    given.push(argument);
  }
  return given;
}

function heldAs(fn: NodePath): Binding | undefined {
  const parent = fn.parentPath;
  const made = parent?.isCallExpression() ? parent.parentPath : parent;
  return made?.isVariableDeclarator() && t.isIdentifier(made.node.id)
    ? made.scope.getBinding(made.node.id.name)
    : undefined;
}

/** The names an object gives values to; undefined where some are not written. */
function namesOf({ path, script }: Placed, load: FormSite['load'], depth = 0): string[] | undefined {
  if (!path.isObjectExpression() || depth > 4) return undefined;
  const names = new Set<string>();
  for (const property of path.get('properties')) {
    if (property.isSpreadElement()) {
      const inner = objectBehind({ path: property.get('argument'), script }, load);
      for (const name of (inner && namesOf(inner, load, depth + 1)) ?? []) names.add(name);
      continue;
    }
    const key = 'key' in property.node ? property.node.key : undefined;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    if (name === undefined || (property.isObjectProperty() && property.node.computed)) return undefined;
    names.add(name);
  }
  return [...names];
}
