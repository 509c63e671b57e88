import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, type Placed } from '../source/behind-names.js';
import type { Script } from '../source/script.js';
import { functionAsked } from './called-functions.js';
import { keyAt, meaningOf, namesOfCall, type Names, type RuleLens } from './meanings.js';
import {
  keyOfTarget,
  keyTested,
  named,
  namesAField,
  namesFields,
  oneMessage,
  subjectOf,
  withValueOf,
} from './message-keys.js';
import { roundsOf } from './rounds.js';
import { asked, emit, isMessage, type Context, type Found, type StatedRule, type Walk } from './stated-rule.js';

/**
 * Reads the rules that a function states: errors put into an object, messages returned, a switch over a name.
 * @param fn the function with its file
 * @param names what its parameters stand for
 * @returns its rules; for each name in the order in which the first broken one gives the message
 */
export function rulesOfFunction(fn: Placed, names: Names, lens: RuleLens): StatedRule[] {
  if (!fn.path.isFunction()) return [];
  const walk: Walk = { lens, found: [], answering: new Set() };
  const context: Context = {
    tests: [],
    names,
    script: fn.script,
    key: undefined,
    piece: undefined,
    given: undefined,
    depth: 0,
  };
  walkFunction(fn.path, context, walk);
  return inOrder(spoken(walk));
}

/** Reads the rules that some statements state, one after another. */
export function rulesOfStatements(statements: readonly NodePath[], script: Script, lens: RuleLens): StatedRule[] {
  const walk: Walk = { lens, found: [], answering: new Set() };
  walkAll(
    statements,
    { tests: [], names: new Map(), script, key: undefined, piece: undefined, given: undefined, depth: 0 },
    walk,
  );
  return inOrder(spoken(walk));
}

/**
 * Reads the rules that an expression states: a message under a condition. `key` is the name it is kept under.
 * @param spelledOut conditions that have a name are told as what the name stands for
 */
export function rulesOfValue(value: Placed, key: string | undefined, lens: RuleLens, spelledOut = false): StatedRule[] {
  const walk: Walk = { lens, found: [], answering: new Set() };
  const context: Context = {
    tests: [],
    names: new Map(),
    script: value.script,
    key,
    piece: undefined,
    given: undefined,
    repeats: spelledOut,
    depth: 0,
  };
  walkValue(value.path, { ...context, piece: value.path }, walk, undefined);
  return inOrder(spoken(walk));
}

/** Without texts of functions that always give one. */
function spoken({ found, answering }: Walk): Found[] {
  return found.filter(({ given, key }) => key !== undefined || given === undefined || !answering.has(given));
}

/** Of messages that are put one over the other, the last one shows. */
function inOrder(found: readonly Found[]): StatedRule[] {
  const keys = [...new Set(found.map(({ key }) => key))];
  const ordered = new Map<Found, number>();
  for (const key of keys) {
    const own = found.filter((rule) => rule.key === key);
    const chains = [...new Set(own.map(({ over }) => over?.node))];
    const turned =
      chains.length > 1 && own.every(({ over }) => over !== undefined)
        ? [...chains].reverse().flatMap((chain) => own.filter(({ over }) => over?.node === chain))
        : own;
    turned.forEach((rule, index) => {
      const place = own[index];
      ordered.set(rule, place ? found.indexOf(place) : index);
    });
  }
  return [...found]
    .sort((a, b) => (ordered.get(a) ?? 0) - (ordered.get(b) ?? 0))
    .map(({ over: _over, given: _given, ...rule }) => rule);
}

function walkFunction(fn: NodePath<t.Function>, context: Context, walk: Walk): void {
  const body = fn.get('body') as NodePath;
  if (body.isBlockStatement()) walkAll(body.get('body'), context, walk);
  else walkValue(body, { ...context, piece: context.piece ?? body, given: fn.node }, walk, undefined);
}

/** Walks statements. Returns whether nothing after them runs. */
function walkAll(statements: readonly NodePath[], context: Context, walk: Walk): boolean {
  let tests = context.tests;
  for (const statement of statements) {
    const here = { ...context, tests, piece: context.piece ?? statement };
    if (!statement.isIfStatement()) {
      if (walkStatement(statement, { ...context, tests }, walk)) return true;
      continue;
    }
    const before = walk.found.length;
    const [then, otherwise] = walkIf(statement, here, walk);
    if (then && otherwise) return true;
    const test = statement.get('test');
    const emitted = new Set(walk.found.slice(before).map(({ key }) => key));
    if (then) tests = [...tests, { ...asked(test, context), negated: true, earlier: emitted }];
    else if (otherwise) tests = [...tests, { ...asked(test, context), negated: false, earlier: emitted }];
  }
  return false;
}

