import type { Code } from '../../form/code.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Control, Declaration, FormModel, HolderOfValues, OwnedName, Unclear } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { moduleFor } from '../../source/project-files.js';
import type { FormSite } from '../approach.js';
import { plainCode, spanOf } from '../code.js';
import type { FunctionPath } from '../components.js';
import { frameOf } from '../form-frame.js';
import { nativeRules } from '../form-parts.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { changersOf, stateVariablesOf } from '../state-variables.js';
import { functionsCalledBy, holderOf } from '../value-tracing.js';
import type { HeldObject } from './held.js';
import { typeNameIn } from '../member-types.js';
import { keptFirst } from './held-starts.js';
import { isClosed } from './computed-start.js';
import { fieldOf } from './held-fields.js';
import { usesOf } from './held-uses.js';
import type { Steps } from './steps.js';
import { importOf } from '../hook-calls.js';

/** Reads a form whose fields one object holds. `approach` tells what changes it: a reducer, or a setter. */
export function readHeldObject(site: FormSite, state: HeldObject, approach: string): FormModel {
  const { script } = site;
  const submits = site.region.submit.handler ? functionsCalledBy(site.region.submit.handler, state.component) : [];
  const unclear: Unclear[] = [];
  const { uses, retired, steps } = usesOf(state, site, submits, unclear);
  const fields = state.slots.map((slot) => fieldOf(slot, state, site));
  if (!state.slots.length || state.slots.every((slot) => !slot.initial && !slot.absent && !slot.untold)) {
    unclear.push({
      span: spanOf(script.file, state.variable.call),
      what: 'the initial state',
      why: 'it is no object that could be followed',
    });
  }
  if (
    state.slots.some((slot) => !slot.initial && !slot.absent && !slot.untold) &&
    state.slots.some((slot) => slot.initial)
  ) {
    unclear.push({
      span: spanOf(script.file, state.variable.call),
      what: 'the initial state',
      why: 'it lacks values that the component reads',
    });
  }
  const holder = holderFrom(state, site, approach);
  if (state.untold && !holder?.start)
    unclear.push({
      span: spanOf(script.file, state.variable.call),
      what: 'the initial state',
      why: 'a part of what it begins as is told only when the form runs',
    });
  const declarations: Declaration[] = [
    { role: 'state', span: spanOf(script.file, state.variable.declaration), what: state.variable.hook },
    ...state.takenOut.map((declarator): Declaration => ({
      role: 'alias',
      span: spanOf(script.file, declarator.parentPath),
      what: 'values taken out of the state',
    })),
    ...retired.map((path): Declaration => ({
      role: 'support',
      span: spanOf(script.file, path),
      what: 'handler that only dispatches',
    })),
    ...(!state.reducer || isInComponent(state, site)
      ? []
      : [
          {
            role: 'support' as const,
            span: spanOf(state.reducer.script.file, statementAround(state.reducer.fn)),
            what: 'reducer',
          },
        ]),
  ];
  return {
    ...frameOf(site),
    approach,
    files: [...new Set([script.file, state.reducer?.script.file ?? script.file])],
    fields,
    controls: state.bound.map(({ model }) => ({ ...model, wayIn: wayInOf(model, uses, script.text) })),
    uses: uses.sort((a, b) => a.span.start - b.span.start || b.span.end - a.span.end),
    ...rulesAndMessages(
      {
        script,
        component: state.component,
        lens: ruleLens(state.lens, (path) => isHeldValue(path, state), fields, site.load),
        reducer: state.reducer,
      },
      nativeRules(script, state.bound),
    ),
    others: stateVariablesOf({ path: state.component })
      .filter(
        (variable) =>
          variable.hook === 'useState' && variable.value && variable.declarator.node !== state.variable.declarator.node,
      )
      .map((variable) => ({
        name: variable.value?.node.name ?? '',
        line: script.lines.lineAt(variable.declarator.node.start ?? 0),
        why: approach === 'reducer' ? 'the reducer does not hold it' : 'the object of values does not hold it',
        status: false,
      })),
    declarations,
    names: ownedNames(state, script.file),
    unclear,
    holder,
    steps: stepsFrom(steps, state, site),
    handlers: functionsAround(
      state.component,
      uses.filter((use) => use.kind !== 'read').map((use) => use.span.start),
    ),
    stateVariables: 1,
  };
}

/** Whether a path stands for the object that holds all values. */
function isHeldValue(path: NodePath, { variable, component }: HeldObject): boolean {
  const held = variable.value ? component.scope.getBinding(variable.value.node.name) : undefined;
  return path.isIdentifier() && held !== undefined && path.scope.getBinding(path.node.name) === held;
}

