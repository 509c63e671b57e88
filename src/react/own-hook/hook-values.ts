import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, behindName, memberNamed, returnedValue, type Placed } from '../../source/behind-names.js';
import { typeMembers } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { objectMade, slotsOf, type Slot } from '../held-object/held-starts.js';
import { remember, type Given } from '../reading/names.js';
import { stateVariablesOf } from '../state-variables.js';
import { hookCallsIn, membersOf, returnedBy, takenBy, type HookCall } from './hook-call.js';

/** What stands behind a name of a hook's body: what its caller hands over, where it is a parameter. */
type Behind = (at: Placed) => Placed;

/**
 * The objects of values that a hook keeps for the component that calls it, with what each value begins as at this call.
 * Hooks that it calls itself are followed.
 */
export function hookValues(hook: HookCall, site: Pick<FormSite, 'script' | 'load'>): Slot[][] {
  const sets = valuesIn(hook, site.script, (at) => at, site.load, 0);
  const [type] = hook.call.node.typeParameters?.params ?? [];
  if (sets.length || !type) return sets;
  const names = [...typeMembers({ node: type, script: site.script }, site.load).keys()];
  return names.length ? [names.map((name) => ({ name, alias: undefined, initial: undefined, untold: true }))] : [];
}

function valuesIn(
  hook: HookCall,
  caller: Placed['script'],
  outer: Behind,
  load: FormSite['load'],
  depth: number,
): Slot[][] {
  const behind: Behind = (at) => handed(at, hook, caller, outer);
  const own = stateVariablesOf({ path: hook.fn }).flatMap(({ hook: kind, call }) => {
    const [first, second, third] = call.get('arguments') as (NodePath | undefined)[];
    const start = kind === 'useState' ? first : third ? undefined : second;
    const told = start?.isFunction() ? returnedValue(start) : start;
    if (!told) return [];
    const place = behind({ path: told, script: hook.script });
    const slots = slotsOf(objectMade(place, load), load);
    return slots.length ? [slots] : [];
  });
  if (depth > 2) return own;
  const inner = hookCallsIn({ path: hook.fn }, hook.script, load);
  return [...own, ...inner.flatMap((one) => valuesIn(one, hook.script, behind, load, depth + 1))];
}

/**
 * The values of hooks that keep one value each, under the names the component gives them: `const [bird, birdInput] =
 * useInput('')`. Empty where a field of the form comes from anything else.
 * @param fields what the form's controls name; each has to come from such a hook
 */
export function singleValues(hooks: readonly HookCall[], site: FormSite, fields: readonly string[]): Slot[] {
  const found: Slot[] = [];
  const told = new Set<string>();
  for (const hook of hooks) {
    const own = Object.keys(t.getBindingIdentifiers(hook.declarator.node.id));
    const asked = fields.filter((field) => own.includes(field));
    const slot = asked.length ? singleValue(hook, site) : undefined;
    if (!slot) continue;
    found.push(slot);
    for (const field of asked) told.add(field);
  }
  return fields.every((field) => told.has(field)) ? found : [];
}

function singleValue(hook: HookCall, { script, load }: FormSite): Slot | undefined {
  const returned = returnedBy(hook.fn);
  const members = returned && membersOf(returned);
  const taken = takenBy(hook.declarator);
  if (!members || !taken) return undefined;
  for (const { hook: kind, value, call } of stateVariablesOf({ path: hook.fn })) {
    const [first] = call.get('arguments') as (NodePath | undefined)[];
    const given = [...members].find(([, path]) => value && path.isIdentifier({ name: value.node.name }))?.[0];
    const name = taken.kind === 'names' ? taken.names.get(given ?? '') : taken.name;
    if (kind !== 'useState' || !first || given === undefined || name === undefined) continue;
    const initial = handed({ path: first, script: hook.script }, hook, script, (at) => at);
    return { name, alias: undefined, initial: objectMade(initial, load) };
  }
  return undefined;
}

/** What a parameter of a hook, or a member of one, stands for at a call. */
function handed(at: Placed, { fn, call, script }: HookCall, caller: Placed['script'], outer: Behind): Placed {
  const path = bare(at.path);
  const root = path.isMemberExpression() && !path.node.computed ? path.get('object') : path;
  const given: Given = new Map();
  remember(given, { path: fn, script }, call, caller);
  const known = root.isIdentifier() ? given.get(root.scope.getBinding(root.node.name)) : undefined;
  if (!known) return at;
  const found = outer(known);
  if (!path.isMemberExpression() || !t.isIdentifier(path.node.property)) return found;
  const member = memberNamed(bare(found.path), path.node.property.name);
  return member ? outer({ path: member, script: found.script }) : at;
}

/** The values of a hook that a form's controls edit: of several objects the one that has most of their names. */
export function valuesFor(names: readonly string[], sets: readonly Slot[][]): Slot[] {
  const first = names.map((name) => name.split('.')[0] ?? name);
  const shared = (slots: readonly Slot[]): number => slots.filter(({ name }) => first.includes(name)).length;
  const best = [...sets].sort((a, b) => shared(b) - shared(a))[0];
  return best && shared(best) > 0 ? best : [];
}

/** What a value begins as, as source text. */
export function startText({ initial }: Slot, load: FormSite['load']): string {
  if (!initial) return '';
  const { path, script } = behindName(initial, load);
  const { node } = path.isLiteral() ? path : initial.path;
  return (path.isLiteral() ? script : initial.script).text.slice(node.start ?? 0, node.end ?? 0);
}
