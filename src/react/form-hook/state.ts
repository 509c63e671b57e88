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
import { hookMark, hookMembers } from './hook-file.js';

/** The names under which a component takes what the form's hook gives. */
interface Taken {
  declarator: NodePath<t.VariableDeclarator>;
  call: NodePath<t.CallExpression>;
  names: Map<string, NodePath<t.Identifier>>;
}

function takenFrom(declarator: NodePath<t.VariableDeclarator>, site: FormSite, mark: string): Taken | undefined {
  const call = declarator.get('init') as NodePath;
  const pattern = declarator.get('id') as NodePath;
  if (!call.node || !call.isCallExpression() || !pattern.isObjectPattern()) return undefined;
  const from = calledImport(call);
  const script = from && importedFunction(from, site.script, site.load)?.script;
  if (!script?.text.includes(mark)) return undefined;
  const names = new Map<string, NodePath<t.Identifier>>();
  for (const property of pattern.get('properties')) {
    if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) return undefined;
    const value = property.get('value') as NodePath;
    if (!value.isIdentifier()) return undefined;
    names.set(property.node.key.name, value);
  }
  return { declarator, call, names };
}

/** What a form begins as, by the arguments of its hook. */
export interface HookStart extends Pick<Beginning, 'object' | 'once' | 'value' | 'type' | 'untold'> {
  /** Values with what each begins as, where no object holds them. */
  slots?: Slot[];
}

/** What the argument of the hook for values says. */
function startOf(call: NodePath<t.CallExpression>, site: FormSite): HookStart {
  const { script } = site;
  const [first] = call.get('arguments') as (NodePath | undefined)[];
  const lazy = first && (first.isFunction() || (first.isIdentifier() && functionOf(first) !== undefined));
  const begins = lazy ? initialObjectAt(undefined, first, site) : initialObjectAt(first, undefined, site);
  const written = call.node.typeParameters?.params[0];
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

/**
 * Finds the values that the project's form hook keeps for a component.
 * @param mark what tells the hook's file from any other
 * @param start what a form begins as, by the call of the hook; undefined where the call says nothing
 * @param isStart tells other expressions for what a form begins as
 */
export function hookStateOf(
  site: FormSite,
  mark: string = hookMark,
  start: (call: NodePath<t.CallExpression>, site: FormSite) => HookStart | undefined = startOf,
  isStart: (path: NodePath) => boolean = () => false,
): HeldObject | undefined {
  const { component, script, load } = site;
  const body = component.kind === 'function' ? bodyOf(component) : undefined;
  if (component.kind !== 'function' || !body) return undefined;
  const found: HeldObject[] = [];
  for (const statement of body.get('body')) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const taken = takenFrom(declarator, site, mark);
      if (!taken) continue;
      const changers = [hookMembers.one, hookMembers.all, hookMembers.reset].flatMap(
        (name) => taken.names.get(name) ?? [],
      );
      const variable: StateVariable = {
        hook: 'useState',
        value: taken.names.get(hookMembers.values),
        valuePattern: undefined,
        change: taken.names.get(hookMembers.all) ?? changers[0],
        changers,
        call: taken.call,
        declarator,
        declaration: statement,
      };
      const begins = start(taken.call, site);
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
            if (isCalled(call, hookMembers.reset)) return resetEffect(slots);
            if (isCalled(call, hookMembers.one)) return oneEffect(call, site);
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

function resetEffect(slots: readonly string[]): Effect {
  const assignments = slots.map((field) => ({ field, value: { kind: 'initial' as const } }));
  return { kind: 'set', assignments, resetsAll: true, type: undefined };
}

/** What `setValue('town', next)` does. */
function oneEffect(call: NodePath<t.CallExpression>, { script }: FormSite): Effect {
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
    : { kind: 'value' as const, code: plainCode(script.file, next) };
  return { kind: 'set', assignments: [{ field, value }], resetsAll: false, type: undefined };
}
