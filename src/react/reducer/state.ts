import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { functionOf, bodyOf, type FunctionPath } from '../components.js';
import { bindControls, type BoundControl } from '../form-parts.js';
import { isInside } from '../form-regions.js';
import { importOf } from '../hook-calls.js';
import { exportedFunction, exportedValue } from '../exports.js';
import { referencesTo, stateVariablesOf, type StateVariable } from '../state-variables.js';
import { holderOf, type Lens } from '../value-tracing.js';
import { stateMembers } from '../member-types.js';
import { casesOf, type ReducerCases } from './cases.js';
import { dispatchEffect } from './effects.js';

/** A path in a file of the form. */
export interface Located {
  path: NodePath;
  script: Script;
  /** The member of the path's value that is meant, such as `.town`. */
  suffix?: string;
}

/** A value the reducer holds. */
export interface Slot {
  name: string;
  /** The name a component knows it by, where it takes it out of the state. */
  alias: string | undefined;
  initial: Located | undefined;
}

/** Everything about the reducer behind a form. */
export interface ReducerState {
  component: FunctionPath;
  variable: StateVariable;
  reducer: FunctionPath;
  reducerScript: Script;
  cases: ReducerCases;
  slots: Slot[];
  fields: Slot[];
  bound: BoundControl[];
  lens: Lens;
  /** Declarations that only take values out of the state: `const { town } = state`. */
  takenOut: NodePath<t.VariableDeclarator>[];
  /** References to the state variable as a whole or to one of its members. */
  stateReferences: NodePath[];
  /** What the initial state is, when it was found as an object. */
  initialObject: Located | undefined;
  initialOnce: boolean;
}

/** What an expression stands for, followed through constants and imports. */
export function resolved(located: Located, load: FormSite['load'], depth = 0): Located {
  const { path, script } = located;
  if (depth > 5) return located;
  if (path.isTSAsExpression() || path.isTSSatisfiesExpression())
    return resolved({ path: path.get('expression') as NodePath, script }, load, depth + 1);
  if (!path.isIdentifier()) return located;
  const from = importOf(path);
  if (from?.module.startsWith('.')) {
    const other = load(script.file, from.module);
    const value = other ? (exportedValue(other, from.name) ?? exportedFunction(other, from.name)) : undefined;
    return other && value ? resolved({ path: value, script: other }, load, depth + 1) : located;
  }
  const declared = path.scope.getBinding(path.node.name)?.path;
  if (declared?.isVariableDeclarator() && t.isIdentifier(declared.node.id) && declared.node.init) {
    return resolved({ path: declared.get('init') as NodePath, script }, load, depth + 1);
  }
  return declared?.isFunctionDeclaration() ? { path: declared, script } : located;
}

/** The object an initial state begins as: written out, behind a name, or returned by a function called once. */
function initialObjectOf(variable: StateVariable, site: FormSite): { object: Located | undefined; once: boolean } {
  const [, second, third] = variable.call.get('arguments') as (NodePath | undefined)[];
  if (third) {
    const maker = resolved({ path: third, script: site.script }, site.load);
    const fn = functionOf(maker.path);
    const body = fn?.get('body') as NodePath | undefined;
    const last = body?.isBlockStatement() ? body.get('body') : undefined;
    const value = last?.length === 1 && last[0]?.isReturnStatement() ? (last[0].get('argument') as NodePath) : body;
    const usesArgument = fn ? fn.node.params.length > 0 : true;
    return {
      object: value?.isObjectExpression() && !usesArgument ? { path: value, script: maker.script } : undefined,
      once: true,
    };
  }
  if (!second) return { object: undefined, once: false };
  const found = resolved({ path: second, script: site.script }, site.load);
  return { object: found.path.isObjectExpression() ? found : undefined, once: false };
}

function slotsOf(object: Located | undefined, load: FormSite['load']): Slot[] {
  if (!object?.path.isObjectExpression()) return [];
  return object.path.get('properties').flatMap((property): Slot[] => {
    if (
      property.isObjectProperty() &&
      !property.node.computed &&
      (t.isIdentifier(property.node.key) || t.isStringLiteral(property.node.key))
    ) {
      const name = t.isIdentifier(property.node.key) ? property.node.key.name : property.node.key.value;
      return [{ name, alias: undefined, initial: { path: property.get('value') as NodePath, script: object.script } }];
    }
    if (property.isSpreadElement())
      return slotsOf(resolved({ path: property.get('argument'), script: object.script }, load), load);
    return [];
  });
}

/** The values of a state that begins as something the component is given: its type names them. */
function slotsByType(variable: StateVariable, holder: Parameters<typeof stateMembers>[0], site: FormSite): Slot[] {
  const [, second, third] = variable.call.get('arguments') as (NodePath | undefined)[];
  if (!second || third || !(second.isIdentifier() || second.isMemberExpression())) return [];
  return [...stateMembers(holder, site.load).keys()].map((name) => ({
    name,
    alias: undefined,
    initial: { path: second, script: site.script, suffix: `.${name}` },
  }));
}

/** Names that a pattern takes out of the state: key to local name; undefined where it does more than that. */
function takenBy(pattern: NodePath): Map<string, string> | undefined {
  if (!pattern.isObjectPattern()) return undefined;
  const taken = new Map<string, string>();
  for (const property of pattern.node.properties) {
    if (
      !t.isObjectProperty(property) ||
      property.computed ||
      !t.isIdentifier(property.key) ||
      !t.isIdentifier(property.value)
    )
      return undefined;
    taken.set(property.key.name, property.value.name);
  }
  return taken;
}

