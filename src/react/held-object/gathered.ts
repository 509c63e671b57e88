import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment } from '../../form/uses.js';
import type { Code, Hole } from '../../form/code.js';
import { plainCode } from '../code.js';
import { functionOf } from '../components.js';
import { importedValue } from '../exports.js';
import { importOf } from '../hook-calls.js';
import type { ReducerCases } from './cases.js';
import { objectMade } from './held-starts.js';
import { type EffectContext, type Given, type Action, inside, actionChain, follow } from './actions.js';
import { newValue } from './computed-values.js';

export interface Gathered {
  assignments: Assignment[];
  /** Fields that are given the value they have. */
  unchanged: string[];
  named: { key: Given; value: Given }[];
  base: 'keep' | 'initial' | 'none';
  /** An object whose values take the place of the ones before, whichever it names. */
  merged?: Code;
  /** Constants are spread into the new values. */
  spreads?: boolean;
}

/** The branch that changes the state, where the other one only keeps it because the value is equal. */
function behindGuard(path: NodePath<t.ConditionalExpression>, cases: ReducerCases): NodePath | undefined {
  const { test, consequent, alternate } = path.node;
  const compares =
    (t.isCallExpression(test) &&
      t.isMemberExpression(test.callee) &&
      t.isIdentifier(test.callee.object, { name: 'Object' })) ||
    (t.isBinaryExpression(test) && /^[!=]==$/.test(test.operator));
  if (!compares) return undefined;
  if (t.isIdentifier(consequent, { name: cases.state ?? '' })) return path.get('alternate');
  return t.isIdentifier(alternate, { name: cases.state ?? '' }) ? path.get('consequent') : undefined;
}

/** What is made of a state that may be null still: `state && { … }`, `state ? { … } : state`. */
function whereFilled(path: NodePath, { state = '' }: ReducerCases): NodePath | undefined {
  if (path.isLogicalExpression({ operator: '&&' }) && t.isIdentifier(path.node.left, { name: state }))
    return path.get('right');
  if (!path.isConditionalExpression() || !t.isIdentifier(path.node.test, { name: state })) return undefined;
  const { alternate } = path.node;
  return t.isIdentifier(alternate, { name: state }) || t.isNullLiteral(alternate) ? path.get('consequent') : undefined;
}

/** What a returned object does to the values, or why it cannot be told. */
export function gather(path: NodePath, action: Action, context: EffectContext): Gathered | string {
  const { cases } = context;
  const bare =
    path.isTSAsExpression() || path.isTSSatisfiesExpression() || path.isParenthesizedExpression()
      ? (path.get('expression') as NodePath)
      : path;
  if (bare.isIdentifier({ name: cases.state ?? '' }))
    return { assignments: [], unchanged: [], named: [], base: 'keep' };
  const filled = context.guards ? whereFilled(bare, cases) : undefined;
  if (filled) return gather(filled, action, context);
  const guarded = bare.isConditionalExpression() ? behindGuard(bare, cases) : undefined;
  if (guarded) return gather(guarded, action, context);
  if (isInitial(bare, context)) return { assignments: [], unchanged: [], named: [], base: 'initial' };
  if (!bare.isObjectExpression()) return replaced(bare, action, context);
  const gathered: Gathered = { assignments: [], unchanged: [], named: [], base: 'none' };
  const set = (field: string, value: Assignment['value']): void => {
    gathered.assignments = [...gathered.assignments.filter((known) => known.field !== field), { field, value }];
  };
  for (const property of bare.get('properties')) {
    if (property.isSpreadElement()) {
      const spread = property.get('argument') as NodePath;
      if (spread.isIdentifier({ name: cases.state ?? '' }) || context.isHeld?.(spread)) gathered.base = 'keep';
      else if (isInitial(spread, context)) gathered.base = 'initial';
      else {
        const problem = merge(spread, action, context, gathered, set);
        if (problem !== undefined) return problem;
        gathered.spreads = true;
      }
      continue;
    }
    if (!property.isObjectProperty()) return 'the reducer makes its state with a method';
    const value = property.get('value') as NodePath;
    if (property.node.computed) {
      const problem = dynamic(property.get('key') as NodePath, value, action, context, gathered, set);
      if (problem !== undefined) return problem;
      continue;
    }
    const { key } = property.node;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : '';
    // behind a spread that gives the field another value it is a value like any other
    const given = gathered.assignments.some(({ field }) => field === name);
    if (!given && isOwnValue(value, name, context)) {
      gathered.unchanged.push(name);
      continue;
    }
    const result = newValue(value, action, context);
    if (typeof result === 'string') return result;
    if (givesBack(result, name)) {
      gathered.assignments = gathered.assignments.filter(({ field }) => field !== name);
      gathered.unchanged.push(name);
    } else set(name, result);
  }
  return gathered;
}

