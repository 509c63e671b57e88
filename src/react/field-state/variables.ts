import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FunctionPath } from '../components.js';
import { functionOf } from '../components.js';
import { bindControls, type BoundControl } from '../form-parts.js';
import { clicksOf, isInside, type FormRegion } from '../form-regions.js';
import { changedBy, type JsxControl } from '../jsx-controls.js';
import { referencesTo, stateVariablesOf, type StateVariable } from '../state-variables.js';
import { changedFields, functionsCalledBy, holderOf, type Lens } from '../value-tracing.js';
import type { FormSite } from '../approach.js';
import { sentBy } from '../sending-functions.js';
import { walk } from '../../source/traverse.js';

/** A state variable that holds one value. */
export interface Variable {
  name: string;
  state: StateVariable;
}

/** The state variables of a form's component, and which of them are fields of this form. */
export interface FieldVariables {
  component: FunctionPath;
  fields: Variable[];
  others: { variable: Variable; why: string; status: boolean }[];
  bound: BoundControl[];
  lens: Lens;
  /** The functions that run when the form is sent. */
  submits: FunctionPath[];
  region: FormRegion;
}

const statusNames =
  /^(is|has|was|did|show|hide)?_?(form)?_?(error|errors|err|touched|dirty|submit|submitted|submitting|busy|loading|loaded|sending|sent|saving|saved|pending|status|message|messages|msg|success|open|opened|visible|expanded|problem|problems|issues|warning|done|result|outcome|notice|fault)/i;

/** Sees the variables of a component: a reference to the value is a read, one to the setter a change. */
function lensOver(variables: readonly Variable[]): Lens {
  const values = new Map<unknown, string>();
  const setters = new Map<unknown, string>();
  for (const { name, state } of variables) {
    const scope = state.call.scope;
    if (state.value) values.set(scope.getBinding(state.value.node.name), name);
    if (state.change) setters.set(scope.getBinding(state.change.node.name), name);
  }
  return {
    fieldOf: (path) => (path.isIdentifier() ? values.get(path.scope.getBinding(path.node.name)) : undefined),
    changesOf(path) {
      const name = path.isIdentifier() ? setters.get(path.scope.getBinding(path.node.name)) : undefined;
      return name === undefined ? [] : [name];
    },
  };
}

/**
 * How many controls of a form change members of some objects.
 * @param direct variables that controls show: what one changes along with them, such as messages, is no object of values
 */
function changesOf(site: FormSite, lens: Lens, objects: ReadonlySet<string>, direct: ReadonlySet<string>): number {
  return site.candidates.filter((control) => {
    if (!isInside(control.element, site.region.element)) return false;
    const changed = changedBy(control).flatMap(({ value }) => (value ? changedFields(value, lens) : []));
    return changed.some((name) => objects.has(name)) && !changed.some((name) => direct.has(name));
  }).length;
}

/** Whether a setter merges into an object: `setValues((old) => ({ ...old, town }))`. */
function holdsObject(state: StateVariable): boolean {
  const isMade = (given: t.Node | null | undefined): boolean => {
    const body = t.isArrowFunctionExpression(given) ? given.body : given;
    const [parameter] = t.isArrowFunctionExpression(given) ? given.params : [];
    if (!t.isObjectExpression(body)) return false;
    return body.properties.some(
      (property) =>
        t.isSpreadElement(property) &&
        t.isIdentifier(property.argument) &&
        [state.value?.node.name, t.isIdentifier(parameter) ? parameter.name : undefined].includes(
          property.argument.name,
        ),
    );
  };
  return referencesTo(state.change).some((path) => {
    const call = path.parentPath;
    const [first] = call?.isCallExpression() && path.key === 'callee' ? call.node.arguments : [];
    if (!t.isIdentifier(first)) return isMade(first);
    return isMade(constantNamed(first.name, path)) || givenFor(first.name, path).some(isMade);
  });
}

/** What calls of a function give it for one of its parameters: `change({ ...form, town })`. */
function givenFor(name: string, { scope }: NodePath): t.Node[] {
  const binding = scope.getBinding(name);
  const fn = binding?.kind === 'param' ? binding.scope.path : undefined;
  if (!fn?.isFunction()) return [];
  const at = fn.node.params.findIndex((one) => t.isIdentifier(one, { name }));
  const id = fn.isFunctionDeclaration()
    ? fn.node.id
    : fn.parentPath?.isVariableDeclarator()
      ? fn.parentPath.node.id
      : undefined;
  const calls = t.isIdentifier(id) ? (fn.parentPath?.scope.getBinding(id.name)?.referencePaths ?? []) : [];
  return calls.flatMap(({ parent, key }) => {
    const given = t.isCallExpression(parent) && key === 'callee' ? parent.arguments[at] : undefined;
    return given ? [given] : [];
  });
}

