import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { expressionTypes } from '../../source/expression-types.js';
import type { FormSite } from '../approach.js';
import { plainCode, updaterValue } from '../code.js';
import { bodyOf, functionOf } from '../components.js';
import { importedFunction } from '../exports.js';
import { calledImport } from '../hook-calls.js';
import { casesOf } from '../held-object/cases.js';
import { computedStart } from '../held-object/computed-start.js';
import { changeEffect, type Effect } from '../held-object/effects.js';
import { describeHeld, type Beginning, type HeldObject } from '../held-object/held.js';
import { initialObjectAt, type Slot } from '../held-object/held-starts.js';
import type { StateVariable } from '../state-variables.js';
import { ownCalls, type CallTable } from '../calls/table.js';
import type { Hole } from '../../form/code.js';
import type { NewValue } from '../../form/uses.js';
import { walk } from '../../source/traverse.js';

/** The names under which a component takes what the form's hook gives. */
interface Taken {
  declarator: NodePath<t.VariableDeclarator>;
  call: NodePath<t.CallExpression>;
  names: Map<string, NodePath<t.Identifier>>;
}

/** What tells the call of a hook from any other, and what its members mean. */
export interface HookSight {
  calls: CallTable;
  isHook(call: NodePath<t.CallExpression>, site: FormSite): boolean;
  /** What a form begins as, by the call of the hook; undefined where the call says nothing. */
  start(call: NodePath<t.CallExpression>, site: FormSite): HookStart | undefined;
  /** Whether another expression stands for what a form begins as. */
  isStart?(path: NodePath): boolean;
}

/** The sight of a hook that stands in a file of the project, by what tells that file. */
export function madeHook(mark: string, start: HookSight['start'] = startOf): HookSight {
  return {
    calls: ownCalls,
    start,
    isHook(call, { script, load }) {
      const from = calledImport(call);
      return (from && importedFunction(from, script, load)?.script)?.text.includes(mark) === true;
    },
  };
}

function takenFrom(
  declarator: NodePath<t.VariableDeclarator>,
  site: FormSite,
  { isHook }: HookSight,
): Taken | undefined {
  const call = declarator.get('init') as NodePath;
  const pattern = declarator.get('id') as NodePath;
  if (!call.node || !call.isCallExpression() || !pattern.isObjectPattern() || !isHook(call, site)) return undefined;
  const names = new Map<string, NodePath<t.Identifier>>();
  for (const property of pattern.get('properties')) {
    if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) return undefined;
    const value = property.get('value') as NodePath;
    if (!value.isIdentifier()) return undefined;
    names.set(property.node.key.name, value);
  }
  return { declarator, call, names };
}

/** The variables that are declared in the same block as another one. */
function declaratorsBeside({ parentPath }: NodePath<t.VariableDeclarator>): NodePath<t.VariableDeclarator>[] {
  const block = parentPath.parentPath;
  const statements = block?.isBlockStatement() ? block.get('body') : [];
  return statements.flatMap((one) => (one.isVariableDeclaration() ? one.get('declarations') : []));
}

/** Where a component keeps the values that its hook tells: a name, or a pattern that takes them apart. */
function shownAt(taken: Taken, { calls }: HookSight): NodePath | undefined {
  const { shown } = calls;
  if (shown.by === 'member') return taken.names.get(shown.member);
  for (const declarator of declaratorsBeside(taken.declarator)) {
    const call = declarator.get('init') as NodePath;
    if (call.node && call.isCallExpression() && asksValues(call, taken, shown)) return declarator.get('id') as NodePath;
  }
  return undefined;
}

/** The component’s own function that sets several values at once, by the member that puts all to given ones. */
function settlerOf({ declarator, names }: Taken, calls: CallTable): NodePath<t.Identifier> | undefined {
  const reset = names.get(calls.reset)?.node.name;
  for (const one of declaratorsBeside(declarator)) {
    const id = one.get('id') as NodePath;
    const { init } = one.node;
    if (!id.isIdentifier() || !t.isArrowFunctionExpression(init) || !t.isCallExpression(init.body)) continue;
    const { callee, arguments: given } = init.body;
    if (t.isIdentifier(callee, { name: reset ?? '' }) && given.length === 2) return id;
  }
  return undefined;
}