/** Whether a field is given the value the component sees for it now: `{ ...blank, town: values.town }`. */
function isOwnValue(value: NodePath, field: string, context: EffectContext): boolean {
  return (
    context.isHeld !== undefined &&
    value.isMemberExpression() &&
    !value.node.computed &&
    t.isIdentifier(value.node.property, { name: field }) &&
    context.isHeld(value.get('object'))
  );
}

/** Whether a new value is nothing but the field's previous one. */
function givesBack(value: Assignment['value'], field: string): boolean {
  if (value.kind !== 'from-previous' || value.block) return false;
  const [only] = value.body.holes;
  return (
    only?.kind === 'previous' && only.field === field && only.start === value.body.start && only.end === value.body.end
  );
}

/** Whether an expression is the state the reducer began with. */
export function isInitial(path: NodePath, context: EffectContext): boolean {
  if (context.isStart?.(path)) return true;
  const object = context.initialObject?.path.node;
  if (!object) return false;
  if (path.isIdentifier()) {
    const declared = path.scope.getBinding(path.node.name)?.path;
    let init: t.Node | null | undefined = declared?.isVariableDeclarator() ? declared.node.init : undefined;
    while (t.isTSAsExpression(init) || t.isTSSatisfiesExpression(init)) init = init.expression;
    if (init === object) return true;
    const from = importOf(path);
    return from !== undefined && importedValue(from, context.cases.script, context.load)?.path.node === object;
  }
  if (!path.isCallExpression()) return false;
  const fn = functionOf(path.get('callee') as NodePath);
  return fn !== undefined && context.initialObject?.path.findParent((parent) => parent.node === fn.node) !== null;
}

/** A value that takes the place of the whole state: what the action brings, member by member. */
function replaced(path: NodePath, action: Action, context: EffectContext): Gathered | string {
  const chain = path.isMemberExpression() || path.isIdentifier() ? rootChain(path, context) : undefined;
  const found = chain ? follow(action, chain.keys) : undefined;
  if (!found || chain?.chain.node !== path.node) return 'the new values are no plain change of the old ones';
  if (!found.given.path.isIdentifier() && !found.given.path.isMemberExpression()) {
    return found.given.path.isObjectExpression()
      ? objectChange(found.given, context, 'none')
      : 'the whole state is replaced by a value that could not be followed';
  }
  const assignments = context.slots.map((field): Assignment => {
    const { code } = found.given;
    const hole: Hole = {
      kind: 'given',
      start: code.start,
      end: code.end,
      code,
      suffix: `${found.suffix}.${field}`,
      wrap: false,
    };
    return { field, value: { kind: 'value', code: { ...code, holes: [hole] } } };
  });
  return { assignments, unchanged: [], named: [], base: 'none' };
}

function rootChain(path: NodePath, context: EffectContext): ReturnType<typeof actionChain> {
  let root: NodePath = path;
  while (root.isMemberExpression()) root = root.get('object');
  return actionChain(root, context.cases);
}

function objectChange(given: Given, context: EffectContext, base: Gathered['base']): Gathered | string {
  const gathered: Gathered = { assignments: [], unchanged: [], named: [], base };
  const problem = mergeObject(given, context, gathered, (field, value) => gathered.assignments.push({ field, value }));
  return problem ?? gathered;
}

type SetField = (field: string, value: Assignment['value']) => void;