/** What a constant holds: `const next = { ...form, town }`. */
function constantNamed(name: string, { scope }: NodePath): t.Node | null | undefined {
  const declared = scope.getBinding(name)?.path;
  return declared?.isVariableDeclarator() ? declared.node.init : undefined;
}

/** Whether a variable begins as a list. */
function isList(name: string, variables: readonly Variable[]): boolean {
  const initial = variables.find((variable) => variable.name === name)?.state.call.node.arguments[0];
  return t.isArrayExpression(initial);
}

/** Whether all that controls show is one variable that begins as an object and is handed to components as a whole. */
function isOneObject(bound: readonly BoundControl[], variables: readonly Variable[]): boolean {
  const names = new Set(bound.map(({ field }) => holderOf(field)));
  const [name] = names;
  const initial = variables.find((variable) => variable.name === name)?.state.call.node.arguments[0];
  return (
    names.size === 1 &&
    t.isObjectExpression(initial) &&
    initial.properties.length > 1 &&
    bound.every(({ control, field }) => !control.intrinsic && field === name)
  );
}

/** Functions that the form's components are given, which may send its values. */
function handedFunctions({ candidates, region }: FormSite): (FunctionPath | undefined)[] {
  return candidates
    .filter(({ intrinsic, element }) => !intrinsic && isInside(element, region.element))
    .flatMap(({ attributes }) => attributes)
    .filter(({ name, value }) => value !== undefined && !/^(on|handle)?[cC]hange|^set[A-Z]/.test(name))
    .map(({ value }) => value && functionOf(value));
}

/** The functions behind a region's submit: the handler, or those of buttons that hand bound values on. */
function submitFunctions(
  site: FormSite,
  region: FormRegion,
  component: FunctionPath,
  lens: Lens,
  bound: ReadonlySet<string>,
): FunctionPath[] {
  const found: FunctionPath[] = [];
  if (region.submit.handler) functionsCalledBy(region.submit.handler, component, found);
  const handed = region.submit.attribute?.value;
  if (handed?.isCallExpression()) {
    for (const argument of handed.get('arguments')) {
      const fn = functionOf(argument as NodePath);
      if (fn) functionsCalledBy(fn, component, found);
    }
  }
  if (region.submit.how !== 'form') {
    const clicks = clicksOf(region.element ?? component).map(({ handler }) => handler);
    for (const handler of [...clicks, ...handedFunctions(site)]) {
      if (!handler) continue;
      const called = functionsCalledBy(handler, component);
      const sends = called.some((fn) => [...sentBy(fn, lens)].some((name) => bound.has(name)));
      if (sends) for (const fn of called) if (!found.some((known) => known.node === fn.node)) found.push(fn);
    }
  }
  return found;
}

/** The variables that something other than the submit changes. */
function changedByPerson(component: FunctionPath, variables: readonly Variable[], lens: Lens): Set<string> {
  const names = new Set<string>();
  walk(component, {
    JSXAttribute(attribute) {
      const value = attribute.get('value');
      const inner = value.isJSXExpressionContainer() ? value.get('expression') : undefined;
      if (!inner || /^on(Submit|Finish)$|^action$/.test(String(attribute.node.name.name))) return;
      for (const name of changedFields(inner as NodePath, lens)) names.add(name);
    },
  });
  return new Set(variables.map(({ name }) => name).filter((name) => names.has(name)));
}

