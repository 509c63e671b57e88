import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type {
  Code,
  Control,
  Declaration,
  Field,
  FormModel,
  HandOnAllUse,
  OwnedName,
  Unclear,
  Use,
} from '../../form/model.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { plainCode, shorthandKey, spanOf } from '../code.js';
import { functionAround, type FunctionPath } from '../components.js';
import { frameOf } from '../form-frame.js';
import { kindOf, kindOfType, nativeRules, submitCycle } from '../form-parts.js';
import { ruleLens } from '../form-rules.js';
import { receiverOf } from '../receivers.js';
import { rulesAndMessages } from '../shown-messages.js';
import { memberTypeText } from '../member-types.js';
import { changersOf, referencesTo, stateVariablesOf } from '../state-variables.js';
import { dependencyListAround, handlerNameAround, mayRepeat, readsLatest, surroundingOf } from '../surroundings.js';
import { functionsCalledBy, holderOf } from '../value-tracing.js';
import { followNamed } from './handlers.js';
import type { HeldObject, Slot } from './held.js';

/** Reads a form whose fields one object holds. `approach` tells what changes it: a reducer, or a setter. */
export function readHeldObject(
  site: FormSite,
  state: HeldObject,
  approach: 'reducer' | 'object-state' | 'own-hook' | 'declared-schema',
): FormModel {
  const { script } = site;
  const submits = site.region.submit.handler ? functionsCalledBy(site.region.submit.handler, state.component) : [];
  const unclear: Unclear[] = [];
  const { uses, retired } = usesOf(state, site, submits, unclear);
  const fields = state.slots.map((slot) => fieldOf(slot, state, site));
  if (!state.slots.length || state.slots.every((slot) => !slot.initial && !slot.absent)) {
    unclear.push({
      span: spanOf(script.file, state.variable.call),
      what: 'the initial state',
      why: 'it is no object that could be followed',
    });
  }
  if (state.slots.some((slot) => !slot.initial && !slot.absent) && state.slots.some((slot) => slot.initial)) {
    unclear.push({
      span: spanOf(script.file, state.variable.call),
      what: 'the initial state',
      why: 'it lacks values that the component reads',
    });
  }
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
    lifeCycle: {
      values: fields.every((field) => field.initial.when === 'constant') ? 'constants' : 'props',
      submit: {
        ...submitCycle(script, site.region, submits, []),
        ...(site.region.element ? {} : { how: 'button' as const }),
      },
      resets: uses.flatMap((use) =>
        use.kind === 'set' && use.assignments.some(({ value }) => value.kind === 'initial')
          ? [{ line: script.lines.lineAt(use.span.start), what: use.resetsAll ? ('all' as const) : ('some' as const) }]
          : [],
      ),
    },
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
    holder: holderFrom(state, site, approach),
    handlers: new Set(
      uses.filter((use) => use.kind !== 'read').map((use) => functionAt(state.component, use.span.start)),
    ).size,
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
  const inFile = type?.script.file === site.script.file && t.isTSTypeReference(type.node);
  return {
    name: variable.value.node.name,
    type: inFile ? type.script.text.slice(type.node.start ?? 0, type.node.end ?? 0) : undefined,
    // the argument of a form with a schema is the schema
    initial: initial && isName && !initialOnce && approach !== 'declared-schema' ? text(initial) : undefined,
  };
}

/** Whether the reducer is written inside of the component, where it goes with the state. */
function isInComponent(state: HeldObject, site: FormSite): boolean {
  const inside = state.reducer?.fn.find((parent) => parent.node === state.component.node) ?? null;
  return state.reducer?.script.file === site.script.file && inside !== null;
}

/** The innermost function of the component around an offset. */
function functionAt(component: FunctionPath, offset: number): number {
  let start = 0;
  component.traverse({
    Function(path) {
      if ((path.node.start ?? 0) <= offset && (path.node.end ?? 0) > offset) start = path.node.start ?? 0;
    },
  });
  return start;
}

function statementAround(path: NodePath): NodePath {
  return path.findParent((parent) => parent.parentPath?.isProgram() === true) ?? path;
}

