import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment } from '../../form/uses.js';
import type { Code, Hole } from '../../form/code.js';
import { plainCode } from '../code.js';
import { casesOf, type ReducerCase } from './cases.js';
import { type EffectContext, type Given, type Action, actionAt, inside } from './actions.js';
import { computed, withCaptured } from './computed-values.js';
import { type Gathered, gather, isInitial } from './gathered.js';
import { walk } from '../../source/traverse.js';

/** What a dispatch does to the values of a reducer. */
export type Effect =
  | {
      kind: 'set';
      assignments: Assignment[];
      resetsAll: boolean;
      type: string | undefined;
      /** What is handed over is made of whole objects, not of single values alone. */
      replaces?: boolean;
    }
  | { kind: 'named'; key: Given; value: Given; rest: Assignment[]; type: string | undefined }
  /** Values of an object that is handed over, whichever it names, take the place of the ones before. */
  | { kind: 'merge'; code: Code; type: string | undefined }
  | { kind: 'unclear'; why: string };

const unclear = (why: string): Effect => ({ kind: 'unclear', why });

/** Whether each constant of a statement is used in one place, so that its value can stand there. */
function usedOnce(statement: NodePath<t.VariableDeclaration>): boolean {
  return Object.keys(t.getBindingIdentifiers(statement.node)).every(
    (name) => (statement.scope.getBinding(name)?.references ?? 0) <= 2,
  );
}

/** The one expression that a case returns; undefined where it decides between several. */
function returnedBy(found: ReducerCase): NodePath | undefined {
  const last = found.statements.at(-1);
  const before = found.statements.slice(0, -1);
  if (
    !before.every((statement) => statement.isVariableDeclaration() && usedOnce(statement)) ||
    !last?.isReturnStatement() ||
    !last.node.argument
  )
    return undefined;
  return last.get('argument') as NodePath;
}

/**
 * Says what a call of the dispatch function does to the reducer's values.
 * @param call the call, in the component
 * @param argument the action, where it is a part of what is dispatched
 */
export function dispatchEffect(
  call: NodePath<t.CallExpression>,
  context: EffectContext,
  argument: NodePath | undefined = call.get('arguments')[0],
): Effect {
  if (!argument) return unclear('nothing is dispatched');
  const { cases } = context;
  if (cases.trouble !== undefined) return unclear(cases.trouble);
  const action = actionAt(argument, context);
  if (typeof action === 'string') return unclear(action);
  const found = cases.cases.find((candidate) => candidate.types.includes(action.type ?? ''));
  if (cases.cases.length && action.type === undefined) return unclear('the action has no type that could be told');
  // an action without a case of its own gets what the reducer returns in the end
  const returned = found ? returnedBy(found) : cases.always;
  if (!returned)
    return found
      ? conditional(found, action, context)
      : unclear(`the reducer has no case for ${action.type ?? 'this action'}`);
  const gathered = gather(returned, action, context);
  if (typeof gathered === 'string') return unclear(gathered);
  return effectOf(gathered, action.type, context);
}

/**
 * Says what a call of `useState`'s setter does to the values of the object it holds.
 * @param call the call, in the component
 */
export function changeEffect(call: NodePath<t.CallExpression>, context: EffectContext): Effect {
  const [argument, ...more] = call.get('arguments');
  if (!argument || more.length) return unclear('the setter is not given one value');
  const action: Action = { type: undefined, properties: new Map(), whole: undefined };
  if (argument.isArrowFunctionExpression() || argument.isFunctionExpression()) {
    const cases = casesOf(argument, context.script, context.load);
    const own = { ...context, cases };
    const body = argument.get('body') as NodePath;
    if (!body.isBlockStatement()) return gatheredEffect(gather(body, action, own), own);
    const found: ReducerCase = { types: [], statements: body.get('body') };
    const returned = returnedBy(found);
    // statements with comments move as they are, so that nothing is lost
    const told = (context.script.ast.comments ?? []).some(
      (comment) =>
        (comment.start ?? 0) >= (body.node.start ?? 0) &&
        (comment.end ?? 0) <= (body.node.end ?? 0) &&
        !(
          returned &&
          (comment.start ?? 0) >= (returned.node.start ?? 0) &&
          (comment.end ?? 0) <= (returned.node.end ?? 0)
        ),
    );
    return returned && !told ? gatheredEffect(gather(returned, action, own), own) : conditional(found, action, own);
  }
  const isNothing = argument.isIdentifier({ name: 'undefined' });
  if ((argument.isIdentifier() && !isNothing) || argument.isMemberExpression()) {
    if (isInitial(argument, context))
      return gatheredEffect({ assignments: [], unchanged: [], named: [], base: 'initial' }, context);
    return gatheredEffect(memberwise(argument, context), context);
  }
  return gatheredEffect(gather(argument as NodePath, action, context), context);
}

/** Every value taken from an object that is handed over whole. */
function memberwise(path: NodePath, context: EffectContext): Gathered {
  const code = plainCode(context.script.file, path);
  const assignments = context.slots.map((field): Assignment => {
    const hole: Hole = { kind: 'given', start: code.start, end: code.end, code, suffix: `.${field}`, wrap: false };
    return { field, value: { kind: 'value', code: { ...code, holes: [hole] } } };
  });
  return { assignments, unchanged: [], named: [], base: 'none' };
}

