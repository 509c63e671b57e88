import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { leftByHand, placeByHand } from '../../form/writing.js';
import type { FormSite, Recognised } from '../approach.js';
import { functionOf } from '../components.js';
import { hookStart, hookStateOf, type HookStart } from '../form-hook/state.js';
import type { HeldObject } from '../held-object/held.js';
import { readHeldObject } from '../held-object/read.js';
import { isReactHook } from '../hook-calls.js';
import { takenMembers } from '../status-variables.js';
import { sendersOf, tableOf } from './sending.js';
import type { CallTable } from './table.js';
import { walk } from '../../source/traverse.js';

/** Finds the values that a package’s hook keeps for a component, where its table tells everything that is taken of it. */
export function packageStateOf(site: FormSite, calls: CallTable): HeldObject | undefined {
  return hookStateOf(site, {
    calls,
    isHook: (call) => tableOf(call) === calls && isTold(call, calls),
    start: (call, at) => startOf(call, at, calls),
  });
}

/** Whether a form stands beside others of its component, and the table tells everything that the package’s hook keeps for those. */
export function isBesideOthers({ component, regions }: FormSite, calls: CallTable): boolean {
  if (regions.length < 2) return false;
  const told: boolean[] = [];
  walk(component.path, {
    CallExpression(call) {
      if (tableOf(call) === calls) told.push(isTold(call, calls));
    },
  });
  return told.length > 0 && told.every(Boolean);
}

/** A form whose values a package’s hook keeps. */
export function packageForm(site: FormSite, state: HeldObject, { approach, hook }: CallTable): Recognised {
  return {
    fields: state.fields.map(({ name }) => name),
    read: () => readHeldObject(site, state, approach),
    leave: {
      to: 'object-state',
      write: (model, context) =>
        leftByHand(
          model.declarations.map(({ span }) => placeByHand(span, context, `the way out of ${hook} is not covered yet`)),
        ),
    },
  };
}

/** Whether the table says what each member and each option of a call means. */
function isTold(call: NodePath<t.CallExpression>, calls: CallTable): boolean {
  const { shown, looksBack, sends } = calls;
  const members = [
    shown.by === 'store' ? 'store' : shown.member,
    calls.one,
    calls.all,
    calls.reset,
    calls.registers,
    looksBack?.by === 'call' ? looksBack.member : undefined,
    ...sendersOf(calls),
  ];
  const options = [calls.start, sends?.by === 'option' ? sends.option : undefined];
  const [given] = call.node.arguments;
  const known =
    t.isObjectExpression(given) &&
    given.properties.every(
      (one) =>
        (t.isObjectProperty(one) || t.isObjectMethod(one)) && t.isIdentifier(one.key) && options.includes(one.key.name),
    );
  return (
    known &&
    [...takenMembers(call).keys()].every((member) => members.includes(member)) &&
    isPlainlyRegistered(call, calls) &&
    sendsByItself(call, calls)
  );
}

/** References to what a component calls a member. */
function referencesOf(call: NodePath<t.CallExpression>, member: string | undefined): NodePath[] {
  const local = takenMembers(call).get(member ?? '');
  return local === undefined ? [] : (call.scope.getBinding(local)?.referencePaths ?? []);
}

/** Whether attributes are taken by the names of fields alone: `{...register('town')}`. */
function isPlainlyRegistered(call: NodePath<t.CallExpression>, { registers }: CallTable): boolean {
  return referencesOf(call, registers).every(({ parentPath: made, key }) => {
    if (key !== 'callee' || !made?.isCallExpression()) return false;
    const [name, ...options] = made.node.arguments;
    return (
      t.isStringLiteral(name) && !name.value.includes('.') && !options.length && made.parentPath.isJSXSpreadAttribute()
    );
  });
}

/** Whether what sends asks the component for the values, rather than takes them from the hook. */
function sendsByItself(call: NodePath<t.CallExpression>, { sends }: CallTable): boolean {
  const asksNothing = (path: NodePath | undefined): boolean =>
    path !== undefined && functionOf(path)?.node.params.length === 0;
  if (sends?.by === 'member')
    return referencesOf(call, sends.member).every(
      ({ parentPath: made, key }) =>
        key === 'callee' && made?.isCallExpression() === true && asksNothing(made.get('arguments')[0]),
    );
  const [options] = call.get('arguments');
  const given = sends && options ? memberNamed(options, sends.option) : undefined;
  return given === undefined || asksNothing(given);
}

/** What a form begins as, by the option of its hook. */
function startOf(call: NodePath<t.CallExpression>, site: FormSite, { start }: CallTable): HookStart | undefined {
  const [options] = call.get('arguments') as (NodePath | undefined)[];
  const given = options && start !== undefined ? memberNamed(options, start) : undefined;
  if (!given) return undefined;
  const written = call.node.typeParameters?.params[0];
  const kept = keptFirst(given);
  return kept ? hookStart(kept.first, kept.written ?? written, site) : hookStart(given, written, site);
}

/** What a state variable began as that keeps the first values: `const [start] = useState(() => …)`. */
function keptFirst(path: NodePath): { first: NodePath | undefined; written: t.TSType | undefined } | undefined {
  const declared = path.isIdentifier() ? path.scope.getBinding(path.node.name)?.path : undefined;
  const call = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  if (!call?.isCallExpression() || !isReactHook(call, 'useState')) return undefined;
  return {
    first: call.get('arguments')[0] as NodePath | undefined,
    written: call.node.typeParameters?.params[0] as t.TSType | undefined,
  };
}