/** The variable that holds all values, and what of it can stay when something else changes it. */
function holderFrom(state: HeldObject, site: FormSite, approach: string): FormModel['holder'] {
  const { variable, type, initialOnce } = state;
  if (!variable.value) return undefined;
  const [first, second, third] = variable.call.get('arguments') as (NodePath | undefined)[];
  const initial = variable.hook === 'useState' ? first : third ? undefined : second;
  const text = (path: NodePath): string => site.script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
  const isName =
    initial?.isIdentifier() === true && initial.scope.getBinding(initial.node.name)?.scope.path.isProgram() === true;
  return {
    name: variable.value.node.name,
    type: type && typeNameIn(type, site),
    // the argument of a form with a schema is the schema
    initial: initial && isName && !initialOnce && approach !== 'declared-schema' ? text(initial) : undefined,
    ...startFrom(state, site, approach),
  };
}

/** The functions that take the place of the reducer, where a dispatch is told only as a whole. */
function stepsFrom(steps: Steps, { reducer, variable }: HeldObject, { script, load }: FormSite): FormModel['steps'] {
  if (!reducer || !steps.size) return undefined;
  const [named] = variable.call.get('arguments') as NodePath[];
  const from = named && importOf(named);
  return {
    reducer: spanOf(reducer.script.file, statementAround(reducer.fn)),
    name: named?.isIdentifier() ? named.node.name : '',
    module: reducer.script.file === script.file ? undefined : moduleFor(script, reducer.script, from?.module, load),
    functions: [...steps.values()].sort((a, b) => a.body.start - b.body.start),
  };
}

/** What the object begins as, whole, where it cannot be taken apart. */
function startFrom(
  { untold, variable, initialOnce, type, empty }: HeldObject,
  { script, load }: FormSite,
  approach: string,
): Pick<HolderOfValues, 'start'> {
  const [first, second, third] = variable.call.get('arguments') as (NodePath | undefined)[];
  const isReducer = variable.hook === 'useReducer';
  const given = approach === 'declared-schema' ? second : isReducer ? (third ?? second) : first;
  // without a start the hook's call alone says that it is empty
  const whole = given ?? (empty ? variable.call : undefined);
  if (!whole || (!untold && !keptFirst(whole))) return {};
  // a type tells which values there are
  const open = untold !== undefined && type === undefined && !isClosed({ path: whole, script }, load);
  const code = isReducer && second && third ? appliedCode(third, second, script) : plainCode(script.file, whole);
  return { start: { code, once: initialOnce, ...(open ? { open } : {}), ...(empty ? { empty } : {}) } };
}

/** What a reducer's third argument makes of the second one, as a function to be called once. */
function appliedCode(maker: NodePath, given: NodePath, script: FormSite['script']): Code {
  const text = (path: NodePath): string => script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
  const code = plainCode(script.file, maker);
  // `useReducer(reduce, undefined, start)`: the function is handed over as it stands
  const asks = !given.isIdentifier({ name: 'undefined' }) && !given.isNullLiteral();
  if (!asks) return code;
  const called = maker.isFunction() ? `(${text(maker)})` : text(maker);
  const { start, end } = code;
  return { ...code, holes: [{ kind: 'text', start, end, text: `() => ${called}(${text(given)})` }] };
}

/** Whether the reducer is written inside of the component, where it goes with the state. */
function isInComponent(state: HeldObject, site: FormSite): boolean {
  const inside = state.reducer?.fn.find((parent) => parent.node === state.component.node) ?? null;
  return state.reducer?.script.file === site.script.file && inside !== null;
}

/** The innermost function of the component around an offset. */
/** How many functions of a component hold one of some places, each place counted for the innermost. */
function functionsAround(component: FunctionPath, offsets: readonly number[]): number {
  const spans: { start: number; end: number }[] = [];
  t.traverseFast(component.node, (node) => {
    if (t.isFunction(node)) spans.push({ start: node.start ?? 0, end: node.end ?? 0 });
  });
  // the one that starts last is the innermost
  const innermost = (offset: number) => spans.findLast(({ start, end }) => start <= offset && end > offset)?.start ?? 0;
  return new Set(offsets.map(innermost)).size;
}

function statementAround(path: NodePath): NodePath {
  return path.findParent((parent) => parent.parentPath?.isProgram() === true) ?? path;
}

function ownedNames(state: HeldObject, file: string): OwnedName[] {
  return [state.variable.value, ...changersOf(state.variable)]
    .filter((one) => one !== undefined)
    .map((one) => ({ file, name: one.node.name, declaredAt: one.node.start ?? 0 }));
}

/** What a control's handler gives its field, where it is more than the event's own value. */
function wayInOf(control: Control, uses: readonly Use[], text: string): string | undefined {
  for (const use of uses) {
    if (
      (use.kind !== 'set' && use.kind !== 'made-handler') ||
      use.span.start < control.span.start ||
      use.span.end > control.span.end
    )
      continue;
    const value = use.assignments.find(({ field }) => field === holderOf(control.field))?.value;
    const given = value?.kind === 'value' ? text.slice(value.code.start, value.code.end) : undefined;
    if (given !== undefined && !/^\w+(\.\w+)*\.(value|checked|valueAsNumber)$|^\w+$/.test(given)) return given;
  }
  return undefined;
}
