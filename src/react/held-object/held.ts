import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { bodyOf, functionOf, type FunctionPath } from '../components.js';
import { bindControls, type BoundControl } from '../form-parts.js';
import { isInside } from '../form-regions.js';
import { importOf } from '../hook-calls.js';
import { returnedValue } from '../../source/behind-names.js';
import { exportedFunction, exportedValue } from '../exports.js';
import { changersOf, referencesTo, type StateVariable } from '../state-variables.js';
import { holderOf, type Lens } from '../value-tracing.js';
import type { ReducerCases } from './cases.js';
import type { Effect } from './effects.js';
import { isHandedWhole, isShownByKey } from './handed.js';

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
  /** The object lacks it until it is set. */
  absent?: boolean;
  /** What it begins as is told only when the form runs. */
  untold?: boolean;
}

/** One object that holds the values of a form, behind `useState` or `useReducer`. */
export interface HeldObject {
  component: FunctionPath;
  variable: StateVariable;
  slots: Slot[];
  fields: Slot[];
  bound: BoundControl[];
  lens: Lens;
  /** Declarations that only take values out of the object: `const { town } = state`. */
  takenOut: NodePath<t.VariableDeclarator>[];
  /** References to the variable as a whole or to one of its members. */
  stateReferences: NodePath[];
  /** What the object is at first, when it was found as an object. */
  initialObject: Located | undefined;
  initialOnce: boolean;
  /** The part of what it begins as that is told only when the form runs. */
  untold: NodePath | undefined;
  /** The object's type, where one is written. */
  type: TypeInFile | undefined;
  /** The reducer that changes it, where one does. */
  reducer: { fn: FunctionPath; script: Script; cases: ReducerCases } | undefined;
  /** What a call of the function that changes it does; `argument` where that is only a part of what is handed over. */
  effectAt(call: NodePath<t.CallExpression>, argument?: NodePath): Effect;
}

