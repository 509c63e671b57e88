import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Hole } from '../../form/code.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { plainCode, shorthandKey } from '../code.js';
import { functionOf } from '../components.js';
import { importedFunction } from '../exports.js';
import { importOf } from '../hook-calls.js';
import { actionTypeOf, type ReducerCases } from './cases.js';
import { resolved, type Located } from './held-starts.js';

/** What is needed to say what a dispatch does. */
export interface EffectContext {
  cases: ReducerCases;
  /** The component's file. */
  script: Script;
  load: FormSite['load'];
  slots: readonly string[];
  /** Values that the object lacks until they are set. */
  absent?: readonly string[];
  initialObject: Located | undefined;
  /** Whether an expression is what the form began with, where no object written out says so. */
  isStart?: (path: NodePath) => boolean;
  /** Whether an expression is the values as the component sees them now. */
  isHeld?: (path: NodePath) => boolean;
  /** Constants of a case stay where they are: its statements are kept as a block. */
  keepLocals?: boolean;
  /** The values are null until they are filled, and changes leave null alone. */
  guards?: boolean;
}

/** A value at a dispatch: where it stands, and the names in it that stand for other code. */
export interface Given {
  path: NodePath;
  code: Code;
}

/** The action at a dispatch: its properties by name. */
export interface Action {
  type: string | undefined;
  properties: Map<string, Given>;
  whole: Given | undefined;
}

/** The action that an expression dispatches, or why it cannot be followed. */
export function actionAt(argument: NodePath, context: EffectContext): Action | string {
  const { script } = context;
  if (argument.isObjectExpression()) return actionOf(argument, script, context, []);
  if (argument.isCallExpression()) {
    const callee = argument.get('callee') as NodePath;
    const from = importOf(callee);
    const other = from && importedFunction(from, script, context.load);
    const creator = other?.fn ?? functionOf(callee);
    const body = creator?.get('body') as NodePath | undefined;
    const only = body?.isBlockStatement() && body.get('body').length === 1 ? body.get('body')[0] : undefined;
    const object = only?.isReturnStatement() ? (only.get('argument') as NodePath) : body;
    if (!creator || !object?.isObjectExpression()) return 'the action comes from a call that could not be followed';
    const holes: Hole[] = [];
    for (const [index, parameter] of creator.node.params.entries()) {
      const given = argument.get('arguments')[index];
      if (!t.isIdentifier(parameter) || !given)
        return 'the action creator takes its arguments in a way that could not be followed';
      for (const reference of creator.scope.getBinding(parameter.name)?.referencePaths ?? []) {
        holes.push(givenHole(reference, plainCode(script.file, given), '', needsWrapping(given, reference)));
      }
    }
    return actionOf(object, other?.script ?? script, context, holes);
  }
  const constant = argument.isIdentifier() ? resolved({ path: argument, script }, context.load) : undefined;
  if (constant?.path.isObjectExpression() && constant.script === script)
    return actionOf(constant.path, script, context, []);
  return 'the action is not written where it is dispatched';
}

function actionOf(
  object: NodePath<t.ObjectExpression>,
  script: Script,
  context: EffectContext,
  holes: Hole[],
): Action | string {
  const properties = new Map<string, Given>();
  let type: string | undefined;
  for (const property of object.get('properties')) {
    if (property.isSpreadElement()) return 'another object is spread into the action';
    if (!property.isObjectProperty() || property.node.computed) {
      return context.cases.always && !context.cases.cases.length
        ? { type, properties, whole: { path: object, code: { ...plainCode(script.file, object), holes } } }
        : 'the action has a computed property';
    }
    const { key } = property.node;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : '';
    const value = property.get('value') as NodePath;
    if (name === context.cases.discriminant) type = actionTypeOf(value, script, context.load);
    properties.set(name, { path: value, code: inside({ ...plainCode(script.file, value), holes }) });
  }
  return { type, properties, whole: { path: object, code: inside({ ...plainCode(script.file, object), holes }) } };
}