/** Whether a call asks for all values: `watch()`, or `useStore(store, ({ values }) => values)`. */
function asksValues(
  call: NodePath<t.CallExpression>,
  { names }: Taken,
  shown: Exclude<CallTable['shown'], { by: 'member' }>,
): boolean {
  const [first, second, ...more] = call.node.arguments;
  if (shown.by === 'call') {
    const member = names.get(shown.member);
    return member !== undefined && !first && t.isIdentifier(call.node.callee, { name: member.node.name });
  }
  const store = names.get('store')?.node.name;
  if (calledImport(call)?.name !== shown.hook || more.length || store === undefined) return false;
  if (!t.isIdentifier(first, { name: store }) || !t.isArrowFunctionExpression(second)) return false;
  const { body, params } = second;
  if (t.isMemberExpression(body)) return t.isIdentifier(body.property, { name: 'values' });
  return t.isObjectPattern(params[0]) && t.isIdentifier(body, { name: 'values' });
}

/** What a form begins as, by the arguments of its hook. */
export interface HookStart extends Pick<Beginning, 'object' | 'once' | 'value' | 'type' | 'untold'> {
  /** Values with what each begins as, where no object holds them. */
  slots?: Slot[];
}

/** What the argument of the hook for values says. */
function startOf(call: NodePath<t.CallExpression>, site: FormSite): HookStart {
  const [first] = call.get('arguments') as (NodePath | undefined)[];
  return hookStart(first, call.node.typeParameters?.params[0], site);
}

/**
 * What a form begins as that is given to a hook: an object, an expression for all values, or a function called once.
 * @param written the type that is written for the values
 */
export function hookStart(first: NodePath | undefined, written: t.Node | undefined, site: FormSite): HookStart {
  const { script } = site;
  const lazy = first && (first.isFunction() || (first.isIdentifier() && functionOf(first) !== undefined));
  const begins = lazy ? initialObjectAt(undefined, first, site) : initialObjectAt(first, undefined, site);
  const holder = begins.object?.path.parentPath;
  const id = holder?.isVariableDeclarator() ? holder.node.id : undefined;
  const type = written
    ? { node: written, script }
    : begins.object && t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation)
      ? { node: id.typeAnnotation.typeAnnotation, script: begins.object.script }
      : undefined;
  const value = lazy ? undefined : first;
  if (begins.object) return { ...begins, value, type };
  const worked = computedStart(first, type, site);
  return { ...begins, ...(worked ? { slots: worked.slots, untold: worked.whole } : {}), value, type };
}

