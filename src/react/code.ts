import type { Binding, NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode, type Code, type Hole, type Span } from '../form/code.js';
import type { NewValue } from '../form/uses.js';
import type { ExpressionTypes } from '../source/expression-types.js';
import type { FunctionPath } from './components.js';
import { walk } from '../source/traverse.js';

/** The span of a path in its file. */
export function spanOf(file: string, path: { node: t.Node }): Span {
  return spanOfNode(file, path.node);
}

/** Source text without special places. Uses of the form inside it are found by their spans. */
export function plainCode(file: string, path: { node: t.Node }): Code {
  return { ...spanOf(file, path), holes: [] };
}

/** Key of a shorthand property whose value is this identifier: `{ name }`. */
export function shorthandKey(path: NodePath): string | undefined {
  const parent = path.parent;
  if (!t.isObjectProperty(parent) || !parent.shorthand || parent.value !== path.node) return undefined;
  return t.isIdentifier(parent.key) ? parent.key.name : undefined;
}

/** Whether a path stands inside a function or block that belongs to the path `outer`. */
function declaredInside(binding: Binding, outer: NodePath): boolean {
  return (
    binding.scope.path.node === outer.node ||
    binding.scope.path.findParent((parent) => parent.node === outer.node) !== null
  );
}

/** The longest chain of plain members that starts with an identifier: `event.target.value`. */
function memberChain(path: NodePath): NodePath {
  let chain = path;
  while (
    chain.parentPath?.isMemberExpression() &&
    chain.key === 'object' &&
    !chain.parentPath.node.computed &&
    !(chain.parentPath.parentPath.isCallExpression() && chain.parentPath.key === 'callee')
  ) {
    chain = chain.parentPath;
  }
  return chain;
}

/**
 * Names of the component or a handler that a piece of code reads; they have to be handed over when it moves away.
 * @param root the code that would move
 * @param skip bindings that the move itself takes care of
 * @param isModule tells whether a binding is known wherever the code moves to
 */
export function capturedHoles(root: NodePath, skip: (binding: Binding) => boolean, types: ExpressionTypes): Hole[] {
  const holes: Hole[] = [];
  const add = (path: NodePath<t.Identifier | t.JSXIdentifier>): void => {
    const name = path.node.name;
    const binding = path.scope.getBinding(name);
    if (!binding || binding.scope.path.isProgram() || skip(binding) || declaredInside(binding, root)) return;
    const value = memberChain(path);
    const key = value.isMemberExpression() && t.isIdentifier(value.node.property) ? value.node.property.name : name;
    const current = value.isMemberExpression() && t.isIdentifier(value.node.property, { name: 'current' });
    const calls = value.parentPath?.isCallExpression() === true && value.key === 'callee';
    const shorthand = shorthandKey(path);
    holes.push({
      kind: 'captured',
      start: value.node.start ?? 0,
      end: value.node.end ?? 0,
      name: key,
      type: types.typeOf(value),
      stable: binding.constant && !current && !calls,
      ...(shorthand === undefined ? {} : { shorthand }),
    });
  };
  const visit = (path: NodePath<t.Identifier>): void => {
    if (path.isReferencedIdentifier()) add(path);
  };
  if (root.isIdentifier()) visit(root);
  walk(root, { Identifier: visit });
  return holes;
}

function byStart(a: Hole, b: Hole): number {
  return a.start - b.start;
}

/**
 * Reads a function that computes a new value from the previous one: `(count) => count + 1`.
 * @param fn the function
 * @param field the field whose previous value it is given
 * @returns a value computed from the previous one; where its form is unusual, only `whole` can be used
 */
export function updaterValue(file: string, fn: FunctionPath, field: string, types: ExpressionTypes): NewValue {
  const whole = plainCode(file, fn);
  const parameter = fn.node.params[0];
  const bodyPath = fn.get('body') as NodePath;
  const unusual: NewValue = {
    kind: 'from-previous',
    body: whole,
    block: false,
    reads: [field],
    parameter: undefined,
    whole,
  };
  if (fn.node.params.length > 1 || fn.node.async || fn.node.generator || (parameter && !t.isIdentifier(parameter)))
    return unusual;
  const binding = parameter && t.isIdentifier(parameter) ? fn.scope.getOwnBinding(parameter.name) : undefined;
  if (binding && !binding.constant) return unusual;
  const holes: Hole[] = (binding?.referencePaths ?? []).map((path) => {
    const shorthand = shorthandKey(path);
    return {
      kind: 'previous',
      start: path.node.start ?? 0,
      end: path.node.end ?? 0,
      field,
      ...(shorthand === undefined ? {} : { shorthand }),
    };
  });
  const captured = capturedHoles(
    bodyPath,
    (candidate) => candidate === binding || declaredInside(candidate, fn),
    types,
  );
  if (captured.some((hole) => hole.kind === 'captured' && !hole.stable)) return unusual;
  const block = bodyPath.isBlockStatement();
  const inner = [...holes, ...captured].sort(byStart);
  const bodySpan = plainCode(file, bodyPath);
  if (!block) {
    return {
      kind: 'from-previous',
      body: { ...bodySpan, holes: inner },
      block,
      reads: [field],
      parameter: binding?.identifier.name,
      whole,
    };
  }
  const returns = returnsOf(
    file,
    fn,
    inner,
    (value) => t.isIdentifier(value) && value.name === binding?.identifier.name,
  );
  if (!returns) return unusual;
  return {
    kind: 'from-previous',
    body: { ...bodySpan, holes: returns },
    block,
    reads: [field],
    parameter: binding?.identifier.name,
    whole,
  };
}

/** Puts the expressions that a function returns between the other places of its body. */
function returnsOf(
  file: string,
  fn: FunctionPath,
  inner: Hole[],
  isUnchanged: (value: t.Node) => boolean,
): Hole[] | undefined {
  const returned: Hole[] = [];
  let odd = false;
  walk(fn, {
    Function(path) {
      path.skip();
    },
    ReturnStatement(path) {
      const argument = path.node.argument;
      if (!argument) {
        odd = true;
        return;
      }
      const start = argument.start ?? 0;
      const end = argument.end ?? 0;
      const holes = inner.filter((hole) => hole.start >= start && hole.end <= end);
      returned.push({
        kind: 'returned',
        start,
        end,
        value: { file, start, end, holes },
        unchanged: isUnchanged(argument),
      });
    },
  });
  if (odd || returned.length === 0) return undefined;
  const free = inner.filter((hole) => !returned.some((outer) => hole.start >= outer.start && hole.end <= outer.end));
  return [...free, ...returned].sort(byStart);
}
