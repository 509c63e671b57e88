import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code } from '../../form/code.js';
import type { HandOnAllUse, SetAllUse, SetUse, Use } from '../../form/uses.js';
import type { Unclear } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { plainCode, shorthandKey, spanOf } from '../code.js';
import { functionAround, type FunctionPath } from '../components.js';
import { receiverOf } from '../receivers.js';
import { changersOf, referencesTo } from '../state-variables.js';
import {
  dependencyAt,
  dependencyListAround,
  handlerNameAround,
  isUnfollowedMemo,
  mayRepeat,
  readsLatest,
  surroundingOf,
} from '../surroundings.js';
import type { Effect } from './effects.js';
import { isClosed } from './computed-start.js';
import { followNamed } from './handlers.js';
import { isNeverNull, type HeldObject } from './held.js';
import { registeredUses } from './registered-controls.js';
import { isOfCases, stepAt, wholeCases, type Steps } from './steps.js';
import { placeOf, wholeChange } from './whole-change.js';
import { walk } from '../../source/traverse.js';

/** Every use of the object of values, and the handlers that go because their calls are told one by one. */
export function usesOf(
  state: HeldObject,
  site: FormSite,
  submits: readonly FunctionPath[],
  unclear: Unclear[],
): { uses: Use[]; retired: NodePath[]; steps: Steps } {
  const { script } = site;
  const steps: Steps = new Map();
  const { component, variable } = state;
  const uses: Use[] = [];
  const retired: NodePath[] = [];
  const where = (path: NodePath): Use['where'] => surroundingOf(path, component, submits);
  for (const reference of state.stateReferences) {
    if (state.takenOut.some((declarator) => reference.parentPath?.node === declarator.node)) continue;
    uses.push(readUse(reference, state, site, where, unclear));
  }
  for (const { alias, name } of state.slots) {
    if (alias === undefined) continue;
    const binding = component.scope.getBinding(alias);
    for (const reference of binding?.referencePaths ?? []) {
      uses.push({
        kind: 'read',
        field: name,
        key: shorthandKey(reference),
        where: where(reference),
        span: spanOf(script.file, reference),
      });
    }
  }
  uses.push(...registeredUses(state, site));
  const slots = state.slots.map(({ name }) => name);
  const isChange = (call: t.CallExpression): boolean =>
    changersOf(variable).some(({ node }) => t.isIdentifier(call.callee, { name: node.name }));
  const inSettler = (path: NodePath): boolean =>
    variable.settler !== undefined && path.findParent(({ node }) => node === variable.settler?.node) !== null;
  const changing = changersOf(variable)
    .flatMap((one) => referencesTo(one))
    .filter((reference) => !inSettler(reference));
  const wholes = wholeCases(
    changing.flatMap(({ parentPath, key }) => (parentPath?.isCallExpression() && key === 'callee' ? [parentPath] : [])),
    { state, site },
  );
  for (const reference of changing) {
    const call = reference.parentPath;
    const listed = dependencyAt(reference, script.file, where(reference));
    if (listed) {
      uses.push(listed);
      continue;
    }
    const handedWhole = wholeSetter(reference, state, site);
    if (handedWhole) {
      uses.push({ ...handedWhole, where: where(reference) });
      continue;
    }
    if (!call?.isCallExpression() || reference.key !== 'callee') {
      unclear.push({
        span: spanOf(script.file, reference),
        what: variable.change?.node.name ?? 'dispatch',
        why: 'the function that changes the values is handed on',
      });
      continue;
    }
    const handed = handedOn(call, state, site);
    if (handed) {
      uses.push({
        kind: 'hand-on',
        field: handed.field,
        takes: handed.takes,
        typed: handed.typed,
        stable: false,
        shorthand: undefined,
        where: where(reference),
        span: spanOf(script.file, handed.fn),
      });
      continue;
    }
    const effect = state.effectAt(call);
    const open = mayBringMore(call, state, site);
    const trouble =
      effect.kind === 'unclear'
        ? effect.why
        : isStale(call, variable, where(call))
          ? 'it puts back values from before a wait or an earlier change; build it from the previous values first'
          : isOfCases(call, wholes, { state, site })
            ? 'another dispatch of this action is told only as a whole'
            : undefined;
    const asWhole = (why: string): Omit<SetAllUse, 'where'> | undefined =>
      wholeChange(call, why, state, site, isChange) ?? stepAt(call, why, { state, site, steps, isChange });
    const whole = trouble === undefined ? undefined : asWhole(trouble);
    if (whole) {
      uses.push({ ...whole, ...open, where: where(call) });
      continue;
    }
    if (trouble !== undefined || effect.kind === 'unclear') {
      unclear.push({
        span: spanOf(script.file, call),
        what: script.text.slice(call.node.start ?? 0, call.node.end ?? 0),
        why: trouble ?? '',
      });
      continue;
    }
    if (effect.kind === 'merge') {
      uses.push({
        kind: 'set-all',
        code: effect.code,
        merge: true,
        ...open,
        ...placeOf(call, component, script.file, isChange),
        where: where(call),
        span: spanOf(script.file, call),
      });
      continue;
    }
    if (effect.kind === 'named') {
      const followed = followNamed(call, effect, { component, script, candidates: site.candidates, slots, where });
      const [lost] = followed.unclear;
      const carried = lost && asWhole(lost.why);
      if (carried) {
        uses.push({ ...carried, where: where(call) });
        continue;
      }
      uses.push(...followed.uses);
      retired.push(...followed.retired);
      unclear.push(...followed.unclear);
      continue;
    }
    const parent = call.parentPath;
    uses.push({
      kind: 'set',
      assignments: effect.assignments,
      resetsAll: effect.resetsAll,
      ...writtenWhole(call, effect, state, site),
      ...open,
      statement: parent.isExpressionStatement() ? spanOf(script.file, parent) : undefined,
      arrowBody: parent.isArrowFunctionExpression() && call.key === 'body',
      fresh: readsLatest(call, component, isChange),
      // a new object shows the form anew whatever is in it; only the hook’s own setter leaves an equal value alone
      repeats: variable.changers !== undefined && mayRepeat(call, component, () => true),
      called: handlerNameAround(call, component) ?? effect.type,
      where: where(call),
      span: spanOf(script.file, call),
    });
  }
  return { uses, retired, steps };
}

