import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { bodyOf, type FunctionPath } from '../components.js';
import { bindControls, type BoundControl } from '../form-parts.js';
import { isInside } from '../form-regions.js';
import { changersOf, referencesTo, type StateVariable } from '../state-variables.js';
import { holderOf, type Lens } from '../value-tracing.js';
import type { ReducerCases } from './cases.js';
import type { Effect } from './effects.js';
import { isHandedWhole, isShownByKey } from './handed.js';
import { absentSlots, isWrittenOut, slotsByType, slotsOf, untoldPart, type Located, type Slot } from './held-starts.js';
import { isSentBySomething } from '../sending-functions.js';
import { isHandedToCall, leavesWhole, sentInComponent } from './sent-values.js';

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
  /** It is null until it is filled. */
  empty?: boolean;
  /** The object's type, where one is written. */
  type: TypeInFile | undefined;
  /** The reducer that changes it, where one does. */
  reducer: { fn: FunctionPath; script: Script; cases: ReducerCases } | undefined;
  /** What a call of the function that changes it does; `argument` where that is only a part of what is handed over. */
  effectAt(call: NodePath<t.CallExpression>, argument?: NodePath): Effect;
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
  /** It is null until it is filled. */
  empty?: boolean;
  effects(known: {
    slots: readonly string[];
    absent: readonly string[];
    object: Located | undefined;
    stateBinding: unknown;
  }): HeldObject['effectAt'];
}

/** Whether the object is one at any time by its type, so that `draft?.name` asks for no more than `draft.name`. */
export function isNeverNull({ type, empty }: Pick<HeldObject, 'type' | 'empty'>): boolean {
  if (!type || empty) return false;
  const parts = t.isTSUnionType(type.node) ? type.node.types : [type.node];
  return parts.every((part) => !t.isTSNullKeyword(part) && !t.isTSUndefinedKeyword(part) && !t.isTSAnyKeyword(part));
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
  const untold = begins.untold ?? (begins.slots === undefined ? untoldPart(object, site.load) : undefined);
  // what an unknown spread may give, the type names
  if (untold && begins.slots === undefined)
    for (const [name, { optional }] of typeMembers(begins.type, site.load))
      if (!slots.some((slot) => slot.name === name))
        slots.push({ name, alias: undefined, initial: undefined, untold: true, ...(optional ? { absent: true } : {}) });
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
  if (begins.empty && !slots.length) slots.push(...absentSlots(slots, stateReferences));
  if (begins.slots === undefined && isWrittenOut(object)) {
    for (const slot of slots) if (!slot.initial) slot.absent = true;
    slots.push(...absentSlots(slots, stateReferences));
  }
  const stateBinding = variable.value ? component.scope.getBinding(variable.value.node.name) : undefined;
  const changing = new Set(changersOf(variable).map(({ node }) => component.scope.getBinding(node.name)));
  const absent = slots.filter((slot) => slot.absent).map(({ name }) => name);
  const effectAt = begins.effects({ slots: slots.map(({ name }) => name), absent, object, stateBinding });
  const asked = isNeverNull(begins);
  const lens: Lens = {
    fieldOf(path) {
      if (path.isIdentifier()) {
        const binding = path.scope.getBinding(path.node.name);
        return binding ? aliases.get(binding) : undefined;
      }
      if (
        !(path.isMemberExpression() || (path.isOptionalMemberExpression() && asked)) ||
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
    registered(attributes) {
      const { registers } = variable;
      if (!registers || !attributes.isCallExpression()) return undefined;
      const { callee, arguments: given } = attributes.node;
      const [name] = given;
      const isIts = t.isIdentifier(callee, { name: registers.node.name }) && t.isStringLiteral(name);
      return isIts && slots.some((slot) => slot.name === name.value) ? name.value : undefined;
    },
    fieldByKey(object, key) {
      const isHeldObject =
        stateBinding !== undefined &&
        object.isIdentifier() &&
        object.scope.getBinding(object.node.name) === stateBinding;
      return isHeldObject && slots.some(({ name }) => name === key) ? key : undefined;
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
    together ||
    slots.some(({ name }) => isHandedToCall(name, component, lens)) ||
    isSentBySomething(component, lens, isHeld);
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
    untold,
    ...(begins.empty ? { empty: true } : {}),
  };
}