/** What an expression stands for, followed through constants and imports. */
export function resolved(located: Located, load: FormSite['load'], depth = 0): Located {
  const { path, script } = located;
  if (depth > 5) return located;
  if (path.isTSAsExpression() || path.isTSSatisfiesExpression() || path.isTSInstantiationExpression())
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

/** What an expression stands for, also where a function that is given nothing makes an object anew: `blank()`. */
export function objectMade(located: Located, load: FormSite['load']): Located {
  const found = resolved(located, load);
  if (!found.path.isCallExpression() || found.path.node.arguments.length) return found;
  const maker = resolved({ path: found.path.get('callee') as NodePath, script: found.script }, load);
  const fn = functionOf(maker.path);
  const made = fn && !fn.node.params.length && !fn.node.async ? returnedValue(fn) : undefined;
  return made?.isObjectExpression() ? { path: made, script: maker.script } : found;
}

/** The object that an expression begins as: written out, behind a name, or returned by a function called once. */
export function initialObjectAt(
  value: NodePath | undefined,
  maker: NodePath | undefined,
  site: FormSite,
): { object: Located | undefined; once: boolean } {
  if (maker) {
    const found = resolved({ path: maker, script: site.script }, site.load);
    const fn = functionOf(found.path);
    const body = fn?.get('body') as NodePath | undefined;
    const last = body?.isBlockStatement() ? body.get('body') : undefined;
    const returned = last?.length === 1 && last[0]?.isReturnStatement() ? (last[0].get('argument') as NodePath) : body;
    const usesArgument = fn ? fn.node.params.length > 0 : true;
    return {
      object: returned?.isObjectExpression() && !usesArgument ? { path: returned, script: found.script } : undefined,
      once: true,
    };
  }
  if (!value) return { object: undefined, once: false };
  const found = resolved({ path: value, script: site.script }, site.load);
  return { object: found.path.isObjectExpression() ? found : undefined, once: false };
}

function slotsOf(object: Located | undefined, load: FormSite['load']): Slot[] {
  if (!object?.path.isObjectExpression()) return [];
  const all = object.path.get('properties').flatMap((property): Slot[] => {
    if (
      property.isObjectProperty() &&
      !property.node.computed &&
      (t.isIdentifier(property.node.key) || t.isStringLiteral(property.node.key))
    ) {
      const name = t.isIdentifier(property.node.key) ? property.node.key.name : property.node.key.value;
      return [{ name, alias: undefined, initial: { path: property.get('value') as NodePath, script: object.script } }];
    }
    if (property.isSpreadElement())
      return slotsOf(objectMade({ path: property.get('argument'), script: object.script }, load), load);
    return [];
  });
  // of two that set the same value the later one counts
  const last = new Map(all.map((slot) => [slot.name, slot]));
  return [...last.values()];
}

/** The first part of an object that does not tell which values it gives: a spread of what is known only when it runs. */
export function untoldPart(object: Located | undefined, load: FormSite['load']): NodePath | undefined {
  if (!object?.path.isObjectExpression()) return undefined;
  for (const property of object.path.get('properties')) {
    if (property.isObjectProperty() && !property.node.computed) continue;
    if (!property.isSpreadElement()) return property;
    const spread = objectMade({ path: property.get('argument'), script: object.script }, load);
    if (!spread.path.isObjectExpression()) return property;
    const inner = untoldPart(spread, load);
    if (inner) return inner;
  }
  return undefined;
}

/** The values of an object that begins as something the component is given: its type names them. */
function slotsByType(value: NodePath | undefined, type: TypeInFile | undefined, site: FormSite): Slot[] {
  if (!value || !(value.isIdentifier() || value.isMemberExpression())) return [];
  return [...typeMembers(type, site.load).keys()].map((name) => ({
    name,
    alias: undefined,
    initial: { path: value, script: site.script, suffix: `.${name}` },
  }));
}

/** Whether an object is written out in full, so that it lacks what it does not name. */
function isWrittenOut(object: Located | undefined): boolean {
  return (
    object?.path.isObjectExpression() === true &&
    object.path.node.properties.every((property) => t.isObjectProperty(property) && !property.computed)
  );
}

/** Values that an object lacks at first and that the component asks it for by name: `values.town || ''`. */
function absentSlots(slots: readonly Slot[], references: readonly NodePath[]): Slot[] {
  const names = references.flatMap((reference) => {
    const member = reference.parentPath;
    const named =
      member?.isMemberExpression() === true &&
      reference.key === 'object' &&
      !member.node.computed &&
      t.isIdentifier(member.node.property) &&
      !(member.parentPath.isCallExpression() && member.key === 'callee');
    return named && t.isIdentifier(member.node.property) ? [member.node.property.name] : [];
  });
  return [...new Set(names)]
    .filter((name) => !slots.some((slot) => slot.name === name))
    .map((name) => ({ name, alias: undefined, initial: undefined, absent: true }));
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

/** What an approach knows of an object before its controls are looked at. */
export interface Beginning {
  object: Located | undefined;
  once: boolean;
  /** The expression it begins as. */
  value: NodePath | undefined;
  type: TypeInFile | undefined;
  reducer: HeldObject['reducer'];
  /** The values with what each begins as, where no object holds them. */
  slots?: Slot[];
  /** The part of what it begins as that is told only when the form runs, where no object written out tells. */
  untold?: NodePath;
  effects(known: {
    slots: readonly string[];
    absent: readonly string[];
    object: Located | undefined;
    stateBinding: unknown;
  }): HeldObject['effectAt'];
}

/** Describes the object a state variable holds, if controls of the form show its members. */
export function describeHeld(
  site: FormSite,
  component: FunctionPath,
  variable: StateVariable,
  begins: Beginning,
): HeldObject | undefined {
  const { object, once } = begins;
  const slots = begins.slots ?? slotsOf(object, site.load);
  if (!slots.length && !object) slots.push(...slotsByType(begins.value, begins.type, site));
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
  if (begins.slots === undefined && isWrittenOut(object)) {
    for (const slot of slots) if (!slot.initial) slot.absent = true;
    slots.push(...absentSlots(slots, stateReferences));
  }
  const stateBinding = variable.value ? component.scope.getBinding(variable.value.node.name) : undefined;
  const changing = new Set(changersOf(variable).map(({ node }) => component.scope.getBinding(node.name)));
  const absent = slots.filter((slot) => slot.absent).map(({ name }) => name);
  const effectAt = begins.effects({ slots: slots.map(({ name }) => name), absent, object, stateBinding });
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
        !changing.has(path.scope.getBinding(path.node.name))
      )
        return [];
      const effect = effectAt(call);
      if (effect.kind === 'set') return effect.assignments.map(({ field }) => field);
      return effect.kind === 'named' ? slots.map(({ name }) => name).slice(0, 1) : [];
    },
    changesAny(path) {
      if (!path.isIdentifier() || !changing.has(path.scope.getBinding(path.node.name))) return false;
      const call = path.parentPath;
      // what also sets status may bring messages along
      const onlyFields = slots.every(({ name }) => !/error|problem|wrong|message|complaint/i.test(name));
      return call.isCallExpression() && path.key === 'callee' && onlyFields;
    },
  };
  const bound = bindControls(site.script, site.candidates, lens, site.ownValueNames);
  const inside = new Set(
    bound.filter(({ control }) => isInside(control.element, site.region.element)).map(({ field }) => holderOf(field)),
  );
  const isHeld = (path: NodePath): boolean =>
    stateBinding !== undefined && path.isIdentifier() && path.scope.getBinding(path.node.name) === stateBinding;
  const isChanger = (path: NodePath): boolean =>
    path.isIdentifier() && changing.has(path.scope.getBinding(path.node.name));
  const sentWhole = stateReferences.some((reference) => leavesWhole(reference, isChanger));
  const together = inside.size === 0 && (isShownByKey(site, isHeld) || isHandedWhole(site, isHeld, sentWhole));
  if (!inside.size && !together) return undefined;
  const sends =
    site.region.element !== undefined ||
    site.region.submit.how !== 'none' ||
    slots.length > 1 ||
    slots.some(({ name }) => isHandedToCall(name, component, lens));
  if (!sends) return undefined;
  const statusName =
    /^(is|has|was|did|show)[A-Z]|error|touched|dirty|submi|busy|loading|sending|saving|pending|^status$|^message$|step$/i;
  const fields = slots.filter(
    ({ name }) =>
      inside.has(name) ||
      (!statusName.test(name) && (sentWhole || together || sentInComponent(name, component, lens, isChanger))),
  );
  return {
    component,
    variable,
    type: begins.type,
    reducer: begins.reducer,
    effectAt,
    slots,
    fields,
    bound: bound.filter(({ field }) => slots.some(({ name }) => name === holderOf(field))),
    lens,
    takenOut,
    stateReferences,
    initialObject: object,
    initialOnce: once,
    untold: begins.untold ?? (begins.slots === undefined ? untoldPart(object, site.load) : undefined),
  };
}

