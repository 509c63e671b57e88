import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Hole } from '../../form/code.js';
import { plainCode, shorthandKey } from '../code.js';
import { functionAround, type FunctionPath } from '../components.js';
import { attribute, type JsxControl } from '../jsx-controls.js';
import { walk } from '../../source/traverse.js';

/** Names that a handler takes out of its event: local name to what it stands for. */
export function eventNames(fn: FunctionPath): { parameter: string; names: Map<string, string> } {
  const names = new Map<string, string>();
  const first = fn.node.params[0];
  const parameter = t.isIdentifier(first) ? first.name : 'e';
  const take = (pattern: t.Node, base: string): void => {
    if (t.isIdentifier(pattern)) names.set(pattern.name, base);
    if (t.isAssignmentPattern(pattern)) take(pattern.left, base);
    if (!t.isObjectPattern(pattern)) return;
    for (const property of pattern.properties) {
      if (t.isObjectProperty(property) && t.isIdentifier(property.key))
        take(property.value, `${base}.${property.key.name}`);
    }
  };
  if (t.isObjectPattern(first)) take(first, 'e');
  const body = fn.get('body') as NodePath;
  if (body.isBlockStatement()) {
    for (const statement of body.node.body) {
      if (!t.isVariableDeclaration(statement)) continue;
      for (const { id, init } of statement.declarations) {
        const base = memberText(init, parameter, names);
        if (base !== undefined && (t.isObjectPattern(id) || /\.(target|currentTarget)(\.\w+)?$/.test(base)))
          take(id, base);
      }
    }
  }
  return { parameter, names };
}

/** `e.target` as text, where an expression is nothing but members of the event. */
export function memberText(
  node: t.Node | null | undefined,
  parameter: string,
  names: ReadonlyMap<string, string>,
): string | undefined {
  if (t.isIdentifier(node)) return node.name === parameter ? parameter : names.get(node.name);
  if (t.isTSAsExpression(node)) return memberText(node.expression, parameter, names);
  if (!t.isMemberExpression(node) || node.computed || !t.isIdentifier(node.property)) return undefined;
  const base = memberText(node.object, parameter, names);
  return base === undefined ? undefined : `${base}.${node.property.name}`;
}

/** The type by which a handler tells a control from others: `checkbox`, `select-one`. */
export function controlType(control: JsxControl): string {
  if (control.tag === 'select') return attribute(control, 'multiple') ? 'select-multiple' : 'select-one';
  if (control.tag === 'textarea') return 'textarea';
  return control.type ?? 'text';
}

/** What is known of the control that calls a handler. */
interface ControlFacts {
  type: string | undefined;
  name: string | undefined;
}

/** The value a handler gives when one particular control calls it: choices by the control's type or name are made. */
export function valueFor(
  path: NodePath,
  file: string,
  event: { parameter: string; names: Map<string, string> },
  facts: ControlFacts,
  depth = 0,
  keepsLocals = false,
): Code {
  const known = (node: t.Node): string | undefined => {
    const text = memberText(node, event.parameter, event.names);
    if (text === undefined) return undefined;
    if (text.endsWith('.type')) return facts.type;
    return text.endsWith('.name') || text.endsWith('.id') ? facts.name : undefined;
  };
  const decided = (test: t.Node): boolean | undefined => {
    if (!t.isBinaryExpression(test) || !/^[=!]==?$/.test(test.operator)) return undefined;
    const [a, b] = t.isStringLiteral(test.right)
      ? [known(test.left), test.right.value]
      : [known(test.right), t.isStringLiteral(test.left) ? test.left.value : undefined];
    if (a === undefined || b === undefined) return undefined;
    return test.operator.startsWith('=') === (a === b);
  };
  if (path.isConditionalExpression()) {
    const answer = decided(path.node.test);
    if (answer !== undefined)
      return valueFor(
        path.get(answer ? 'consequent' : 'alternate') as NodePath,
        file,
        event,
        facts,
        depth,
        keepsLocals,
      );
  }
  const changed = path.isIdentifier() ? assignedValue(path, decided) : undefined;
  if (changed && depth < 4) return valueFor(changed, file, event, facts, depth + 1, keepsLocals);
  const own = path.isIdentifier() ? constantBehind(path, event.names) : undefined;
  if (own && depth < 4 && !(keepsLocals && !decides(own)))
    return valueFor(own, file, event, facts, depth + 1, keepsLocals);
  if (keepsLocals) return plainCode(file, path);
  return { ...plainCode(file, path), holes: handlerHoles(path, file, event, facts, depth) };
}

