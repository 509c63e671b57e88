import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import type { FunctionPath } from '../components.js';
import { importOf } from '../hook-calls.js';
import { importedValue } from '../exports.js';
import { walk } from '../../source/traverse.js';

/** What a reducer does for one type of action. */
export interface ReducerCase {
  types: string[];
  /** Statements of the case, without `break`. */
  statements: NodePath<t.Statement>[];
}

/** A reducer taken apart. */
export interface ReducerCases {
  fn: FunctionPath;
  script: Script;
  /** Name of the state parameter. */
  state: string | undefined;
  /** Name of the action parameter, where it is not taken apart. */
  action: string | undefined;
  /** Local names of the parts of an action that is taken apart in the parameter: local name to key. */
  parts: Map<string, string>;
  cases: ReducerCase[];
  /** The property of an action that tells its type. */
  discriminant: string;
  /** The value of a reducer that treats every action alike: `(state, patch) => ({ ...state, ...patch })`. */
  always: NodePath<t.Expression> | undefined;
  /** What of it is not understood, so that none of its cases says all that happens. */
  trouble?: string;
}

/**
 * The value a type of action has: its text where it is known, the source text of its name otherwise.
 * @param path a literal, a constant, or a member of a constant object
 */
export function actionTypeOf(path: NodePath, script: Script, load: FormSite['load']): string {
  const text = script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
  const evaluated = path.evaluate();
  if (evaluated.confident && typeof evaluated.value === 'string') return evaluated.value;
  const root = path.isMemberExpression() ? path.get('object') : path;
  if (root.isIdentifier()) {
    const from = importOf(root);
    const local = from ? importedValue(from, script, load)?.path : declaredInit(root);
    const value = local ? memberValue(local, path) : undefined;
    if (value !== undefined) return value;
  }
  return text.replace(/['"`]/g, '');
}

function declaredInit(path: NodePath<t.Identifier>): NodePath | undefined {
  const declared = path.scope.getBinding(path.node.name)?.path;
  return declared?.isVariableDeclarator() && declared.node.init ? (declared.get('init') as NodePath) : undefined;
}

function memberValue(value: NodePath, asked: NodePath): string | undefined {
  const inner = value.isTSAsExpression() ? (value.get('expression') as NodePath) : value;
  const object = inner.isCallExpression() ? (inner.get('arguments')[0] as NodePath | undefined) : inner;
  if (t.isStringLiteral(object?.node)) return object.node.value;
  const key = asked.isMemberExpression() && t.isIdentifier(asked.node.property) ? asked.node.property.name : undefined;
  if (!object?.isObjectExpression() || key === undefined) return undefined;
  for (const property of object.node.properties) {
    if (
      t.isObjectProperty(property) &&
      t.isIdentifier(property.key, { name: key }) &&
      t.isStringLiteral(property.value)
    )
      return property.value.value;
  }
  return undefined;
}

function partsOf(parameter: t.Node | undefined): Map<string, string> {
  const parts = new Map<string, string>();
  const pattern = t.isAssignmentPattern(parameter) ? parameter.left : parameter;
  if (!t.isObjectPattern(pattern)) return parts;
  for (const property of pattern.properties) {
    if (t.isObjectProperty(property) && t.isIdentifier(property.key) && t.isIdentifier(property.value))
      parts.set(property.value.name, property.key.name);
  }
  return parts;
}

/** Takes a reducer apart into its cases: a `switch`, a chain of `if`s, or one expression for every action. */
export function casesOf(fn: FunctionPath, script: Script, load: FormSite['load']): ReducerCases {
  const [first, second] = fn.node.params;
  const whole: ReducerCases = {
    fn,
    script,
    state: t.isIdentifier(first)
      ? first.name
      : t.isAssignmentPattern(first) && t.isIdentifier(first.left)
        ? first.left.name
        : undefined,
    action: t.isIdentifier(second) ? second.name : undefined,
    parts: partsOf(second),
    cases: [],
    discriminant: 'type',
    always: undefined,
  };
  whole.discriminant = discriminantOf(fn, whole);
  const body = fn.get('body') as NodePath;
  if (body.isExpression()) return { ...whole, always: body };
  if (!body.isBlockStatement()) return whole;
  const isType = (path: NodePath): boolean => isActionType(path, whole);
  const statements = body.get('body');
  for (const [index, statement] of statements.entries()) {
    if (statement.isVariableDeclaration()) {
      for (const { id, init } of statement.node.declarations) {
        if (t.isIdentifier(init, { name: whole.action ?? '' }))
          for (const [local, key] of partsOf(id)) whole.parts.set(local, key);
      }
    } else if (statement.isSwitchStatement() && isType(statement.get('discriminant'))) {
      whole.cases.push(...switchCases(statement, script, load));
    } else if (statement.isIfStatement()) {
      const cases = ifCases(statement, whole, script, load);
      if (!cases.length) whole.trouble = 'the reducer decides something before it asks for the action';
      whole.cases.push(...cases);
    } else if (statement.isReturnStatement() && statement.node.argument && (index === 0 || whole.cases.length)) {
      whole.always = statement.get('argument') as NodePath<t.Expression>;
    }
  }
  return whole;
}

/** The property of the action that the reducer asks first: what it switches on, or compares with a constant. */
function discriminantOf(fn: FunctionPath, cases: ReducerCases): string {
  let found: string | undefined;
  const ask = (node: t.Node): void => {
    if (found !== undefined) return;
    if (t.isIdentifier(node)) found = cases.parts.get(node.name);
    if (
      t.isMemberExpression(node) &&
      t.isIdentifier(node.object, { name: cases.action ?? '' }) &&
      t.isIdentifier(node.property)
    )
      found = node.property.name;
  };
  walk(fn, {
    SwitchStatement: (path) => ask(path.node.discriminant),
    IfStatement(path) {
      const { test } = path.node;
      if (t.isBinaryExpression(test) && /^===?$/.test(test.operator)) {
        ask(test.left);
        ask(test.right);
      }
    },
  });
  return found ?? 'type';
}

function isActionType(path: NodePath, cases: ReducerCases): boolean {
  if (path.isIdentifier()) return cases.parts.get(path.node.name) === cases.discriminant;
  return (
    path.isMemberExpression() &&
    t.isIdentifier(path.node.object, { name: cases.action ?? '' }) &&
    t.isIdentifier(path.node.property, { name: cases.discriminant })
  );
}

function withoutBreak(statements: NodePath<t.Statement>[]): NodePath<t.Statement>[] {
  return statements
    .flatMap((statement) => (statement.isBlockStatement() ? statement.get('body') : [statement]))
    .filter((statement) => !statement.isBreakStatement());
}

function switchCases(statement: NodePath<t.SwitchStatement>, script: Script, load: FormSite['load']): ReducerCase[] {
  const found: ReducerCase[] = [];
  let waiting: string[] = [];
  for (const branch of statement.get('cases')) {
    const test = branch.get('test') as NodePath;
    if (test.node) waiting.push(actionTypeOf(test, script, load));
    const statements = branch.get('consequent');
    if (!statements.length) continue;
    if (waiting.length) found.push({ types: waiting, statements: withoutBreak(statements) });
    waiting = [];
  }
  return found;
}

function ifCases(
  statement: NodePath<t.IfStatement>,
  cases: ReducerCases,
  script: Script,
  load: FormSite['load'],
): ReducerCase[] {
  const test = statement.get('test');
  const types: string[] = [];
  const collect = (path: NodePath): boolean => {
    if (path.isLogicalExpression({ operator: '||' })) return collect(path.get('left')) && collect(path.get('right'));
    if (!path.isBinaryExpression({ operator: '===' }) && !path.isBinaryExpression({ operator: '==' })) return false;
    const [left, right] = [path.get('left') as NodePath, path.get('right') as NodePath];
    const value = isActionType(left, cases) ? right : isActionType(right, cases) ? left : undefined;
    if (!value) return false;
    types.push(actionTypeOf(value, script, load));
    return true;
  };
  if (!collect(test)) return [];
  const alternate = statement.get('alternate') as NodePath;
  const rest = alternate.isIfStatement() ? ifCases(alternate, cases, script, load) : [];
  return [{ types, statements: withoutBreak([statement.get('consequent')]) }, ...rest];
}