/** Whether an object that is handed to the setter may hold more than the values there are; a type says that it does not. */
function mayBringMore(
  call: NodePath<t.CallExpression>,
  { variable, reducer, type }: HeldObject,
  site: FormSite,
): { open?: boolean } {
  const [argument, ...more] = call.get('arguments') as NodePath[];
  if (type || !argument || more.length) return {};
  if (reducer) return actionBringsMore(argument, site) ? { open: true } : {};
  if (variable.hook !== 'useState') return {};
  const [parameter] = argument.isFunction() ? argument.node.params : [];
  const isKnown = (path: NodePath): boolean => {
    if (!path.isIdentifier()) return false;
    const binding = path.scope.getBinding(path.node.name);
    return binding !== undefined && (binding.identifier === parameter || binding.identifier === variable.value?.node);
  };
  return isClosed({ path: argument, script: site.script }, site.load, isKnown) ? {} : { open: true };
}

/** Whether an action carries an object that may hold anything: a case may lay it over the values. */
function actionBringsMore(action: NodePath, { script, load }: FormSite): boolean {
  if (!action.isObjectExpression()) return false;
  return action.get('properties').some((property) => {
    const value = property.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    const made = value && (value.isObjectExpression() || value.isCallExpression() || value.isFunction());
    if (!value || !(made || isAnObject(value))) return false;
    const closed = value.isFunction()
      ? isClosed(
          { path: value, script },
          load,
          (path) => path.isIdentifier() && path.scope.getBinding(path.node.name)?.scope.path.node === value.node,
        )
      : isClosed({ path: value, script }, load);
    return !closed;
  });
}