/** Walks both branches; tells for each whether nothing after it runs. */
function walkIf(statement: NodePath<t.IfStatement>, context: Context, walk: Walk): [boolean, boolean] {
  const test = statement.get('test');
  const key = keyTested(test, context);
  const branch = (path: NodePath): NodePath[] => (path.isBlockStatement() ? path.get('body') : [path]);
  if (key !== undefined) {
    walkAll(branch(statement.get('consequent')), { ...context, ...named(key.name, key.binding, context) }, walk);
    const other = statement.get('alternate') as NodePath;
    if (other.node) walkAll(branch(other), context, walk);
    return [false, false];
  }
  const before = walk.found.length;
  const then = walkAll(
    branch(statement.get('consequent')),
    { ...context, tests: [...context.tests, { ...asked(test, context), negated: false }] },
    walk,
  );
  const other = statement.get('alternate') as NodePath;
  if (!other.node) return [then, false];
  const earlier = new Set(walk.found.slice(before).map(({ key: name }) => name));
  const otherwise = walkAll(
    branch(other),
    { ...context, tests: [...context.tests, { ...asked(test, context), negated: true, earlier }] },
    walk,
  );
  return [then, otherwise];
}

function walkStatement(statement: NodePath, context: Context, walk: Walk): boolean {
  const here = { ...context, piece: context.piece ?? statement };
  const rounds = roundsOf(statement, (path) => asked(path, context), walk.lens);
  if (rounds) {
    for (const { body, names } of rounds)
      walkAll(body.isBlockStatement() ? body.get('body') : [body], { ...here, names, repeats: true }, walk);
    return false;
  }
  if (statement.isReturnStatement()) {
    const value = statement.get('argument') as NodePath;
    const given = statement.getFunctionParent()?.node;
    if (value.isCallExpression()) walkExpression(value, here, walk);
    if (value.node) walkValue(value, { ...here, given }, walk, undefined);
    return true;
  }
  if (statement.isThrowStatement() || statement.isContinueStatement()) return true;
  if (statement.isBlockStatement()) return walkAll(statement.get('body'), context, walk);
  if (statement.isSwitchStatement()) return walkSwitch(statement, here, walk);
  if (statement.isTryStatement()) return walkAll(statement.get('block').get('body'), context, walk);
  if (statement.isVariableDeclaration()) {
    for (const declarator of statement.get('declarations')) {
      const value = declarator.get('init') as NodePath;
      if (value.node && bare(value).isObjectExpression()) walkValue(value, here, walk, undefined);
    }
    return false;
  }
  if (statement.isExpressionStatement()) walkExpression(statement.get('expression'), here, walk);
  return false;
}

function walkExpression(path: NodePath, context: Context, walk: Walk): void {
  if (path.isAssignmentExpression()) {
    const target = path.get('left') as NodePath;
    const key = keyOfTarget(target, context, walk.lens);
    if (key === undefined) return;
    const keeps = path.node.operator === '||=' || path.node.operator === '??=';
    const over = keeps ? undefined : (context.piece ?? path);
    walkValue(path.get('right'), { ...context, key: key === true ? context.key : key }, walk, over);
    return;
  }
  if (path.isLogicalExpression({ operator: '&&' })) {
    const test = { ...asked(path.get('left'), context), negated: false };
    walkExpression(path.get('right'), { ...context, tests: [...context.tests, test] }, walk);
    return;
  }
  if (!path.isCallExpression()) return;
  const { callee } = path.node;
  const member = t.isMemberExpression(callee) && t.isThisExpression(callee.object) ? callee.property : callee;
  const setter = t.isIdentifier(member) && /^(set|add|show)[A-Z]/.test(member.name);
  const pushes = t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'push' });
  if ((!setter && !pushes) || walk.lens.changes(path.get('callee') as NodePath)) return;
  const [first, second] = path.get('arguments') as (NodePath | undefined)[];
  const keyed = second && first?.isStringLiteral() ? { key: first.node.value, value: second } : undefined;
  const value = keyed?.value ?? first;
  if (!value) return;
  const fn = value.isFunction() ? (value.get('body') as NodePath) : value;
  // values that a class sets are no messages
  if (t.isIdentifier(member, { name: 'setState' }) && namesAField(fn, walk.lens)) return;
  walkValue(fn, keyed ? { ...context, key: keyed.key } : context, walk, undefined);
}

function walkSwitch(statement: NodePath<t.SwitchStatement>, context: Context, walk: Walk): boolean {
  const discriminant = bare(statement.get('discriminant'));
  const asksName = meaningOf(asked(discriminant, context))?.kind === 'key';
  const isKey = asksName || namesFields(statement, walk.lens);
  const binding = discriminant.isIdentifier() ? discriminant.scope.getBinding(discriminant.node.name) : undefined;
  let labels: (string | undefined)[] = [];
  for (const branch of statement.get('cases')) {
    const test = branch.get('test') as NodePath;
    labels.push(t.isStringLiteral(test.node) ? test.node.value : undefined);
    const consequent = branch.get('consequent');
    if (!consequent.length) continue;
    const [only] = consequent;
    const statements = consequent.length === 1 && only?.isBlockStatement() ? only.get('body') : consequent;
    for (const label of labels) {
      const known = asksName ? context : { ...context, names: withValueOf(label, discriminant, context) };
      const inner = isKey && label !== undefined ? named(label, binding, known) : {};
      // what a switch over something else asks for is no standard condition
      const tests = isKey ? context.tests : [...context.tests, { ...asked(discriminant, context), negated: false }];
      walkAll(statements, { ...context, tests, ...inner, piece: branch }, walk);
    }
    labels = [];
  }
  return false;
}