/** Names of a handler's own inside an expression of it, and what they stand for where it is not around. */
export function handlerHoles(
  path: NodePath,
  file: string,
  event: { parameter: string; names: Map<string, string> },
  facts: ControlFacts,
  depth = 0,
): Hole[] {
  const holes: Hole[] = [];
  const visit = (inner: NodePath): void => {
    if (!inner.isIdentifier() || !inner.isReferencedIdentifier()) return;
    const shorthand = inner.node === path.node ? undefined : shorthandKey(inner);
    const place = {
      start: inner.node.start ?? 0,
      end: inner.node.end ?? 0,
      ...(shorthand === undefined ? {} : { shorthand }),
    };
    const text = event.names.get(inner.node.name);
    if (text !== undefined && isEventName(inner, event)) {
      holes.push({ kind: 'text', ...place, text });
      return;
    }
    const constant = constantBehind(inner, event.names);
    if (constant && depth < 4) {
      const code = valueFor(constant, file, event, facts, depth + 1);
      holes.push({ kind: 'given', ...place, code, suffix: '', wrap: !inner.parentPath.isCallExpression() });
    }
  };
  visit(path);
  walk(path, { Identifier: visit });
  return holes;
}

/** A key that asks for the control's name, `[e.target.name]`, as the name itself. */
export function namedKeys(path: NodePath, event: ReturnType<typeof eventNames>, name: string): Hole[] {
  if (!t.isValidIdentifier(name, false)) return [];
  const holes: Hole[] = [];
  walk(path, {
    ObjectProperty({ node }) {
      const asked = node.computed ? memberText(node.key, event.parameter, event.names) : undefined;
      if (!asked || !/\.(?:target|currentTarget)\.(?:name|id)$/.test(asked)) return;
      holes.push({ kind: 'text', start: (node.key.start ?? 0) - 1, end: (node.key.end ?? 0) + 1, text: name });
    },
  });
  return holes;
}

/**
 * What a variable holds that is given one value and, under conditions on the control, others:
 * `let next = value; if (type === 'number') next = Number(value);`
 */
function assignedValue(
  path: NodePath<t.Identifier>,
  decided: (test: t.Node) => boolean | undefined,
): NodePath | undefined {
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (!binding || binding.constant || !declared?.isVariableDeclarator() || !declared.node.init) return undefined;
  let value = declared.get('init') as NodePath;
  for (const change of binding.constantViolations) {
    const statement = change.parentPath;
    if (!change.isAssignmentExpression({ operator: '=' }) || !statement?.isExpressionStatement()) return undefined;
    let reached: boolean | undefined = true;
    for (let at: NodePath = statement; at.parentPath && !at.parentPath.isFunction(); at = at.parentPath) {
      const outer: NodePath = at.parentPath;
      if (outer.isIfStatement()) {
        const answer = decided(outer.node.test);
        if (answer === undefined) return undefined;
        if (answer !== (at.key === 'consequent')) reached = false;
      } else if (!outer.isBlockStatement()) return undefined;
    }
    if (reached) value = change.get('right');
  }
  return value;
}

/** The variables that a condition does nothing but assign; undefined where it does more. */
export function onlyAssigns(statement: NodePath<t.IfStatement>): string[] | undefined {
  const names: string[] = [];
  const visit = (path: NodePath): boolean => {
    if (!path.node) return true;
    if (path.isBlockStatement()) return path.get('body').every(visit);
    if (path.isIfStatement()) return visit(path.get('consequent')) && visit(path.get('alternate') as NodePath);
    const { expression } = path.isExpressionStatement() ? path.node : { expression: undefined };
    if (!t.isAssignmentExpression(expression) || !t.isIdentifier(expression.left)) return false;
    names.push(expression.left.name);
    return true;
  };
  return visit(statement) ? names : undefined;
}

/** Whether an expression chooses between values, so that one of them can be told for a control. */
function decides(path: NodePath): boolean {
  return path.isConditionalExpression();
}

function isEventName(path: NodePath<t.Identifier>, event: { names: Map<string, string> }): boolean {
  const binding = path.scope.getBinding(path.node.name);
  return binding !== undefined && !binding.scope.path.isProgram() && event.names.has(path.node.name);
}

/** The initial value of a constant that a handler declares for itself. */
function constantBehind(path: NodePath<t.Identifier>, names: ReadonlyMap<string, string>): NodePath | undefined {
  if (names.has(path.node.name)) return undefined;
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (
    !binding?.constant ||
    !declared?.isVariableDeclarator() ||
    !t.isIdentifier(declared.node.id) ||
    !declared.node.init
  )
    return undefined;
  const around = functionAround(declared);
  const here = functionAround(path);
  // a constant of the handler is also known to the updater that it hands over
  const outer = here?.parentPath.isCallExpression() && here.listKey === 'arguments' ? functionAround(here) : undefined;
  return around &&
    here &&
    (around.node === here.node || around.node === outer?.node) &&
    around.parentPath.isProgram() === false &&
    declared.parentPath.parentPath?.parentPath?.isFunction()
    ? (declared.get('init') as NodePath)
    : undefined;
}