function reducerFunction(variable: StateVariable, site: FormSite): { fn: FunctionPath; script: Script } | undefined {
  const first = variable.call.get('arguments')[0];
  if (!first) return undefined;
  const found = resolved({ path: first, script: site.script }, site.load);
  const fn = functionOf(found.path);
  return fn ? { fn, script: found.script } : undefined;
}

/** Finds the reducer whose state a form's controls show. */
export function reducerStateOf(site: FormSite): ReducerState | undefined {
  const { component } = site;
  if (component.kind !== 'function') return undefined;
  for (const variable of stateVariablesOf(component)) {
    if (variable.hook !== 'useReducer' || !variable.change) continue;
    const found = reducerFunction(variable, site);
    if (!found) continue;
    const state = describe(site, component.path, variable, found.fn, found.script);
    if (state) return state;
  }
  return undefined;
}

function describe(
  site: FormSite,
  component: FunctionPath,
  variable: StateVariable,
  reducer: FunctionPath,
  reducerScript: Script,
): ReducerState | undefined {
  const { object, once } = initialObjectOf(variable, site);
  const slots = slotsOf(object, site.load);
  if (!slots.length) slots.push(...slotsByType(variable, { reducer, reducerScript, initialObject: object }, site));
  const aliases = new Map<unknown, string>();
  const takenOut: NodePath<t.VariableDeclarator>[] = [];
  const take = (pattern: NodePath): boolean => {
    const taken = takenBy(pattern);
    for (const [key, local] of taken ?? []) {
      aliases.set(component.scope.getBinding(local), key);
      let slot = slots.find(({ name }) => name === key);
      if (!slot) slots.push((slot = { name: key, alias: undefined, initial: undefined }));
      slot.alias = local;
    }
    return taken !== undefined;
  };
  if (variable.valuePattern && !variable.value && !take(variable.valuePattern)) return undefined;
  const stateReferences = referencesTo(variable.value);
  const body = bodyOf({ path: component });
  for (const reference of stateReferences) {
    const declarator = reference.parentPath;
    if (
      declarator?.isVariableDeclarator() &&
      declarator.parentPath.parentPath?.node === body?.node &&
      take(declarator.get('id') as NodePath)
    )
      takenOut.push(declarator);
  }
  const stateBinding = variable.value ? component.scope.getBinding(variable.value.node.name) : undefined;
  const dispatchBinding = variable.change ? component.scope.getBinding(variable.change.node.name) : undefined;
  const cases = casesOf(reducer, reducerScript, site.load);
  const lens: Lens = {
    fieldOf(path) {
      if (path.isIdentifier()) {
        const binding = path.scope.getBinding(path.node.name);
        return binding ? aliases.get(binding) : undefined;
      }
      if (
        !path.isMemberExpression() ||
        path.node.computed ||
        !t.isIdentifier(path.node.property) ||
        !t.isIdentifier(path.node.object)
      )
        return undefined;
      if (!stateBinding || path.scope.getBinding(path.node.object.name) !== stateBinding) return undefined;
      return path.node.property.name;
    },
    changesOf(path) {
      const call = path.parentPath;
      if (
        !path.isIdentifier() ||
        !call?.isCallExpression() ||
        path.key !== 'callee' ||
        path.scope.getBinding(path.node.name) !== dispatchBinding
      )
        return [];
      const effect = dispatchEffect(call, {
        cases,
        script: site.script,
        load: site.load,
        slots: slots.map(({ name }) => name),
        initialObject: object,
      });
      if (effect.kind === 'set') return effect.assignments.map(({ field }) => field);
      return effect.kind === 'named' ? slots.map(({ name }) => name).slice(0, 1) : [];
    },
  };
  const bound = bindControls(site.script, site.candidates, lens, site.ownValueNames);
  const inside = new Set(
    bound.filter(({ control }) => isInside(control.element, site.region.element)).map(({ field }) => holderOf(field)),
  );
  if (!inside.size) return undefined;
  const sends = site.region.element !== undefined || site.region.submit.how !== 'none' || slots.length > 1;
  if (!sends) return undefined;
  const statusName =
    /^(is|has|was|did|show)[A-Z]|error|touched|dirty|submi|busy|loading|sending|saving|pending|^status$|^message$|step$/i;
  const sentWhole = stateReferences.some(
    (reference) => reference.listKey === 'arguments' || reference.parentPath?.isSpreadElement() || takesRest(reference),
  );
  const fields = slots.filter(
    ({ name }) => inside.has(name) || (!statusName.test(name) && (sentWhole || sentInComponent(name, component, lens))),
  );
  return {
    component,
    variable,
    reducer,
    reducerScript,
    cases,
    slots,
    fields,
    bound: bound.filter(({ field }) => slots.some(({ name }) => name === holderOf(field))),
    lens,
    takenOut,
    stateReferences,
    initialObject: object,
    initialOnce: once,
  };
}

/** Whether a pattern takes the rest of a state into one object: `const { error, ...values } = state`. */
function takesRest(reference: NodePath): boolean {
  const holder = reference.parentPath;
  return (
    holder?.isVariableDeclarator() === true &&
    t.isObjectPattern(holder.node.id) &&
    holder.node.id.properties.some((property) => t.isRestElement(property))
  );
}

/** Whether a value leaves the component as an argument of a call or in an object. */
function sentInComponent(name: string, component: FunctionPath, lens: Lens): boolean {
  let sent = false;
  const visit = (path: NodePath): void => {
    if (lens.fieldOf(path) !== name) return;
    const holder = path.findParent(
      (parent) => parent.isObjectExpression() || parent.isJSXElement() || parent.isIfStatement(),
    );
    const call = path.findParent((parent) => parent.isCallExpression());
    if (holder?.isObjectExpression() || (call && path.listKey === 'arguments')) sent = true;
  };
  component.traverse({ Identifier: visit, MemberExpression: visit });
  return sent;
}