/** Walks a value that is a message, nothing, or one of several. */
function walkValue(value: NodePath, context: Context, walk: Walk, over: NodePath | undefined): void {
  const path = bare(value);
  if (context.depth > 6) return;
  const test = (of: NodePath, negated: boolean, earlier?: Set<string | undefined>): Context => ({
    ...context,
    tests: [...context.tests, { ...asked(of, context), negated, ...(earlier ? { earlier } : {}) }],
  });
  if (path.isConditionalExpression()) {
    if (
      isMessage(bare(path.get('consequent')), context, walk.lens) &&
      isMessage(bare(path.get('alternate')), context, walk.lens) &&
      !context.tests.length
    ) {
      if (context.given) walk.answering.add(context.given);
      return;
    }
    const before = walk.found.length;
    walkValue(path.get('consequent'), test(path.get('test'), false), walk, over);
    const earlier = new Set(walk.found.slice(before).map(({ key }) => key));
    walkValue(path.get('alternate'), test(path.get('test'), true, earlier), walk, over);
    return;
  }
  if (path.isLogicalExpression()) {
    if (path.node.operator === '&&') {
      walkValue(path.get('right'), test(path.get('left'), false), walk, over);
      return;
    }
    walkValue(path.get('left'), context, walk, over);
    walkValue(path.get('right'), context, walk, over);
    return;
  }
  if (path.isObjectExpression()) {
    walkObject(path, context, walk, over);
    return;
  }
  if (path.isFunction()) return;
  if (!isMessage(path, context, walk.lens)) {
    walkCalled(path, context, walk, over);
    return;
  }
  const fallsThrough =
    context.key === undefined && context.tests.every(({ earlier }) => earlier?.has(undefined) ?? false);
  if (fallsThrough && context.given) walk.answering.add(context.given);
  else if (context.tests.length) emit(path, context, walk, over);
}

function walkObject(
  path: NodePath<t.ObjectExpression>,
  context: Context,
  walk: Walk,
  over: NodePath | undefined,
): void {
  const own = path.parentPath.isReturnStatement() || path.parentPath.isArrowFunctionExpression();
  const subject = subjectOf(path, walk.lens);
  if (subject) {
    for (const property of path.get('properties'))
      if (property.isObjectProperty() && property.node !== subject.node)
        walkValue(property.get('value') as NodePath, { ...context, key: subject.name }, walk, over);
    return;
  }
  const one = oneMessage(path, walk.lens);
  if (one) {
    if (one.text) walkValue(one.text, context, walk, over);
    return;
  }
  for (const property of path.get('properties')) {
    if (property.isSpreadElement()) walkValue(property.get('argument'), context, walk, over);
    if (!property.isObjectProperty()) continue;
    const { key, computed } = property.node;
    const name = t.isIdentifier(key) && !computed ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    const meant = computed ? keyAt(asked(property.get('key') as NodePath, context)) : undefined;
    const found = name ?? (meant ? (meant.name ?? context.key) : undefined);
    if (found === undefined) continue;
    const inner = { ...context, key: found, piece: own && !context.tests.length ? property : context.piece };
    walkValue(property.get('value') as NodePath, inner, walk, over);
  }
}

/** A value that a function gives: its rules count where it is called. */
function walkCalled(path: NodePath, context: Context, walk: Walk, over: NodePath | undefined): void {
  const here = asked(path, context);
  const meaning = meaningOf(here);
  if (meaning?.kind === 'code') {
    walkValue(meaning.at.path, { ...context, ...meaning.at, depth: context.depth + 1 }, walk, over);
    return;
  }
  if (path.isIdentifier()) {
    const declared = path.scope.getBinding(path.node.name);
    const init =
      declared?.constant && declared.path.isVariableDeclarator() ? (declared.path.get('init') as NodePath) : undefined;
    const object = init?.node ? bare(init) : undefined;
    // an object of errors is read where it is declared and filled
    if (!object || object.isObjectExpression()) return;
    // that there is a message is what the message's own conditions say
    const tests = context.tests.filter(
      (test) =>
        test.negated || !test.path.isIdentifier() || test.path.scope.getBinding(test.path.node.name) !== declared,
    );
    walkValue(object, { ...context, tests, depth: context.depth + 1 }, walk, over);
    return;
  }
  if (!path.isCallExpression()) return;
  const called = functionAsked(asked(path.get('callee') as NodePath, context), walk.lens);
  if (!called) return;
  const names = namesOfCall(called.path, path, here, walk.lens, called.names);
  walkFunction(called.path, { ...context, names, script: called.script, depth: context.depth + 1 }, walk);
}