/** Code with the holes that lie in it. What stands for all of it has no key of a shorthand property in front. */
export function inside(code: Code): Code {
  const holes = code.holes
    .filter((hole) => hole.start >= code.start && hole.end <= code.end)
    .map((hole): Hole => {
      if (hole.start !== code.start || hole.end !== code.end || hole.kind !== 'given') return hole;
      const { shorthand: _key, ...bare } = hole;
      return bare;
    });
  return { ...code, holes };
}

/** A hole for code that is handed over, at the place that asks for it. */
export function givenHole(path: NodePath, code: Code, suffix: string, wrap: boolean): Hole {
  const shorthand = shorthandKey(path);
  return {
    kind: 'given',
    start: path.node.start ?? 0,
    end: path.node.end ?? 0,
    code,
    suffix,
    wrap,
    ...(shorthand === undefined ? {} : { shorthand }),
  };
}

/** Whether code that moves to a place needs parentheses there. */
export function needsWrapping(given: NodePath, place: NodePath): boolean {
  const simple =
    given.isIdentifier() ||
    given.isMemberExpression() ||
    given.isLiteral() ||
    given.isCallExpression() ||
    given.isObjectExpression() ||
    given.isArrayExpression();
  if (simple) return false;
  const parent = place.parentPath;
  if (
    given.isUnaryExpression() &&
    parent?.isBinaryExpression() &&
    parent.node.operator !== '-' &&
    parent.node.operator !== '**'
  )
    return false;
  return Boolean(
    parent?.isBinaryExpression() ||
    parent?.isUnaryExpression() ||
    parent?.isLogicalExpression() ||
    parent?.isMemberExpression() ||
    parent?.isConditionalExpression() ||
    (parent?.isCallExpression() && place.key === 'callee'),
  );
}

/** The member chain on an action or one of its parts: `action.payload.town` gives `payload`, `town`. */
export function actionChain(path: NodePath, cases: ReducerCases): { keys: string[]; chain: NodePath } | undefined {
  if (!path.isIdentifier() || !path.isReferencedIdentifier()) return undefined;
  const binding = path.scope.getBinding(path.node.name);
  const inReducer =
    binding?.scope.path.node === cases.fn.node ||
    binding?.scope.path.findParent((parent) => parent.node === cases.fn.node) !== null;
  if (!binding || !inReducer) return undefined;
  const isAction = path.node.name === cases.action && binding.kind === 'param';
  const part = cases.parts.get(path.node.name);
  if (!isAction && part === undefined) return undefined;
  const keys = isAction ? [] : [part ?? ''];
  let chain: NodePath = path;
  while (
    chain.parentPath?.isMemberExpression() &&
    chain.key === 'object' &&
    !chain.parentPath.node.computed &&
    t.isIdentifier(chain.parentPath.node.property)
  ) {
    const called = chain.parentPath.parentPath.isCallExpression() && chain.parentPath.key === 'callee';
    if (called && keys.length > 0) break;
    keys.push(chain.parentPath.node.property.name);
    chain = chain.parentPath;
  }
  return { keys, chain };
}

/** The value behind the keys of an action, and the members that are left to ask it for. */
export function follow(action: Action, keys: readonly string[]): { given: Given; suffix: string } | undefined {
  const [first, ...rest] = keys;
  let given = first === undefined ? action.whole : action.properties.get(first);
  if (!given) return undefined;
  const left = [...rest];
  while (left.length && given.path.isObjectExpression()) {
    const key = left[0] ?? '';
    const property = given.path
      .get('properties')
      .find((candidate) => candidate.isObjectProperty() && t.isIdentifier(candidate.node.key, { name: key }));
    if (!property?.isObjectProperty()) break;
    const value = property.get('value') as NodePath;
    given = { path: value, code: inside({ ...given.code, start: value.node.start ?? 0, end: value.node.end ?? 0 }) };
    left.shift();
  }
  return { given, suffix: left.map((key) => `.${key}`).join('') };
}
