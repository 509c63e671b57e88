import * as t from '@babel/types';
import type { Code, Hole } from '../form/code.js';
import type { CheckFunction } from '../form/rules.js';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import { traverse } from '../source/traverse.js';
import { declarationNamed } from '../source/type-members.js';

type AnyFunction = t.ArrowFunctionExpression | t.FunctionExpression | t.FunctionDeclaration;

/**
 * The function behind a validator that is no built-in one, as far as all of it can be said of values alone: it asks its
 * control for nothing but values, and answers with one error or none.
 * @param node the validator as it stands in a list: a function, its name, or the call of a function that makes one
 * @returns undefined where it does anything else
 */
export function checkFunction(node: t.Node | undefined, script: Script, load: LoadScript): CheckFunction | undefined {
  const found = functionBehind(node, script, load);
  const [parameter, ...more] = found?.fn.params ?? [];
  if (!found || !t.isIdentifier(parameter) || more.length) return undefined;
  const { fn, script: home, given } = found;
  const body = read(fn, parameter.name, home, given);
  if (!body || (home !== script && !standsAlone(fn, parameter.name, given))) return undefined;
  return body;
}

function functionBehind(
  node: t.Node | undefined,
  script: Script,
  load: LoadScript,
): { fn: AnyFunction; script: Script; given: Map<string, string> } | undefined {
  if (isFunction(node)) return { fn: node, script, given: new Map() };
  if (t.isIdentifier(node)) {
    const found = declared(node.name, script, load);
    return found && { ...found, given: new Map() };
  }
  if (!t.isCallExpression(node) || !t.isIdentifier(node.callee)) return undefined;
  const maker = declared(node.callee.name, script, load);
  const made = maker && returned(maker.fn);
  if (!maker || !isFunction(made)) return undefined;
  const given = new Map<string, string>();
  for (const [index, parameter] of maker.fn.params.entries()) {
    const argument = node.arguments[index];
    // what is handed over has to mean the same wherever it stands
    if (!t.isIdentifier(parameter) || !(t.isNumericLiteral(argument) || t.isStringLiteral(argument))) return undefined;
    given.set(parameter.name, script.text.slice(argument.start ?? 0, argument.end ?? 0));
  }
  return { fn: made, script: maker.script, given };
}

function isFunction(node: t.Node | null | undefined): node is AnyFunction {
  return t.isArrowFunctionExpression(node) || t.isFunctionExpression(node) || t.isFunctionDeclaration(node);
}

function declared(name: string, script: Script, load: LoadScript): { fn: AnyFunction; script: Script } | undefined {
  const found = declarationNamed(name, script, load);
  const node = t.isVariableDeclarator(found?.node) ? found.node.init : found?.node;
  return found && isFunction(node) ? { fn: node, script: found.script } : undefined;
}

function returned({ body }: AnyFunction): t.Node | null | undefined {
  if (!t.isBlockStatement(body)) return body;
  const [only, ...more] = body.body;
  return t.isReturnStatement(only) && !more.length ? only.argument : undefined;
}

/** The body with a hole for each value it asks for and each error it gives. */
function read(
  fn: AnyFunction,
  control: string,
  script: Script,
  given: ReadonlyMap<string, string>,
): CheckFunction | undefined {
  const { file } = script;
  const holes: Hole[] = [];
  const reads: CheckFunction['reads'] = [];
  const errors: CheckFunction['errors'] = [];
  let fine = true;
  const text = (node: t.Node): string => script.text.slice(node.start ?? 0, node.end ?? 0);
  const place = (node: t.Node): { start: number; end: number } => ({ start: node.start ?? 0, end: node.end ?? 0 });
  const answer = (node: t.Node | null | undefined): void => {
    if (t.isConditionalExpression(node)) {
      answer(node.consequent);
      answer(node.alternate);
      return;
    }
    if (t.isParenthesizedExpression(node) || t.isTSAsExpression(node)) return answer(node.expression);
    if (t.isNullLiteral(node) || t.isIdentifier(node, { name: 'undefined' })) return;
    const [only, ...more] = t.isObjectExpression(node) ? node.properties : [];
    const key = t.isObjectProperty(only) && !only.computed ? keyOf(only.key) : undefined;
    const value = t.isObjectProperty(only) ? only.value : undefined;
    if (!node || key === undefined || more.length || !value) fine = false;
    else if (t.isBooleanLiteral(value, { value: true })) errors.push({ ...place(node), key, detail: undefined });
    else if (t.isObjectExpression(value)) {
      const inner = text(value).replace(/^\{\s*|\s*,?\s*\}$/g, '');
      // what an error carries is written where it is given
      if (new RegExp(`\\b(${[control, ...given.keys()].join('|')})\\b`).test(inner)) fine = false;
      errors.push({ ...place(node), key, detail: inner });
    } else fine = false;
  };
  traverse(t.file(t.program([t.expressionStatement(asExpression(fn))])), {
    ReturnStatement(path) {
      if (path.getFunctionParent()?.node === asExpressionNode(path.getFunctionParent()?.node, fn))
        answer(path.node.argument);
    },
    Identifier(path) {
      const { node } = path;
      const { parent } = path;
      const isKey =
        (t.isMemberExpression(parent) || t.isOptionalMemberExpression(parent)) &&
        parent.property === node &&
        !parent.computed;
      const isName = t.isObjectProperty(parent) && parent.key === node && !parent.computed && !parent.shorthand;
      if (isKey || isName || fn.params.includes(node)) return;
      const literal = given.get(node.name);
      if (literal !== undefined) {
        if (t.isObjectProperty(parent) && parent.shorthand) fine = false;
        holes.push({ kind: 'text', ...place(node), text: literal });
      }
      if (node.name !== control) return;
      const asked = valueAsked(
        path.parentPath?.node,
        path.parentPath?.parentPath?.node,
        path.parentPath?.parentPath?.parentPath?.node,
        node,
      );
      if (asked) reads.push(asked);
      else fine = false;
    },
  });
  if (!t.isBlockStatement(fn.body)) answer(fn.body);
  if (!fine || !errors.length) return undefined;
  const code: Code = { file, ...place(fn.body), holes };
  return { code, block: t.isBlockStatement(fn.body), reads, errors };
}