/** Whether a name stands for an object, as far as its other uses tell: members are asked of it, or it is spread. */
function isAnObject(path: NodePath): boolean {
  if (!path.isIdentifier()) return false;
  const property = path.parentPath;
  const key = property.isObjectProperty() && t.isIdentifier(property.node.key) ? property.node.key.name : '';
  return /^(values|next|patch|data|form|fields|state|payload|entry|record|draft)$/i.test(key);
}

/** The object that the author hands to the setter for all values together. */
function writtenWhole(
  call: NodePath<t.CallExpression>,
  effect: Extract<Effect, { kind: 'set' }>,
  { variable, reducer }: HeldObject,
  { script }: FormSite,
): Pick<SetUse, 'whole'> {
  const [argument] = call.get('arguments');
  const isWhole = variable.hook === 'useState' && !reducer && effect.replaces === true && !effect.resetsAll;
  if (!isWhole || !argument) return {};
  const code = plainCode(script.file, argument);
  const isGiven = argument.isObjectExpression() || argument.isIdentifier() || argument.isMemberExpression();
  if (isGiven) return { whole: { code, merges: code } };
  return argument.isArrowFunctionExpression() ? { whole: { code, merges: mergedBy(argument, script.file) } } : {};
}

/** What an updater lays over the values before: its object without these, where nothing else in it looks at them. */
function mergedBy(fn: NodePath<t.ArrowFunctionExpression>, file: string): Code | undefined {
  const [parameter] = fn.node.params;
  const object = fn.get('body') as NodePath;
  if (!t.isIdentifier(parameter) || !object.isObjectExpression()) return undefined;
  const [first, second] = object.node.properties;
  const references = fn.scope.getOwnBinding(parameter.name)?.references ?? 0;
  const isFirst = t.isSpreadElement(first) && t.isIdentifier(first.argument, { name: parameter.name });
  if (!isFirst || !second || references !== 1) return undefined;
  const code = plainCode(file, object);
  return { ...code, holes: [{ kind: 'text', start: first.start ?? 0, end: second.start ?? 0, text: '' }] };
}

/** The setter of an object that holds all values, handed on as a value. */
function wholeSetter(
  reference: NodePath,
  { variable, reducer }: HeldObject,
  site: FormSite,
): Omit<HandOnAllUse, 'where'> | undefined {
  const isCalled = reference.parentPath?.isCallExpression() === true && reference.key === 'callee';
  const isSetter = reference.isIdentifier({ name: variable.change?.node.name ?? '' });
  if (isCalled || !isSetter || reducer || variable.changers) return undefined;
  const receiver = receiverOf(site, reference);
  return {
    kind: 'hand-on-all',
    takes: receiver.seen && !receiver.updater ? 'value' : 'updater',
    typed: receiver.typed,
    stable: receiver.stable,
    shorthand: shorthandKey(reference),
    span: spanOf(site.script.file, reference),
  };
}

/** Whether a change spreads values that may be older than what the form holds by then. */
function isStale(call: NodePath<t.CallExpression>, variable: HeldObject['variable'], where: Use['where']): boolean {
  const [given] = call.node.arguments;
  const name = variable.value?.node.name;
  const spreads =
    t.isObjectExpression(given) &&
    given.properties.some((one) => t.isSpreadElement(one) && t.isIdentifier(one.argument, { name: name ?? '' }));
  if (variable.hook !== 'useState' || !spreads) return false;
  if (where === 'callback') return true;
  const here = call.node.start ?? 0;
  const block = call.findParent((parent) => parent.isBlockStatement());
  let stale = false;
  walk(functionAround(call), {
    AwaitExpression(inner) {
      if ((inner.node.start ?? 0) < here) stale = true;
    },
    CallExpression(inner) {
      const again = t.isIdentifier(inner.node.callee, { name: variable.change?.node.name ?? '' });
      const same = inner.findParent((parent) => parent.isBlockStatement())?.node === block?.node;
      if (again && same && (inner.node.start ?? 0) < here) stale = true;
    },
  });
  return stale;
}

