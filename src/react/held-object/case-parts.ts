import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Hole } from '../../form/code.js';
import { isReserved } from '../form-names.js';
import type { ReducerCase, ReducerCases } from './cases.js';
import { walk } from '../../source/traverse.js';

/** The member of an action that a node asks for: `action.kilos`, or the local name of a part. */
export function partOf(node: t.Node, { action, parts }: ReducerCases): string | undefined {
  if (t.isIdentifier(node)) return parts.get(node.name);
  const asked = t.isMemberExpression(node) && !node.computed && t.isIdentifier(node.object, { name: action ?? '' });
  return asked && t.isIdentifier(node.property) ? node.property.name : undefined;
}

/** What a case takes from its action: the keys in the order in which it asks for them, and where it does. */
export interface Asked {
  keys: { key: string; parameter: string }[];
  holes: Hole[];
}

/**
 * The member of an action that a case puts in the place of all values, or has work them out:
 * `typeof action.next === 'function' ? action.next(state) : action.next`.
 */
export function replacedBy({ statements }: ReducerCase, cases: ReducerCases): string | undefined {
  const [only, ...more] = statements;
  const given = only?.isReturnStatement() && !more.length ? (only.get('argument') as NodePath) : undefined;
  const chosen = given?.isConditionalExpression() ? given.node.alternate : given?.node;
  const asked = chosen ? partOf(chosen, cases) : undefined;
  const test = given?.isConditionalExpression() ? given.node.test : undefined;
  const asksKind = t.isBinaryExpression(test) && t.isUnaryExpression(test.left, { operator: 'typeof' });
  return test && !asksKind ? undefined : asked;
}

export function endsWithReturn(statement: NodePath): boolean {
  if (statement.isReturnStatement() || statement.isThrowStatement()) return true;
  if (statement.isBlockStatement()) {
    const last = statement.get('body').at(-1);
    return last !== undefined && endsWithReturn(last);
  }
  if (!statement.isIfStatement()) return false;
  const other = statement.get('alternate') as NodePath;
  return other.node !== null && endsWithReturn(statement.get('consequent')) && endsWithReturn(other);
}

/** Whether statements look at the values they are given. */
export function asksFor(state: string, statements: readonly NodePath[]): boolean {
  let asks = false;
  for (const statement of statements)
    walk(statement, {
      Identifier(path) {
        if (path.isReferencedIdentifier() && path.node.name === state) asks = true;
      },
    });
  return asks;
}

/** What the statements of a case take from the action; undefined where they need the action itself, or other locals. */
export function askedOf({ statements }: ReducerCase, cases: ReducerCases): Asked | undefined {
  const asked: Asked = { keys: [], holes: [] };
  const places: { path: NodePath; key: string }[] = [];
  let whole = false;
  const visit = (path: NodePath<t.Identifier>): void => {
    if (!path.isReferencedIdentifier()) return;
    const binding = path.scope.getBinding(path.node.name);
    if (!binding || binding.scope.path.isProgram()) return;
    const inside = statements.some(({ node }) => isWithin(binding.identifier, node));
    if (inside || path.node.name === cases.state) return;
    const part = cases.parts.get(path.node.name);
    if (part !== undefined) {
      if (!asked.keys.some(({ key }) => key === part)) asked.keys.push({ key: part, parameter: path.node.name });
      return;
    }
    const member = path.parentPath;
    const isAsked =
      path.node.name === cases.action &&
      member.isMemberExpression() &&
      !member.node.computed &&
      path.key === 'object' &&
      t.isIdentifier(member.node.property);
    if (isAsked && t.isIdentifier(member.node.property)) places.push({ path: member, key: member.node.property.name });
    else whole = true;
  };
  for (const statement of statements) walk(statement, { Identifier: visit });
  if (whole || places.some(({ key }) => key === cases.discriminant)) return undefined;
  for (const { path, key } of places) {
    let known = asked.keys.find((one) => one.key === key);
    if (!known) {
      // the name is free where it stands for nothing else in these statements
      const own = places.filter((one) => one.key === key).length;
      const taken = countOf(key, statements, cases.action) > own || isReserved(key) || key === cases.state;
      known = { key, parameter: taken ? `given${key.charAt(0).toUpperCase()}${key.slice(1)}` : key };
      asked.keys.push(known);
    }
    // `{ kilos: action.kilos }` is `{ kilos }` then
    const { parent } = path;
    const short =
      t.isObjectProperty(parent) && !parent.computed && t.isIdentifier(parent.key, { name: known.parameter });
    const { start, end } = short ? parent : path.node;
    asked.holes.push({ kind: 'text', start: start ?? 0, end: end ?? 0, text: known.parameter });
  }
  return asked;
}

/** How often a name stands in statements as a name, not as the key of a property. */
function countOf(name: string, statements: readonly NodePath[], action: string | undefined): number {
  let count = 0;
  for (const statement of statements)
    walk(statement, {
      Identifier(path) {
        if (path.node.name !== name) return;
        const { parent } = path;
        const isKey = t.isObjectProperty(parent) && parent.key === path.node && !parent.computed && !parent.shorthand;
        const isMember = t.isMemberExpression(parent) && parent.property === path.node && !parent.computed;
        if (!isKey && (!isMember || isMemberOf(path.parentPath, action))) count += 1;
      },
    });
  return count;
}

function isMemberOf(path: NodePath | null, name: string | undefined): boolean {
  return path?.isMemberExpression() === true && t.isIdentifier(path.node.object, { name: name ?? '' });
}

function isWithin(inner: t.Node, outer: t.Node): boolean {
  return (inner.start ?? 0) >= (outer.start ?? 0) && (inner.end ?? 0) <= (outer.end ?? 0);
}

/** The fields that a case may change; undefined where any of them may. */
export function changedBy(
  { statements }: ReducerCase,
  cases: ReducerCases,
  given: (key: string) => NodePath | undefined,
): string[] | undefined {
  const fields = new Set<string>();
  let any = false;
  const look = (argument: NodePath): void => {
    if (argument.isIdentifier({ name: cases.state ?? '' })) return;
    if (!argument.isObjectExpression()) {
      any = true;
      return;
    }
    const [first, ...others] = argument.get('properties');
    const keeps = first?.isSpreadElement() === true && t.isIdentifier(first.node.argument, { name: cases.state ?? '' });
    if (!keeps) any = true;
    for (const property of others) {
      const key = property.isObjectProperty() ? nameOfKey(property, cases, given) : undefined;
      if (key === undefined) any = true;
      else fields.add(key);
    }
  };
  for (const statement of statements) {
    if (statement.isReturnStatement()) look(statement.get('argument') as NodePath);
    walk(statement, {
      Function: (inner) => inner.skip(),
      ReturnStatement: (inner) => look(inner.get('argument') as NodePath),
    });
  }
  return any ? undefined : [...fields];
}

function nameOfKey(
  property: NodePath<t.ObjectProperty>,
  cases: ReducerCases,
  given: (key: string) => NodePath | undefined,
): string | undefined {
  const { key, computed } = property.node;
  if (!computed) return t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
  const name = partOf(key, cases);
  const value = name === undefined ? undefined : given(name);
  return value?.isStringLiteral() ? value.node.value : undefined;
}