function asExpression(fn: AnyFunction): t.Expression {
  return t.isFunctionDeclaration(fn)
    ? Object.assign(t.functionExpression(null, fn.params as t.FunctionParameter[], fn.body), {
        start: fn.start,
        end: fn.end,
      })
    : fn;
}

function asExpressionNode(around: t.Node | undefined, fn: AnyFunction): t.Node | undefined {
  return around && 'body' in around && around.body === fn.body ? around : undefined;
}

function keyOf(node: t.Node): string | undefined {
  return t.isIdentifier(node) ? node.name : t.isStringLiteral(node) ? node.value : undefined;
}

/** What a control is asked for at a place: its own value, or that of one of its fields. */
function valueAsked(
  first: t.Node | undefined,
  second: t.Node | undefined,
  third: t.Node | undefined,
  control: t.Identifier,
): CheckFunction['reads'][number] | undefined {
  const member = (node: t.Node | undefined, of: t.Node): string | undefined =>
    (t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) && bare(node.object) === of && !node.computed
      ? keyOf(node.property)
      : undefined;
  const place = (node: t.Node): { start: number; end: number } => ({ start: node.start ?? 0, end: node.end ?? 0 });
  const name = member(first, control);
  if (!first || name === undefined) return undefined;
  if (name === 'value') return { ...place(first), path: undefined };
  const isGet =
    name === 'get' &&
    (t.isCallExpression(second) || t.isOptionalCallExpression(second)) &&
    bare(second.callee) === first;
  const [key] = isGet ? second.arguments : [];
  if (!isGet || !t.isStringLiteral(key)) return undefined;
  const asked = t.isTSNonNullExpression(third) ? undefined : third;
  return asked && member(asked, second) === 'value' ? { ...place(asked), path: key.value } : undefined;
}

function bare(node: t.Node): t.Node {
  return t.isTSNonNullExpression(node) || t.isParenthesizedExpression(node) ? bare(node.expression) : node;
}

const everywhere =
  /^(undefined|null|NaN|Infinity|String|Number|Boolean|Date|Math|Array|Object|JSON|RegExp|Set|Map|parseInt|parseFloat|isNaN)$/;

/** Whether a function uses nothing of its file but itself. */
function standsAlone(fn: AnyFunction, control: string, given: ReadonlyMap<string, string>): boolean {
  const own = new Set([control, ...given.keys()]);
  t.traverseFast(fn.body, (node) => {
    if (t.isVariableDeclarator(node)) for (const name of Object.keys(t.getBindingIdentifiers(node.id))) own.add(name);
    if (t.isFunction(node))
      for (const parameter of node.params)
        for (const name of Object.keys(t.getBindingIdentifiers(parameter as t.LVal))) own.add(name);
  });
  let alone = true;
  const seen = new Set<t.Node>();
  t.traverseFast(fn.body, (node) => {
    if ((t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) && !node.computed) seen.add(node.property);
    if (t.isObjectProperty(node) && !node.computed && !node.shorthand) seen.add(node.key);
    if (t.isTSType(node)) t.traverseFast(node, (inner) => void seen.add(inner));
    if (t.isIdentifier(node) && !seen.has(node) && !own.has(node.name) && !everywhere.test(node.name)) alone = false;
  });
  return alone;
}
