import type { Binding, NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment, Code, Hole } from '../../form/model.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { expressionTypes } from '../../source/expression-types.js';
import { capturedHoles, plainCode, shorthandKey } from '../code.js';
import { functionOf } from '../components.js';
import { exportedFunction } from '../exports.js';
import { importOf } from '../hook-calls.js';
import { actionTypeOf, casesOf, type ReducerCase, type ReducerCases } from './cases.js';
import { resolved, type Located } from './held.js';

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
  /** Whether an expression is the values as the component sees them now. */
  isHeld?: (path: NodePath) => boolean;
  /** Constants of a case stay where they are: its statements are kept as a block. */
  keepLocals?: boolean;
}

/** A value at a dispatch: where it stands, and the names in it that stand for other code. */
interface Given {
  path: NodePath;
  code: Code;
}

/** What a dispatch does to the values of a reducer. */
export type Effect =
  | { kind: 'set'; assignments: Assignment[]; resetsAll: boolean; type: string | undefined }
  | { kind: 'named'; key: Given; value: Given; rest: Assignment[]; type: string | undefined }
  /** Values of an object that is handed over, whichever it names, take the place of the ones before. */
  | { kind: 'merge'; code: Code; type: string | undefined }
  | { kind: 'unclear'; why: string };

const unclear = (why: string): Effect => ({ kind: 'unclear', why });

/** The action at a dispatch: its properties by name. */
interface Action {
  type: string | undefined;
  properties: Map<string, Given>;
  whole: Given | undefined;
}