/** Finds the state variables of a form and decides which of them are its fields. */
export function fieldVariables(site: FormSite): FieldVariables | undefined {
  if (site.component.kind !== 'function') return undefined;
  const component = site.component.path;
  const variables = stateVariablesOf(site.component)
    .filter((state) => state.hook === 'useState' && state.value)
    .map((state) => ({ name: state.value?.node.name ?? '', state }));
  const lens = lensOver(variables);
  const all = bindControls(site.script, site.candidates, lens, site.ownValueNames);
  const { region } = site;
  const others = site.regions.filter((other) => other !== region);
  const inside = all.filter(({ control }) => isInside(control.element, region.element));
  const elsewhere = new Set(
    all
      .filter(({ control }) => others.some((other) => isInside(control.element, other.element)))
      .map(({ field }) => holderOf(field)),
  );
  const boundNames = new Set(inside.map(({ field }) => holderOf(field)));
  const submits = submitFunctions(site, region, component, lens, boundNames);
  if (!region.element && !submits.length) return undefined;
  // one variable whose members are edited is an object of values, not a field
  const objects = new Set(variables.filter(({ state }) => holdsObject(state)).map(({ name }) => name));
  const isDirect = (field: string): boolean => field === holderOf(field) && !objects.has(field);
  const lists = new Set(inside.map(({ field }) => holderOf(field)).filter((name) => isList(name, variables)));
  const beside =
    inside.filter(({ field }) => isDirect(field)).length + [...lists].filter((one) => !objects.has(one)).length;
  const direct = new Set(inside.map(({ field }) => field).filter(isDirect));
  if (objects.size && changesOf(site, lens, objects, direct) > beside) return undefined;
  if (isOneObject(inside, variables)) return undefined;
  if (!inside.some(({ field }) => isDirect(field) || (/^\w+\[/.test(field) && !objects.has(holderOf(field)))))
    return undefined;
  const sentNames = new Set(submits.flatMap((fn) => [...sentBy(fn, lens)]));
  const changed = changedByPerson(component, variables, lens);
  // what a button turns on and off is a field where it is sent
  const pressed = new Set(boundNames);
  for (const { control, field } of inside) if (!isPressed(control)) pressed.delete(holderOf(field));
  const isField = (name: string): boolean => {
    if (!sentNames.has(name) && onlyOpens(name, variables)) return false;
    if (boundNames.has(name) && (!pressed.has(name) || sentNames.has(name))) return true;
    if (elsewhere.has(name) || !sentNames.has(name)) return false;
    const outside = all.some(({ field }) => holderOf(field) === name);
    return (outside || changed.has(name)) && !statusNames.test(name);
  };
  // what buttons turn on and off is no form by itself
  if (!region.element && [...boundNames].every((name) => pressed.has(name) && isToggled(name, variables)))
    return undefined;
  const fields = variables.filter(({ name, state }) => state.change && isField(name));
  if (!fields.some(({ name }) => boundNames.has(name))) return undefined;
  const names = new Set(fields.map(({ name }) => name));
  return {
    component,
    fields,
    others: variables
      .filter(({ name }) => !names.has(name))
      .map((variable) => ({ variable, ...whyLeftOut(variable.name, elsewhere, submits, lens) })),
    bound: all.filter(({ field }) => names.has(holderOf(field))),
    lens,
    submits,
    region,
  };
}

function stateNamed(name: string, variables: readonly Variable[]): StateVariable | undefined {
  return variables.find((variable) => variable.name === name)?.state;
}

/** Whether a variable is only turned on and off: `setOpen(!open)`, `setOpen(false)`. */
function isToggled(name: string, variables: readonly Variable[]): boolean {
  const calls = referencesTo(stateNamed(name, variables)?.change).flatMap(({ parent, key }) =>
    t.isCallExpression(parent) && key === 'callee' ? [parent.arguments[0]] : [],
  );
  return (
    calls.length > 0 &&
    calls.every((given) => {
      const value = t.isArrowFunctionExpression(given) ? given.body : given;
      return t.isBooleanLiteral(value) || t.isUnaryExpression(value, { operator: '!' });
    })
  );
}

/** Whether a variable only says that a part of the page is there: it is asked before a part, and by its own control. */
function onlyOpens(name: string, variables: readonly Variable[]): boolean {
  const state = stateNamed(name, variables);
  let opens = false;
  const elsewhere = referencesTo(state?.value).some((reference) => {
    for (let at = reference; at.parentPath; at = at.parentPath) {
      const outer: NodePath = at.parentPath;
      if (outer.isJSXAttribute())
        return !/^(?:checked|value|selected|on|aria-\w+|className)$/.test(String(outer.node.name.name));
      if (outer.isCallExpression()) return !isChangeOf(outer, state);
      const asks = (outer.isLogicalExpression({ operator: '&&' }) && at.key === 'left') || at.key === 'test';
      if (
        asks &&
        outer
          .findParent((parent) => !parent.isLogicalExpression() && !parent.isConditionalExpression())
          ?.isJSXExpressionContainer()
      ) {
        const isPart = outer.findParent((parent) => parent.isJSXAttribute() || parent.isJSXElement())?.isJSXElement();
        opens ||= isPart === true;
        return isPart !== true;
      }
      if (outer.isStatement()) return true;
    }
    return true;
  });
  return opens && !elsewhere;
}

function isChangeOf(call: NodePath<t.CallExpression>, state: StateVariable | undefined): boolean {
  const { callee } = call.node;
  return t.isIdentifier(callee) && callee.name === state?.change?.node.name;
}

/** Whether an element shows no value of its own and only tells that it was pressed. */
function isPressed(control: JsxControl): boolean {
  const changes = changedBy(control);
  const shown = control.attributes.some(({ name }) => /^(?:value|checked|selected|on|active|defaultValue)$/.test(name));
  return !shown && changes.length > 0 && changes.every(({ name }) => /^on(?:Click|Press)$/.test(name));
}

function whyLeftOut(
  name: string,
  elsewhere: ReadonlySet<string>,
  submits: readonly FunctionPath[],
  lens: Lens,
): { why: string; status: boolean } {
  if (elsewhere.has(name)) return { why: 'it is a field of another form in this component', status: false };
  const setInSubmit = submits.some((fn) => changedFields(fn, lens).includes(name));
  if (statusNames.test(name) || setInSubmit) {
    return { why: 'it is status the form keeps for itself: no control edits it and it is not sent', status: true };
  }
  return { why: 'no control edits it and it is not sent', status: false };
}