/** Finds the values that a form's hook keeps for a component. */
export function hookStateOf(site: FormSite, sight: HookSight): HeldObject | undefined {
  const { component, script, load } = site;
  const { calls } = sight;
  const body = component.kind === 'function' ? bodyOf(component) : undefined;
  if (component.kind !== 'function' || !body) return undefined;
  const found: HeldObject[] = [];
  for (const statement of body.get('body')) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const taken = takenFrom(declarator, site, sight);
      if (!taken) continue;
      const named = (member: string | undefined): NodePath<t.Identifier> | undefined =>
        member === undefined ? undefined : taken.names.get(member);
      const settler = calls.all === undefined ? settlerOf(taken, calls) : undefined;
      const changers = [
        ...[calls.one, calls.all, calls.reset].flatMap((name) => named(name) ?? []),
        ...(settler ? [settler] : []),
      ];
      const shown = shownAt(taken, sight);
      const variable: StateVariable = {
        hook: 'useState',
        value: shown?.isIdentifier() ? shown : undefined,
        valuePattern: shown?.isObjectPattern() ? shown : undefined,
        change: named(calls.all) ?? settler ?? changers[0],
        changers,
        settler: settler?.parentPath ?? undefined,
        registers: named(calls.registers),
        call: taken.call,
        declarator,
        declaration: statement,
      };
      const begins = sight.start(taken.call, site);
      if (!begins) continue;
      const state = describeHeld(site, component.path, variable, {
        ...begins,
        reducer: undefined,
        effects: ({ slots, absent, object, stateBinding }) => {
          const cases = { ...casesOf(component.path, script, load), state: undefined, action: undefined, cases: [] };
          const isHeld = (path: NodePath): boolean =>
            path.isIdentifier() && stateBinding !== undefined && path.scope.getBinding(path.node.name) === stateBinding;
          const isCalled = (call: NodePath<t.CallExpression>, member: string): boolean =>
            t.isIdentifier(call.node.callee, { name: taken.names.get(member)?.node.name ?? '' });
          return (call) => {
            if (isCalled(call, calls.reset)) return resetEffect(call, slots);
            if (isCalled(call, calls.one)) return oneEffect(call, site, named(askedBy(calls))?.node.name);
            const isStart = sight.isStart ?? ((): boolean => false);
            const known = { cases, script, load, slots, absent, initialObject: object, isHeld, isStart };
            return changeEffect(call, known);
          };
        },
      });
      if (state) found.push(state);
    }
  }
  return found.sort((a, b) => b.bound.length - a.bound.length)[0];
}

function askedBy({ looksBack }: CallTable): string | undefined {
  return looksBack?.by === 'call' ? looksBack.member : undefined;
}

function resetEffect({ node }: NodePath<t.CallExpression>, slots: readonly string[]): Effect {
  if (node.arguments.length) return { kind: 'unclear', why: 'it is given what the form is put back to' };
  const assignments = slots.map((field) => ({ field, value: { kind: 'initial' as const } }));
  return { kind: 'set', assignments, resetsAll: true, type: undefined };
}

/** What `setValue('town', next)` does. `asks` is the member that tells a value as it is now. */
function oneEffect(call: NodePath<t.CallExpression>, { script }: FormSite, asks: string | undefined): Effect {
  const [name, next, ...more] = call.get('arguments') as (NodePath | undefined)[];
  if (!name || !next || more.length) return { kind: 'unclear', why: 'it is not given a name and a value' };
  if (!name.isStringLiteral())
    return {
      kind: 'named',
      key: { path: name, code: plainCode(script.file, name) },
      value: { path: next, code: plainCode(script.file, next) },
      rest: [],
      type: undefined,
    };
  const field = name.node.value;
  const fn = next.isFunction() ? functionOf(next) : undefined;
  const value = fn
    ? updaterValue(script.file, fn, field, expressionTypes(script))
    : askedValue(next, script.file, asks);
  return { kind: 'set', assignments: [{ field, value }], resetsAll: false, type: undefined };
}

/** A value that may ask for others as they are now: `getValues('boxes') + 1`. */
function askedValue(next: NodePath, file: string, asks: string | undefined): NewValue {
  const code = plainCode(file, next);
  const holes: Hole[] = [];
  const visit = (call: NodePath<t.CallExpression>): void => {
    const [first, ...more] = call.node.arguments;
    if (!t.isIdentifier(call.node.callee, { name: asks ?? '' }) || !t.isStringLiteral(first) || more.length) return;
    holes.push({ kind: 'previous', field: first.value, start: call.node.start ?? 0, end: call.node.end ?? 0 });
  };
  if (asks !== undefined) {
    if (next.isCallExpression()) visit(next);
    walk(next, { CallExpression: visit });
  }
  if (!holes.length) return { kind: 'value', code };
  const reads = holes.flatMap((hole) => (hole.kind === 'previous' ? [hole.field] : []));
  return {
    kind: 'from-previous',
    body: { ...code, holes },
    block: false,
    reads: [...new Set(reads)],
    parameter: undefined,
    whole: undefined,
  };
}