function actionAt(argument: NodePath, context: EffectContext): Action | string {
  const { script } = context;
  if (argument.isObjectExpression()) return actionOf(argument, script, context, []);
  if (argument.isCallExpression()) {
    const callee = argument.get('callee') as NodePath;
    const from = importOf(callee);
    const other = from?.module.startsWith('.') ? context.load(script.file, from.module) : undefined;
    const creator = from && other ? exportedFunction(other, from.name) : functionOf(callee);
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
    return actionOf(object, other ?? script, context, holes);
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
function inside(code: Code): Code {
  const holes = code.holes
    .filter((hole) => hole.start >= code.start && hole.end <= code.end)
    .map((hole): Hole => {
      if (hole.start !== code.start || hole.end !== code.end || hole.kind !== 'given') return hole;
      const { shorthand: _key, ...bare } = hole;
      return bare;
    });
  return { ...code, holes };
}

function givenHole(path: NodePath, code: Code, suffix: string, wrap: boolean): Hole {
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
function needsWrapping(given: NodePath, place: NodePath): boolean {
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
function actionChain(path: NodePath, cases: ReducerCases): { keys: string[]; chain: NodePath } | undefined {
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
function follow(action: Action, keys: readonly string[]): { given: Given; suffix: string } | undefined {
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

interface Computed {
  code: Code;
  reads: string[];
}

/** What an expression of the reducer is at a dispatch: its text with the places that stand for other code. */
/** A computed name that turns out to be known: `[action.name]: …` is `town: …`. */
function plainKey(chain: NodePath, found: NonNullable<ReturnType<typeof follow>>, source: string): Hole | undefined {
  const { node } = found.given.path;
  if (found.suffix !== '' || !t.isStringLiteral(node) || !/^[A-Za-z_$][\w$]*$/.test(node.value)) return undefined;
  const holder = chain.parentPath;
  if (holder?.isObjectProperty() && chain.key === 'key' && holder.node.computed) {
    const end = source.indexOf(']', chain.node.end ?? 0) + 1;
    return { kind: 'text', start: holder.node.start ?? 0, end, text: node.value };
  }
  if (holder?.isMemberExpression() && chain.key === 'property' && holder.node.computed)
    return { kind: 'text', start: holder.node.object.end ?? 0, end: holder.node.end ?? 0, text: `.${node.value}` };
  return undefined;
}

function computed(
  root: NodePath,
  action: Action,
  context: EffectContext,
  skip: readonly t.Node[] = [],
): Computed | string {
  const { cases } = context;
  // a value that the component computes by itself stands as it is
  if (context.isHeld && cases.state === undefined) return { code: plainCode(context.script.file, root), reads: [] };
  const holes: Hole[] = [];
  const reads = new Set<string>();
  let trouble: string | undefined;
  const visit = (path: NodePath): void => {
    if (!path.isIdentifier() || !path.isReferencedIdentifier()) return;
    if (skip.length && path.find((parent) => skip.includes(parent.node))) return;
    const place = (node: t.Node): { start: number; end: number } => ({ start: node.start ?? 0, end: node.end ?? 0 });
    const binding = path.scope.getBinding(path.node.name);
    if (path.node.name === cases.state && binding?.scope.path.node === cases.fn.node) {
      const member = path.parentPath;
      if (
        !member.isMemberExpression() ||
        member.node.computed ||
        !t.isIdentifier(member.node.property) ||
        path.key !== 'object'
      ) {
        trouble = 'the reducer uses its whole state to compute a value';
        return;
      }
      reads.add(member.node.property.name);
      holes.push({ kind: 'previous', ...place(member.node), field: member.node.property.name });
      return;
    }
    const chain = actionChain(path, cases);
    if (chain) {
      const found = follow(action, chain.keys);
      if (!found) {
        if (chain.chain.node === root.node) holes.push({ kind: 'text', ...place(root.node), text: 'undefined' });
        else trouble = `the action lacks ${chain.keys.join('.')}`;
        return;
      }
      const named = plainKey(chain.chain, found, cases.script.text);
      if (named) {
        holes.push(named);
        return;
      }
      holes.push(
        givenHole(
          chain.chain,
          found.given.code,
          found.suffix,
          needsWrapping(found.given.path, chain.chain) ||
            (found.suffix !== '' && !found.given.path.isIdentifier() && !found.given.path.isMemberExpression()),
        ),
      );
      return;
    }
    const local = binding?.path;
    if (
      binding &&
      local?.isVariableDeclarator() &&
      !binding.scope.path.isProgram() &&
      binding.scope.path.node !== root.node
    ) {
      const isCaseLocal =
        local.findParent((parent) => parent.node === cases.fn.node) !== null &&
        !root.findParent((parent) => parent.node === local.node);
      const declaredOutside =
        context.keepLocals !== true && local.findParent((parent) => parent.node === root.node) === null;
      if (isCaseLocal && declaredOutside && t.isIdentifier(local.node.id) && local.node.init && binding.constant) {
        const init = local.get('init') as NodePath;
        const inner = computed(init, action, context);
        if (typeof inner === 'string') trouble = inner;
        else {
          for (const read of inner.reads) reads.add(read);
          holes.push(givenHole(path, inner.code, '', needsWrapping(init, path)));
        }
        return;
      }
      if (isCaseLocal && declaredOutside)
        trouble = `the reducer computes ${path.node.name} in a way that could not be followed`;
      return;
    }
    if (binding?.scope.path.isProgram() && context.script.file !== cases.script.file)
      trouble = `the reducer's file has ${path.node.name}, which the component does not`;
  };
  visit(root);
  root.traverse({ Identifier: visit });
  if (trouble !== undefined) return trouble;
  // the key of a shorthand property is no part of the value itself
  for (const hole of holes)
    if (hole.start === root.node.start && hole.end === root.node.end && 'shorthand' in hole) delete hole.shorthand;
  const ordered = holes
    .sort((a, b) => a.start - b.start)
    .filter((hole, index, all) => index === 0 || hole.start >= (all[index - 1]?.end ?? 0));
  return { code: { ...plainCode(cases.script.file, root), holes: ordered }, reads: [...reads] };
}

/** The new value of a field: what the dispatch hands over, or what the reducer computes. */
function newValue(path: NodePath, action: Action, context: EffectContext): Assignment['value'] | string {
  const result = computed(path, action, context);
  if (typeof result === 'string') return result;
  const { code, reads } = result;
  const only = code.holes.length === 1 ? code.holes[0] : undefined;
  if (only?.kind === 'given' && only.start === code.start && only.end === code.end && only.suffix === '')
    return { kind: 'value', code: only.code };
  const moved = context.isHeld ? withCaptured(path, code, context) : code;
  if (reads.length)
    return { kind: 'from-previous', body: moved, block: false, reads, parameter: undefined, whole: undefined };
  return { kind: 'value', code };
}

/** Code of an updater, with the names of its surroundings that have to come along when it moves. */
function withCaptured(path: NodePath, code: Code, context: EffectContext): Code {
  const inUpdater = (binding: Binding): boolean =>
    binding.scope.path.node === context.cases.fn.node ||
    binding.scope.path.findParent((parent) => parent.node === context.cases.fn.node) !== null;
  const captured = capturedHoles(path, inUpdater, expressionTypes(context.script));
  const free = captured.filter((hole) => !code.holes.some((known) => known.start < hole.end && hole.start < known.end));
  return { ...code, holes: [...code.holes, ...free].sort((a, b) => a.start - b.start) };
}

interface Gathered {
  assignments: Assignment[];
  /** Fields that are given the value they have. */
  unchanged: string[];
  named: { key: Given; value: Given }[];
  base: 'keep' | 'initial' | 'none';
  /** An object whose values take the place of the ones before, whichever it names. */
  merged?: Code;
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

function gather(path: NodePath, action: Action, context: EffectContext): Gathered | string {
  const { cases } = context;
  const bare =
    path.isTSAsExpression() || path.isTSSatisfiesExpression() || path.isParenthesizedExpression()
      ? (path.get('expression') as NodePath)
      : path;
  if (bare.isIdentifier({ name: cases.state ?? '' }))
    return { assignments: [], unchanged: [], named: [], base: 'keep' };
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
    if (isOwnValue(value, name, context)) {
      gathered.unchanged.push(name);
      continue;
    }
    const result = newValue(value, action, context);
    if (typeof result === 'string') return result;
    if (givesBack(result, name)) gathered.unchanged.push(name);
    else set(name, result);
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
function isInitial(path: NodePath, context: EffectContext): boolean {
  const object = context.initialObject?.path.node;
  if (!object) return false;
  if (path.isIdentifier()) {
    const declared = path.scope.getBinding(path.node.name)?.path;
    let init: t.Node | null | undefined = declared?.isVariableDeclarator() ? declared.node.init : undefined;
    while (t.isTSAsExpression(init) || t.isTSSatisfiesExpression(init)) init = init.expression;
    if (init === object) return true;
    const from = importOf(path);
    const other = from?.module.startsWith('.') ? context.load(context.cases.script.file, from.module) : undefined;
    let value: t.Node | undefined = from && other ? declaredNode(other, from.name) : undefined;
    while (t.isTSAsExpression(value) || t.isTSSatisfiesExpression(value)) value = value.expression;
    return value === object;
  }
  if (!path.isCallExpression()) return false;
  const fn = functionOf(path.get('callee') as NodePath);
  return fn !== undefined && context.initialObject?.path.findParent((parent) => parent.node === fn.node) !== null;
}

function declaredNode(script: Script, name: string): t.Node | undefined {
  const declared = script.program.scope.getBinding(name)?.path;
  return declared?.isVariableDeclarator() ? (declared.node.init ?? undefined) : undefined;
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
  const object = spread.isIdentifier() ? resolved({ path: spread, script: context.script }, context.load).path : spread;
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

/** Whether each constant of a statement is used in one place, so that its value can stand there. */
function usedOnce(statement: NodePath<t.VariableDeclaration>): boolean {
  return Object.keys(t.getBindingIdentifiers(statement.node)).every(
    (name) => (statement.scope.getBinding(name)?.references ?? 0) <= 2,
  );
}

/** The one expression that a case returns; undefined where it decides between several. */
function returnedBy(found: ReducerCase): NodePath | undefined {
  const last = found.statements.at(-1);
  const before = found.statements.slice(0, -1);
  if (
    !before.every((statement) => statement.isVariableDeclaration() && usedOnce(statement)) ||
    !last?.isReturnStatement() ||
    !last.node.argument
  )
    return undefined;
  return last.get('argument') as NodePath;
}

/**
 * Says what a call of the dispatch function does to the reducer's values.
 * @param call the call, in the component
 * @param argument the action, where it is a part of what is dispatched
 */
export function dispatchEffect(
  call: NodePath<t.CallExpression>,
  context: EffectContext,
  argument: NodePath | undefined = call.get('arguments')[0],
): Effect {
  if (!argument) return unclear('nothing is dispatched');
  const { cases } = context;
  const action = actionAt(argument, context);
  if (typeof action === 'string') return unclear(action);
  const found = cases.cases.find((candidate) => candidate.types.includes(action.type ?? ''));
  if (cases.cases.length && action.type === undefined) return unclear('the action has no type that could be told');
  // an action without a case of its own gets what the reducer returns in the end
  const returned = found ? returnedBy(found) : cases.always;
  if (!returned)
    return found
      ? conditional(found, action, context)
      : unclear(`the reducer has no case for ${action.type ?? 'this action'}`);
  const gathered = gather(returned, action, context);
  if (typeof gathered === 'string') return unclear(gathered);
  return effectOf(gathered, action.type, context);
}

/**
 * Says what a call of `useState`'s setter does to the values of the object it holds.
 * @param call the call, in the component
 */
export function changeEffect(call: NodePath<t.CallExpression>, context: EffectContext): Effect {
  const [argument, ...more] = call.get('arguments');
  if (!argument || more.length) return unclear('the setter is not given one value');
  const action: Action = { type: undefined, properties: new Map(), whole: undefined };
  if (argument.isArrowFunctionExpression() || argument.isFunctionExpression()) {
    const cases = casesOf(argument, context.script, context.load);
    const own = { ...context, cases };
    const body = argument.get('body') as NodePath;
    if (!body.isBlockStatement()) return gatheredEffect(gather(body, action, own), own);
    const found: ReducerCase = { types: [], statements: body.get('body') };
    const returned = returnedBy(found);
    // statements with comments move as they are, so that nothing is lost
    const told = (context.script.ast.comments ?? []).some(
      (comment) =>
        (comment.start ?? 0) >= (body.node.start ?? 0) &&
        (comment.end ?? 0) <= (body.node.end ?? 0) &&
        !(
          returned &&
          (comment.start ?? 0) >= (returned.node.start ?? 0) &&
          (comment.end ?? 0) <= (returned.node.end ?? 0)
        ),
    );
    return returned && !told ? gatheredEffect(gather(returned, action, own), own) : conditional(found, action, own);
  }
  if (argument.isIdentifier() || argument.isMemberExpression()) {
    if (isInitial(argument, context))
      return gatheredEffect({ assignments: [], unchanged: [], named: [], base: 'initial' }, context);
    return gatheredEffect(memberwise(argument, context), context);
  }
  return gatheredEffect(gather(argument as NodePath, action, context), context);
}

/** Every value taken from an object that is handed over whole. */
function memberwise(path: NodePath, context: EffectContext): Gathered {
  const code = plainCode(context.script.file, path);
  const assignments = context.slots.map((field): Assignment => {
    const hole: Hole = { kind: 'given', start: code.start, end: code.end, code, suffix: `.${field}`, wrap: false };
    return { field, value: { kind: 'value', code: { ...code, holes: [hole] } } };
  });
  return { assignments, unchanged: [], named: [], base: 'none' };
}

function gatheredEffect(gathered: Gathered | string, context: EffectContext): Effect {
  return typeof gathered === 'string' ? unclear(gathered) : effectOf(gathered, undefined, context);
}

function effectOf(gathered: Gathered, type: string | undefined, context: EffectContext): Effect {
  const { slots } = context;
  const assignments = gathered.assignments.filter(({ field }) => slots.includes(field));
  if (assignments.length < gathered.assignments.length)
    return unclear('the reducer sets a value that the initial state lacks');
  const named = new Set([...assignments.map(({ field }) => field), ...gathered.unchanged]);
  // `{}` is how an object begins that lacks everything
  if (
    gathered.base === 'none' &&
    !gathered.named.length &&
    !named.size &&
    slots.every((slot) => context.absent?.includes(slot))
  )
    return effectOf({ ...gathered, base: 'initial' }, type, context);
  if (gathered.base === 'none' && !gathered.named.length && slots.some((slot) => !named.has(slot)))
    return unclear('the new state lacks some of the values');
  const initial =
    gathered.base === 'initial'
      ? slots.filter((slot) => !named.has(slot)).map((field): Assignment => ({ field, value: { kind: 'initial' } }))
      : [];
  const all = [...initial, ...assignments].sort((a, b) => slots.indexOf(a.field) - slots.indexOf(b.field));
  const first = gathered.named[0];
  if (gathered.merged) {
    return gathered.base === 'keep' && !first && !all.length && !gathered.unchanged.length
      ? { kind: 'merge', code: gathered.merged, type }
      : unclear('an object of values is spread beside other changes');
  }
  if (!first) return { kind: 'set', assignments: all, resetsAll: gathered.base === 'initial' && !named.size, type };
  if (gathered.named.length > 1) return unclear('one action sets several fields whose names are computed');
  return { kind: 'named', ...first, rest: all, type };
}

/** A case that decides between values of one field: it becomes an update from the previous value. */
function conditional(found: ReducerCase, action: Action, outer: EffectContext): Effect {
  const context: EffectContext = { ...outer, keepLocals: true };
  const first = found.statements[0];
  const last = found.statements.at(-1);
  if (!first || !last) return unclear('the case is empty');
  const returns: { path: NodePath; gathered: Gathered }[] = [];
  let trouble: string | undefined;
  const visit = (statement: NodePath<t.ReturnStatement>): void => {
    const argument = statement.get('argument') as NodePath;
    const gathered = argument.node ? gather(argument, action, context) : 'a return without a value';
    if (typeof gathered === 'string') trouble = gathered;
    else returns.push({ path: argument, gathered });
  };
  for (const statement of found.statements) {
    if (statement.isReturnStatement()) visit(statement);
    statement.traverse({ Function: (inner) => inner.skip(), ReturnStatement: visit });
  }
  if (trouble !== undefined) return unclear(trouble);
  const fields = new Set(returns.flatMap(({ gathered }) => gathered.assignments.map(({ field }) => field)));
  const [field] = fields;
  if (
    fields.size !== 1 ||
    field === undefined ||
    returns.some(({ gathered }) => gathered.base !== 'keep' || gathered.named.length)
  ) {
    return unclear('this case of the reducer decides between changes of several fields');
  }
  const holes: Hole[] = [];
  const reads = new Set<string>([field]);
  for (const { path, gathered } of returns) {
    const value = gathered.assignments[0]?.value;
    const start = path.node.start ?? 0;
    const end = path.node.end ?? 0;
    const code =
      value?.kind === 'from-previous'
        ? value.body
        : value?.kind === 'value'
          ? value.code
          : { ...plainCode(context.cases.script.file, path), start, end: start };
    if (value?.kind === 'from-previous') for (const read of value.reads) reads.add(read);
    const plain = value?.kind === 'value' && context.isHeld !== undefined;
    const given = plain ? withCaptured(path, code, context) : code;
    holes.push({ kind: 'returned', start, end, value: inside(given), unchanged: value === undefined });
  }
  for (const statement of found.statements) {
    const inner = computed(
      statement,
      action,
      context,
      returns.map(({ path }) => path.node),
    );
    if (typeof inner === 'string') return unclear(inner);
    for (const read of inner.reads) reads.add(read);
    const own = context.isHeld ? withCaptured(statement, inner.code, context) : inner.code;
    for (const hole of own.holes)
      if (!holes.some((outer) => hole.start >= outer.start && hole.end <= outer.end)) holes.push(hole);
  }
  const comment = context.isHeld ? first.node.leadingComments?.[0]?.start : undefined;
  const body: Code = {
    file: context.cases.script.file,
    start: comment ?? first.node.start ?? 0,
    end: last.node.end ?? 0,
    holes: holes.sort((a, b) => a.start - b.start),
  };
  return {
    kind: 'set',
    assignments: [
      {
        field,
        value: { kind: 'from-previous', body, block: true, reads: [...reads], parameter: undefined, whole: undefined },
      },
    ],
    resetsAll: false,
    type: action.type,
  };
}