/** A function that does nothing but give its argument to one field: a setter by another name. */
function handedOn(
  call: NodePath<t.CallExpression>,
  state: HeldObject,
  site: FormSite,
): { field: string; takes: 'value' | 'updater'; fn: NodePath; typed: boolean } | undefined {
  // a setter of one value takes functions of the previous value as well
  const single = call.node.arguments.length === 2;
  const fn = call.parentPath;
  const [parameter] = fn.isArrowFunctionExpression() ? fn.node.params : [];
  if (
    !fn.isArrowFunctionExpression() ||
    call.key !== 'body' ||
    fn.node.params.length !== 1 ||
    !t.isIdentifier(parameter)
  )
    return undefined;
  const holder = fn.parentPath;
  const opening = holder.isJSXExpressionContainer() ? holder.parentPath.parentPath : undefined;
  // an element's event is no value
  if (opening?.isJSXOpeningElement() && t.isJSXIdentifier(opening.node.name) && /^[a-z]/.test(opening.node.name.name))
    return undefined;
  const argument = call.get('arguments').at(-1);
  const chooses =
    argument?.isConditionalExpression() &&
    t.isBinaryExpression(argument.node.test) &&
    t.isUnaryExpression(argument.node.test.left, { operator: 'typeof' });
  const effect = state.effectAt(call, chooses ? (argument.get('alternate') as NodePath) : argument);
  const only = effect.kind === 'set' && effect.assignments.length === 1 ? effect.assignments[0] : undefined;
  if (only?.value.kind !== 'value') return undefined;
  const text = site.script.text.slice(only.value.code.start, only.value.code.end);
  return text === parameter.name && !only.value.code.holes.length
    ? { field: only.field, takes: chooses || single ? 'updater' : 'value', fn, typed: !parameter.typeAnnotation }
    : undefined;
}

function readUse(
  reference: NodePath,
  state: HeldObject,
  site: FormSite,
  where: (path: NodePath) => Use['where'],
  unclear: Unclear[],
): Use {
  const { script } = site;
  const member = reference.parentPath;
  if (
    (member?.isMemberExpression() || (member?.isOptionalMemberExpression() && isNeverNull(state))) &&
    reference.key === 'object' &&
    !member.node.computed &&
    t.isIdentifier(member.node.property)
  ) {
    const field = member.node.property.name;
    if (!state.slots.some(({ name }) => name === field))
      unclear.push({
        span: spanOf(script.file, member),
        what: `${script.text.slice(member.node.start ?? 0, member.node.end ?? 0)}`,
        why: 'the initial state lacks it',
      });
    const { parentPath } = member;
    if (parentPath.isAssignmentExpression() && member.key === 'left')
      unclear.push({
        span: spanOf(script.file, parentPath),
        what: 'assignment to the state',
        why: 'the state is changed in place',
      });
    const property =
      parentPath.isObjectProperty() && member.key === 'value' && !parentPath.node.computed ? parentPath : undefined;
    const key = t.isIdentifier(property?.node.key) && property.node.key.name === field ? field : undefined;
    return {
      kind: 'read',
      field,
      key,
      where: where(reference),
      span: spanOf(script.file, key === undefined || !property ? member : property),
    };
  }
  const list = dependencyListAround(reference);
  const listed = list !== undefined;
  const pattern = member?.isVariableDeclarator() ? member.node.id : undefined;
  const named =
    (t.isObjectPattern(pattern) && !pattern.properties.some((one) => t.isRestElement(one))) ||
    (member?.isMemberExpression() === true && member.node.computed && reference.key === 'object');
  if (member?.isVariableDeclarator() && !t.isObjectPattern(member.node.id))
    unclear.push({
      span: spanOf(script.file, member),
      what: script.text.slice(member.node.start ?? 0, member.node.end ?? 0),
      why: 'values are taken out of the state in a way that could not be followed',
    });
  return {
    kind: 'read-all',
    where: where(reference),
    span: spanOf(script.file, reference),
    ...(listed ? { listed, memo: isUnfollowedMemo(list) } : {}),
    ...(named ? { named } : {}),
  };
}