function gatheredEffect(gathered: Gathered | string, context: EffectContext): Effect {
  return typeof gathered === 'string' ? unclear(gathered) : effectOf(gathered, undefined, context);
}

function effectOf(gathered: Gathered, type: string | undefined, context: EffectContext): Effect {
  const { slots } = context;
  const assignments = gathered.assignments.filter(({ field }) => slots.includes(field));
  if (assignments.length < gathered.assignments.length)
    return unclear('the reducer sets a value that the initial state lacks');
  const named = new Set([...assignments.map(({ field }) => field), ...gathered.unchanged]);
  // `{}` is how an object begins that lacks everything
  if (
    gathered.base === 'none' &&
    !gathered.named.length &&
    !named.size &&
    slots.every((slot) => context.absent?.includes(slot))
  )
    return effectOf({ ...gathered, base: 'initial' }, type, context);
  if (gathered.base === 'none' && !gathered.named.length && slots.some((slot) => !named.has(slot)))
    return unclear('the new state lacks some of the values');
  const initial =
    gathered.base === 'initial'
      ? slots.filter((slot) => !named.has(slot)).map((field): Assignment => ({ field, value: { kind: 'initial' } }))
      : [];
  const all = [...initial, ...assignments].sort((a, b) => slots.indexOf(a.field) - slots.indexOf(b.field));
  const first = gathered.named[0];
  if (gathered.merged) {
    return gathered.base === 'keep' && !first && !all.length && !gathered.unchanged.length
      ? { kind: 'merge', code: gathered.merged, type }
      : unclear('an object of values is spread beside other changes');
  }
  if (!first) {
    const resetsAll = gathered.base === 'initial' && !named.size;
    const replaces = gathered.base !== 'keep' || gathered.spreads === true;
    return { kind: 'set', assignments: all, resetsAll, type, replaces };
  }
  if (gathered.named.length > 1) return unclear('one action sets several fields whose names are computed');
  return { kind: 'named', ...first, rest: all, type };
}

/** A case that decides between values of one field: it becomes an update from the previous value. */
function conditional(found: ReducerCase, action: Action, outer: EffectContext): Effect {
  const context: EffectContext = { ...outer, keepLocals: true };
  const first = found.statements[0];
  const last = found.statements.at(-1);
  if (!first || !last) return unclear('the case is empty');
  const returns: { path: NodePath; gathered: Gathered }[] = [];
  let trouble: string | undefined;
  const visit = (statement: NodePath<t.ReturnStatement>): void => {
    const argument = statement.get('argument') as NodePath;
    const gathered = argument.node ? gather(argument, action, context) : 'a return without a value';
    if (typeof gathered === 'string') trouble = gathered;
    else returns.push({ path: argument, gathered });
  };
  for (const statement of found.statements) {
    if (statement.isReturnStatement()) visit(statement);
    walk(statement, { Function: (inner) => inner.skip(), ReturnStatement: visit });
  }
  if (trouble !== undefined) return unclear(trouble);
  const fields = new Set(returns.flatMap(({ gathered }) => gathered.assignments.map(({ field }) => field)));
  const [field] = fields;
  if (
    fields.size !== 1 ||
    field === undefined ||
    returns.some(({ gathered }) => gathered.base !== 'keep' || gathered.named.length)
  ) {
    return unclear('this case of the reducer decides between changes of several fields');
  }
  const holes: Hole[] = [];
  const reads = new Set<string>([field]);
  for (const { path, gathered } of returns) {
    const value = gathered.assignments[0]?.value;
    const start = path.node.start ?? 0;
    const end = path.node.end ?? 0;
    const code =
      value?.kind === 'from-previous'
        ? value.body
        : value?.kind === 'value'
          ? value.code
          : { ...plainCode(context.cases.script.file, path), start, end: start };
    if (value?.kind === 'from-previous') for (const read of value.reads) reads.add(read);
    const plain = value?.kind === 'value' && context.isHeld !== undefined;
    const given = plain ? withCaptured(path, code, context) : code;
    holes.push({ kind: 'returned', start, end, value: inside(given), unchanged: value === undefined });
  }
  for (const statement of found.statements) {
    const inner = computed(
      statement,
      action,
      context,
      returns.map(({ path }) => path.node),
    );
    if (typeof inner === 'string') return unclear(inner);
    for (const read of inner.reads) reads.add(read);
    const own = context.isHeld ? withCaptured(statement, inner.code, context) : inner.code;
    for (const hole of own.holes)
      if (!holes.some((outer) => hole.start >= outer.start && hole.end <= outer.end)) holes.push(hole);
  }
  const comment = context.isHeld ? first.node.leadingComments?.[0]?.start : undefined;
  const body: Code = {
    file: context.cases.script.file,
    start: comment ?? first.node.start ?? 0,
    end: last.node.end ?? 0,
    holes: holes.sort((a, b) => a.start - b.start),
  };
  return {
    kind: 'set',
    assignments: [
      {
        field,
        value: { kind: 'from-previous', body, block: true, reads: [...reads], parameter: undefined, whole: undefined },
      },
    ],
    resetsAll: false,
    type: action.type,
  };
}