function ownedNames(state: HeldObject, file: string): OwnedName[] {
  return [state.variable.value, ...changersOf(state.variable)]
    .filter((one) => one !== undefined)
    .map((one) => ({ file, name: one.node.name, declaredAt: one.node.start ?? 0 }));
}

function isConstant(node: t.Node): boolean {
  if (t.isLiteral(node) && !t.isTemplateLiteral(node)) return true;
  if (t.isTemplateLiteral(node)) return node.expressions.length === 0;
  if (t.isIdentifier(node)) return node.name === 'undefined';
  if (t.isTSAsExpression(node)) return isConstant(node.expression);
  if (t.isUnaryExpression(node)) return isConstant(node.argument);
  if (t.isArrayExpression(node)) return node.elements.every((element) => element !== null && isConstant(element));
  return (
    t.isObjectExpression(node) &&
    node.properties.every((property) => t.isObjectProperty(property) && isConstant(property.value))
  );
}

function fieldOf(slot: Slot, state: HeldObject, site: FormSite): Field {
  const { initial } = slot;
  const script = initial?.script ?? site.script;
  const inferred = initial && initial.suffix === undefined ? expressionTypes(script).typeOf(initial.path) : undefined;
  const written = site.script.typescript ? memberTypeText(state, slot.name, site) : undefined;
  const controls = state.bound.filter(({ field }) => holderOf(field) === slot.name);
  const control = controls.find(({ field }) => field === slot.name)?.control;
  const rows = controls.some(({ field }) => field.includes('[]'));
  const suffix = initial?.suffix ?? '';
  const text = initial
    ? script.text.slice(initial.path.node.start ?? 0, initial.path.node.end ?? 0) + suffix
    : 'undefined';
  const isField = state.fields.some((candidate) => candidate.name === slot.name);
  const type = written ?? inferred;
  const span = initial ? spanOf(script.file, initial.path) : spanOf(site.script.file, state.variable.call);
  const constant = initial ? suffix === '' && isConstant(initial.path.node) : true;
  return {
    name: slot.name,
    kind: rows ? 'list of rows' : control ? kindOf(control, type) : kindOfType(type),
    role: isField ? 'field' : 'status',
    type,
    typeWritten: written !== undefined && written !== inferred,
    initial: {
      code: initial ? withSuffix(plainCode(script.file, initial.path), suffix) : undefined,
      text,
      when: state.initialOnce && !constant ? 'once' : constant ? 'constant' : 'each-render',
    },
    ...commentsOf(slot, state, initial?.path.parentPath, script),
    names: slot.alias === undefined ? {} : { value: slot.alias },
    declared: span,
    ...(slot.absent ? { absent: true } : {}),
  };
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

/** A member of what a piece of code gives. */
function withSuffix(code: Code, suffix: string): Code {
  return suffix === ''
    ? code
    : { ...code, holes: [{ kind: 'given', start: code.start, end: code.end, code, suffix, wrap: false }] };
}

/** Comments of a value: at its initial value, and in the one case of the reducer that speaks of it alone. */
function commentsOf(
  slot: Slot,
  state: HeldObject,
  property: NodePath | null | undefined,
  script: Script,
): Pick<Field, 'commentsBefore' | 'commentBehind'> {
  const own = commentsAround(property, script);
  const { reducer } = state;
  const reducerText = reducer?.script.text ?? '';
  const inCases = (reducer?.cases.cases ?? []).flatMap(({ statements }) => {
    const start = statements[0]?.node.leadingComments?.[0]?.start ?? statements[0]?.node.start ?? 0;
    const end = statements.at(-1)?.node.end ?? 0;
    const code = reducerText.slice(start, end);
    const named = state.slots.filter(({ name }) =>
      new RegExp(`\\b${name}\\b`).test(code.replace(/\/\/.*|\/\*[\s\S]*?\*\//g, '')),
    );
    if (named.length !== 1 || named[0]?.name !== slot.name) return [];
    return (reducer?.script.ast.comments ?? [])
      .filter((comment) => (comment.start ?? 0) >= start && (comment.end ?? 0) <= end)
      .map((comment) => reducerText.slice(comment.start ?? 0, comment.end ?? 0));
  });
  return {
    ...own,
    commentsBefore: [...own.commentsBefore, ...inCases.filter((comment) => !own.commentsBefore.includes(comment))],
  };
}

/** Comments at a property of the initial state: on lines of their own before it, and behind it on its line. */
function commentsAround(
  property: NodePath | null | undefined,
  script: Script,
): Pick<Field, 'commentsBefore' | 'commentBehind'> {
  if (!property?.isObjectProperty() || !property.parentPath.isObjectExpression())
    return { commentsBefore: [], commentBehind: undefined };
  const { start, end } = spanOf(script.file, property);
  const siblings = property.parentPath.node.properties;
  const previous = siblings[siblings.indexOf(property.node) - 1];
  const from = previous?.end ?? property.parentPath.node.start ?? 0;
  const textOf = (comment: t.Comment): string => script.text.slice(comment.start ?? 0, comment.end ?? 0);
  const all = script.ast.comments ?? [];
  const before = all.filter(
    (comment) =>
      (comment.start ?? 0) >= from &&
      (comment.end ?? 0) <= start &&
      /(^|\n)[ \t]*$/.test(script.text.slice(0, comment.start ?? 0)),
  );
  const behind = all.filter(
    (comment) => (comment.start ?? 0) >= end && /^,?[ \t]*$/.test(script.text.slice(end, comment.start ?? 0)),
  );
  return {
    commentsBefore: before.map(textOf),
    commentBehind: behind.length ? behind.map(textOf).join(' ') : undefined,
  };
}

function usesOf(
  state: HeldObject,
  site: FormSite,
  submits: readonly FunctionPath[],
  unclear: Unclear[],
): { uses: Use[]; retired: NodePath[] } {
  const { script } = site;
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
  const slots = state.slots.map(({ name }) => name);
  const isChange = (call: t.CallExpression): boolean =>
    changersOf(variable).some(({ node }) => t.isIdentifier(call.callee, { name: node.name }));
  for (const reference of changersOf(variable).flatMap((one) => referencesTo(one))) {
    const call = reference.parentPath;
    const list = dependencyListAround(reference);
    if (list) {
      uses.push({
        kind: 'depend',
        list: spanOf(script.file, list),
        where: where(reference),
        span: spanOf(script.file, reference),
      });
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
    if (effect.kind === 'unclear') {
      unclear.push({
        span: spanOf(script.file, call),
        what: script.text.slice(call.node.start ?? 0, call.node.end ?? 0),
        why: effect.why,
      });
      continue;
    }
    if (isStale(call, variable, where(call))) {
      unclear.push({
        span: spanOf(script.file, call),
        what: script.text.slice(call.node.start ?? 0, call.node.end ?? 0),
        why: 'it puts back values from before a wait or an earlier change; build it from the previous values first',
      });
      continue;
    }
    if (effect.kind === 'merge') {
      uses.push({
        kind: 'set-all',
        code: effect.code,
        merge: true,
        where: where(call),
        span: spanOf(script.file, call),
      });
      continue;
    }
    if (effect.kind === 'named') {
      const followed = followNamed(call, effect, { component, script, candidates: site.candidates, slots, where });
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
      statement: parent.isExpressionStatement() ? spanOf(script.file, parent) : undefined,
      arrowBody: parent.isArrowFunctionExpression() && call.key === 'body',
      fresh: readsLatest(call, component, isChange),
      repeats: mayRepeat(call, component, () => true),
      called: handlerNameAround(call, component) ?? effect.type,
      where: where(call),
      span: spanOf(script.file, call),
    });
  }
  return { uses, retired };
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
  functionAround(call)?.traverse({
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
    member?.isMemberExpression() &&
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
  const listed = dependencyListAround(reference) !== undefined;
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
    ...(listed ? { listed } : {}),
    ...(named ? { named } : {}),
  };
}
