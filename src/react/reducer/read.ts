import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Declaration, Field, FormModel, OwnedName, Unclear, Use } from '../../form/model.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { FormSite } from '../approach.js';
import { plainCode, shorthandKey, spanOf } from '../code.js';
import type { FunctionPath } from '../components.js';
import { frameOf } from '../form-frame.js';
import { codeRules, kindOf, kindOfType, nativeRules, submitCycle } from '../form-parts.js';
import { memberTypeText } from '../member-types.js';
import { referencesTo, stateVariablesOf } from '../state-variables.js';
import { dependencyListAround, handlerNameAround, mayRepeat, readsLatest, surroundingOf } from '../surroundings.js';
import { functionsCalledBy, holderOf } from '../value-tracing.js';
import { dispatchEffect } from './effects.js';
import { followNamed } from './handlers.js';
import { reducerStateOf, type ReducerState, type Slot } from './state.js';

/** Reads a form whose fields a reducer holds. */
export function readReducer(site: FormSite): FormModel {
  const state = reducerStateOf(site);
  if (!state) throw new Error(`${site.component.name} has no reducer that holds its fields`);
  const { script } = site;
  const submits = site.region.submit.handler ? functionsCalledBy(site.region.submit.handler, state.component) : [];
  const unclear: Unclear[] = [];
  const { uses, retired } = usesOf(state, site, submits, unclear);
  const fields = state.slots.map((slot) => fieldOf(slot, state, site));
  if (!state.slots.length || state.slots.every((slot) => !slot.initial)) {
    unclear.push({ span: spanOf(script.file, state.variable.call), what: 'the initial state', why: 'it is no object that could be followed' });
  }
  if (state.slots.some((slot) => !slot.initial) && state.slots.some((slot) => slot.initial)) {
    unclear.push({ span: spanOf(script.file, state.variable.call), what: 'the initial state', why: 'it lacks values that the component reads' });
  }
  const declarations: Declaration[] = [
    { role: 'state', span: spanOf(script.file, state.variable.declaration), what: 'useReducer' },
    ...state.takenOut.map((declarator): Declaration => ({ role: 'support', span: spanOf(script.file, declarator.parentPath), what: 'values taken out of the state' })),
    ...retired.map((path): Declaration => ({ role: 'support', span: spanOf(script.file, path), what: 'handler that only dispatches' })),
    { role: 'support', span: spanOf(state.reducerScript.file, statementAround(state.reducer)), what: 'reducer' },
  ];
  return {
    ...frameOf(site),
    approach: 'reducer',
    files: [...new Set([script.file, state.reducerScript.file])],
    fields,
    controls: state.bound.map(({ model }) => model),
    uses: uses.sort((a, b) => a.span.start - b.span.start || b.span.end - a.span.end),
    rules: [
      ...nativeRules(script, state.bound),
      ...codeRules(script, state.component, state.lens, (path) => (submits.some((fn) => path.findParent((parent) => parent.node === fn.node)) ? 'submit' : 'change')),
    ],
    lifeCycle: {
      values: fields.every((field) => field.initial.when === 'constant') ? 'constants' : 'props',
      submit: { ...submitCycle(script, site.region, submits, []), ...(site.region.element ? {} : { how: 'button' as const }) },
      resets: uses.flatMap((use) =>
        use.kind === 'set' && use.assignments.some(({ value }) => value.kind === 'initial')
          ? [{ line: script.lines.lineAt(use.span.start), what: use.resetsAll ? ('all' as const) : ('some' as const) }]
          : [],
      ),
    },
    others: stateVariablesOf({ path: state.component })
      .filter((variable) => variable.hook === 'useState' && variable.value)
      .map((variable) => ({ name: variable.value?.node.name ?? '', line: script.lines.lineAt(variable.declarator.node.start ?? 0), why: 'the reducer does not hold it', status: false })),
    declarations,
    names: ownedNames(state, script.file),
    unclear,
    handlers: new Set(uses.filter((use) => use.kind !== 'read').map((use) => functionAt(state.component, use.span.start))).size,
    stateVariables: 1,
  };
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

function ownedNames(state: ReducerState, file: string): OwnedName[] {
  const { value, change } = state.variable;
  return [value, change].filter((one) => one !== undefined).map((one) => ({ file, name: one.node.name, declaredAt: one.node.start ?? 0 }));
}

function isConstant(node: t.Node): boolean {
  if (t.isLiteral(node) && !t.isTemplateLiteral(node)) return true;
  if (t.isTemplateLiteral(node)) return node.expressions.length === 0;
  if (t.isIdentifier(node)) return node.name === 'undefined';
  if (t.isTSAsExpression(node)) return isConstant(node.expression);
  if (t.isUnaryExpression(node)) return isConstant(node.argument);
  if (t.isArrayExpression(node)) return node.elements.every((element) => element !== null && isConstant(element));
  return t.isObjectExpression(node) && node.properties.every((property) => t.isObjectProperty(property) && isConstant(property.value));
}

function fieldOf(slot: Slot, state: ReducerState, site: FormSite): Field {
  const { initial } = slot;
  const script = initial?.script ?? site.script;
  const inferred = initial ? expressionTypes(script).typeOf(initial.path) : undefined;
  const written = site.script.typescript ? memberTypeText(state, slot.name, site) : undefined;
  const controls = state.bound.filter(({ field }) => holderOf(field) === slot.name);
  const control = controls.find(({ field }) => field === slot.name)?.control;
  const rows = controls.some(({ field }) => field.includes('[]'));
  const text = initial ? script.text.slice(initial.path.node.start ?? 0, initial.path.node.end ?? 0) : 'undefined';
  const isField = state.fields.some((candidate) => candidate.name === slot.name);
  const type = written ?? inferred;
  const span = initial ? spanOf(script.file, initial.path) : spanOf(site.script.file, state.variable.call);
  const constant = initial ? isConstant(initial.path.node) : true;
  return {
    name: slot.name,
    kind: rows ? 'list of rows' : control ? kindOf(control, type) : kindOfType(type),
    role: isField ? 'field' : 'status',
    type,
    typeWritten: written !== undefined && written !== inferred,
    initial: {
      code: initial ? plainCode(script.file, initial.path) : undefined,
      text,
      when: state.initialOnce && !constant ? 'once' : constant ? 'constant' : 'each-render',
    },
    ...commentsAround(initial?.path.parentPath, script.text),
    names: slot.alias === undefined ? {} : { value: slot.alias },
    declared: span,
  };
}

/** Comments at a property of the initial state. */
function commentsAround(property: NodePath | null | undefined, text: string): Pick<Field, 'commentsBefore' | 'commentBehind'> {
  const node = property?.isObjectProperty() ? property.node : undefined;
  const textOf = (comment: t.Comment): string => text.slice(comment.start ?? 0, comment.end ?? 0);
  const sameLine = (comment: t.Comment): boolean => !text.slice(node?.end ?? 0, comment.start ?? 0).includes('\n');
  const startsLine = (comment: t.Comment): boolean => /(^|\n)[ \t]*$/.test(text.slice(0, comment.start ?? 0));
  const behind = (node?.trailingComments ?? []).filter(sameLine).map(textOf);
  return {
    commentsBefore: (node?.leadingComments ?? []).filter(startsLine).map(textOf),
    commentBehind: behind.length ? behind.join(' ') : undefined,
  };
}

function usesOf(state: ReducerState, site: FormSite, submits: readonly FunctionPath[], unclear: Unclear[]): { uses: Use[]; retired: NodePath[] } {
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
      uses.push({ kind: 'read', field: name, shorthand: shorthandKey(reference) !== undefined, where: where(reference), span: spanOf(script.file, reference) });
    }
  }
  const slots = state.slots.map(({ name }) => name);
  const isChange = (call: t.CallExpression): boolean => t.isIdentifier(call.callee, { name: variable.change?.node.name ?? '' });
  for (const reference of referencesTo(variable.change)) {
    const call = reference.parentPath;
    const list = dependencyListAround(reference);
    if (list) {
      uses.push({ kind: 'depend', list: spanOf(script.file, list), where: where(reference), span: spanOf(script.file, reference) });
      continue;
    }
    if (!call?.isCallExpression() || reference.key !== 'callee') {
      unclear.push({ span: spanOf(script.file, reference), what: variable.change?.node.name ?? 'dispatch', why: 'the dispatch function is handed on' });
      continue;
    }
    const effect = dispatchEffect(call, { cases: state.cases, script, load: site.load, slots, initialObject: state.initialObject });
    if (effect.kind === 'unclear') {
      unclear.push({ span: spanOf(script.file, call), what: script.text.slice(call.node.start ?? 0, call.node.end ?? 0), why: effect.why });
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

function readUse(reference: NodePath, state: ReducerState, site: FormSite, where: (path: NodePath) => Use['where'], unclear: Unclear[]): Use {
  const { script } = site;
  const member = reference.parentPath;
  if (member?.isMemberExpression() && reference.key === 'object' && !member.node.computed && t.isIdentifier(member.node.property)) {
    const field = member.node.property.name;
    if (!state.slots.some(({ name }) => name === field)) unclear.push({ span: spanOf(script.file, member), what: `${script.text.slice(member.node.start ?? 0, member.node.end ?? 0)}`, why: 'the initial state lacks it' });
    const { parentPath } = member;
    if (parentPath.isAssignmentExpression() && member.key === 'left') unclear.push({ span: spanOf(script.file, parentPath), what: 'assignment to the state', why: 'the state is changed in place' });
    return { kind: 'read', field, shorthand: false, where: where(reference), span: spanOf(script.file, member) };
  }
  const list = dependencyListAround(reference);
  if (list) unclear.push({ span: spanOf(script.file, reference), what: 'the whole state in a dependency list', why: 'an object made anew at every render would change it each time' });
  if (member?.isVariableDeclarator()) unclear.push({ span: spanOf(script.file, member), what: script.text.slice(member.node.start ?? 0, member.node.end ?? 0), why: 'values are taken out of the state in a way that could not be followed' });
  return { kind: 'read-all', where: where(reference), span: spanOf(script.file, reference) };
}