function merge(
  spread: NodePath,
  action: Action,
  context: EffectContext,
  gathered: Gathered,
  set: SetField,
): string | undefined {
  const chain = rootChain(spread, context);
  const found = chain && chain.chain.node === spread.node ? follow(action, chain.keys) : undefined;
  if (!found) {
    const problem = mergeConstant(spread, context, set);
    // what a function of the component is given
    if (problem !== undefined && context.isHeld && spread.isIdentifier() && !isOwnName(spread, context)) {
      gathered.merged = plainCode(context.script.file, spread);
      return undefined;
    }
    return problem;
  }
  if (found.suffix !== '') return 'the reducer spreads an object that could not be followed';
  if (found.given.path.isIdentifier() && context.isHeld === undefined) {
    gathered.merged = found.given.code;
    return undefined;
  }
  if (!found.given.path.isObjectExpression())
    return 'the fields that this action changes are not written where it is dispatched';
  return mergeObject(found.given, context, gathered, set);
}

/** Whether a name belongs to the function that computes the new values, so that it has no meaning outside of it. */
function isOwnName(path: NodePath<t.Identifier>, { cases }: EffectContext): boolean {
  const home = path.scope.getBinding(path.node.name)?.scope.path;
  return home !== undefined && home.find((parent) => parent.node === cases.fn.node) !== null;
}

/** Spreads a constant of the module whose members are all values of the form. */
function mergeConstant(spread: NodePath, context: EffectContext, set: SetField): string | undefined {
  const object = objectMade({ path: spread, script: context.script }, context.load).path;
  if (!object.isObjectExpression()) return 'an object is spread that could not be followed';
  const plain = object
    .get('properties')
    .every(({ node }) => t.isObjectProperty(node) && t.isIdentifier(node.key) && context.slots.includes(node.key.name));
  if (!plain) return 'an object is spread that holds more than values of the form';
  const code = plainCode(context.script.file, spread);
  for (const { node } of object.get('properties')) {
    if (!t.isObjectProperty(node) || !t.isIdentifier(node.key)) continue;
    const suffix = `.${node.key.name}`;
    const hole: Hole = { kind: 'given', start: code.start, end: code.end, code, suffix, wrap: false };
    set(node.key.name, { kind: 'value', code: { ...code, holes: [hole] } });
  }
  return undefined;
}

function mergeObject(given: Given, context: EffectContext, gathered: Gathered, set: SetField): string | undefined {
  if (!given.path.isObjectExpression()) return 'not an object';
  for (const property of given.path.get('properties')) {
    if (property.isSpreadElement()) {
      const problem = mergeConstant(property.get('argument') as NodePath, context, set);
      if (problem === undefined) continue;
    }
    if (!property.isObjectProperty()) return 'another object is spread into the values of this action';
    const value = property.get('value') as NodePath;
    const code = inside({ ...given.code, start: value.node.start ?? 0, end: value.node.end ?? 0 });
    const { key } = property.node;
    if (property.node.computed) {
      const keyPath = property.get('key') as NodePath;
      const keyCode = inside({ ...given.code, start: keyPath.node.start ?? 0, end: keyPath.node.end ?? 0 });
      gathered.named.push({ key: { path: keyPath, code: keyCode }, value: { path: value, code } });
      continue;
    }
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : '';
    if (name === context.cases.discriminant && !context.slots.includes(name)) continue;
    if (!context.slots.includes(name)) return `the action sets ${name}, which the initial state lacks`;
    set(name, { kind: 'value', code });
  }
  return undefined;
}

function dynamic(
  key: NodePath,
  value: NodePath,
  action: Action,
  context: EffectContext,
  gathered: Gathered,
  set: SetField,
): string | undefined {
  if (context.isHeld) {
    const given = (path: NodePath): Given => ({ path, code: plainCode(context.script.file, path) });
    gathered.named.push({ key: given(key), value: given(value) });
    return undefined;
  }
  const chain = rootChain(key, context);
  const found = chain && chain.chain.node === key.node ? follow(action, chain.keys) : undefined;
  if (!found || found.suffix !== '') return 'the reducer computes the name of the field it sets';
  if (found.given.path.isStringLiteral()) {
    const result = newValue(value, action, context);
    if (typeof result === 'string') return result;
    set(found.given.path.node.value, result);
    return undefined;
  }
  const valueChain = rootChain(value, context);
  const handed = valueChain && valueChain.chain.node === value.node ? follow(action, valueChain.keys) : undefined;
  if (!handed || handed.suffix !== '') return 'the reducer computes the value of a field whose name it is given';
  gathered.named.push({ key: found.given, value: handed.given });
  return undefined;
}