/** Whether all values leave the component at a reference, rather than go into a change of their own or a mere look. */
function leavesWhole(reference: NodePath, isChanger: (path: NodePath) => boolean): boolean {
  if (takesRest(reference)) return true;
  const isArgument = reference.listKey === 'arguments';
  if (!isArgument && !reference.parentPath?.isSpreadElement()) return false;
  for (let at: NodePath | null = reference; at && !at.isStatement(); at = at.parentPath) {
    const call: NodePath | null = at.parentPath;
    if (at.listKey !== 'arguments' || !call?.isCallExpression()) continue;
    if (isChanger(call.get('callee') as NodePath)) return false;
    const { callee } = call.node;
    const name = t.isIdentifier(callee) ? callee.name : t.isMemberExpression(callee) ? nameOfMember(callee) : '';
    if (/^(useRef|useState|stringify|keys|values|entries)$/.test(name)) return false;
  }
  return true;
}

function nameOfMember({ property }: t.MemberExpression): string {
  return t.isIdentifier(property) ? property.name : '';
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

/** Whether a value reaches a call of something that the component was given, also through other calls. */
function isHandedToCall(name: string, component: FunctionPath, lens: Lens): boolean {
  const given = new Set(component.node.params.flatMap((one) => Object.keys(t.getBindingIdentifiers(one))));
  let handed = false;
  const visit = (path: NodePath): void => {
    if (lens.fieldOf(path) !== name) return;
    for (let at: NodePath | null = path; at; at = at.parentPath) {
      const call: NodePath | null = at.parentPath;
      if (at.listKey !== 'arguments' || !call?.isCallExpression()) continue;
      let root: t.Node = call.node.callee;
      while (t.isMemberExpression(root)) root = root.object;
      if (t.isIdentifier(root) && given.has(root.name)) handed = true;
    }
  };
  component.traverse({ Identifier: visit, MemberExpression: visit });
  return handed;
}

/** Whether a value leaves the component as an argument of a call or in an object. */
function sentInComponent(
  name: string,
  component: FunctionPath,
  lens: Lens,
  isChanger: (path: NodePath) => boolean,
): boolean {
  let sent = false;
  const visit = (path: NodePath): void => {
    if (lens.fieldOf(path) !== name || (path.isIdentifier() && !path.isReferencedIdentifier())) return;
    // a change of its own sends nothing
    if (path.findParent((parent) => parent.isCallExpression() && isChanger(parent.get('callee') as NodePath))) return;
    const holder = path.findParent(
      (parent) => parent.isObjectExpression() || parent.isJSXElement() || parent.isIfStatement(),
    );
    const call = path.findParent((parent) => parent.isCallExpression());
    if (holder?.isObjectExpression() || (call && path.listKey === 'arguments')) sent = true;
  };
  component.traverse({ Identifier: visit, MemberExpression: visit });
  return sent;
}
