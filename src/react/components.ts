import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { walk } from '../source/traverse.js';

export type FunctionPath = NodePath<t.FunctionDeclaration | t.FunctionExpression | t.ArrowFunctionExpression>;

/** A component of a file: a function that gives JSX, or a class with a render method. */
export type Component = { name: string; statement: NodePath<t.Statement> } & (
  { kind: 'function'; path: FunctionPath } | { kind: 'class'; path: NodePath<t.Class> }
);

/** The statement of the module or block in which a path stands, with `export` in front where there is one. */
function statementOf(path: NodePath): NodePath<t.Statement> | undefined {
  const statement = path.getStatementParent();
  if (!statement) return undefined;
  const parent = statement.parentPath;
  if (parent?.isExportNamedDeclaration() || parent?.isExportDefaultDeclaration())
    return parent as NodePath<t.Statement>;
  return statement;
}

function isFunction(path: NodePath): path is FunctionPath {
  return path.isFunctionDeclaration() || path.isFunctionExpression() || path.isArrowFunctionExpression();
}

/** Whether a function itself, not one inside it, holds JSX. */
function rendersJsx(path: FunctionPath): boolean {
  let found = false;
  walk(path, {
    JSXElement(inner) {
      found = true;
      inner.stop();
    },
    JSXFragment(inner) {
      found = true;
      inner.stop();
    },
  });
  return found;
}

/** The name a function is known by: its own, or that of the variable behind wrappers such as `memo(forwardRef(…))`. */
function nameOf(path: FunctionPath, file: string): string | undefined {
  const own = path.isArrowFunctionExpression() ? undefined : (path.node as t.FunctionDeclaration).id?.name;
  let outer: NodePath | null = path.parentPath;
  while (outer && (outer.isCallExpression() || outer.isTSAsExpression() || outer.isTSSatisfiesExpression()))
    outer = outer.parentPath;
  if (outer?.isVariableDeclarator() && t.isIdentifier(outer.node.id)) return outer.node.id.name;
  if (own !== undefined) return own;
  if (outer?.isExportDefaultDeclaration()) {
    const base = /([\w-]+)\.[^.]*$/.exec(file.replace(/\/index\.[^.]*$/, '.x'))?.[1] ?? 'Form';
    return base.replace(/(?:^|-|_)(\w)/g, (_, letter: string) => letter.toUpperCase());
  }
  if (outer?.isAssignmentExpression() && t.isMemberExpression(outer.node.left)) return 'Default';
  return undefined;
}

/** Finds the components of a file in the order in which they stand. Functions inside a component are part of it. */
export function componentsOf(script: Script): Component[] {
  const found: Component[] = [];
  walk(script.program, {
    Function(path) {
      if (!isFunction(path)) return;
      const name = nameOf(path, script.file);
      const statement = statementOf(path);
      if (!name || !statement || !/^[A-Z]/.test(name) || !rendersJsx(path)) return;
      found.push({ kind: 'function', name, statement, path });
      path.skip();
    },
    Class(path) {
      const name = path.node.id?.name ?? 'Form';
      const statement = statementOf(path.get('body') as NodePath);
      const rendered = path.node.body.body.some(
        (member) =>
          (t.isClassMethod(member) || t.isClassProperty(member)) && t.isIdentifier(member.key, { name: 'render' }),
      );
      if (statement && path.node.superClass && rendered) found.push({ kind: 'class', name, statement, path });
      path.skip();
    },
  });
  return found;
}

/** The block of statements of a component function; undefined for an arrow function that only gives an expression. */
export function bodyOf(component: { path: FunctionPath }): NodePath<t.BlockStatement> | undefined {
  const body = component.path.get('body');
  return !Array.isArray(body) && body.isBlockStatement() ? body : undefined;
}

/** The nearest function around a path, or undefined at the top of the file. */
export function functionAround(path: NodePath): FunctionPath | undefined {
  const around = path.findParent((parent) => parent.isFunction());
  return around && isFunction(around) ? around : undefined;
}

/** The function a path gives: itself, or what an identifier, `useCallback` or a parenthesis stands for. */
export function functionOf(path: NodePath, depth = 0): FunctionPath | undefined {
  if (depth > 6) return undefined;
  if (isFunction(path)) return path;
  if (path.isTSAsExpression() || path.isTSNonNullExpression() || path.isTSSatisfiesExpression()) {
    return functionOf(path.get('expression') as NodePath, depth + 1);
  }
  if (path.isIdentifier()) {
    const binding = path.scope.getBinding(path.node.name);
    if (!binding?.constant && binding?.kind !== 'hoisted') return undefined;
    const declared = binding.path;
    if (declared.isVariableDeclarator()) {
      const init = declared.get('init');
      return init.node && t.isIdentifier(declared.node.id) ? functionOf(init as NodePath, depth + 1) : undefined;
    }
    return isFunction(declared) ? declared : undefined;
  }
  if (path.isCallExpression()) {
    const callee = path.node.callee;
    const name = t.isIdentifier(callee)
      ? callee.name
      : t.isMemberExpression(callee) && t.isIdentifier(callee.property)
        ? callee.property.name
        : '';
    const first = path.get('arguments')[0];
    if (/^(useCallback|useEvent|useEffectEvent|memo|debounce|throttle|forwardRef)$/.test(name) && first)
      return functionOf(first, depth + 1);
    if (name === 'bind' && t.isMemberExpression(callee)) {
      const bound = path.get('callee');
      return bound.isMemberExpression() ? functionOf(bound.get('object'), depth + 1) : undefined;
    }
    // change('town') gives the function that `change` returns
    const maker = first || path.node.arguments.length === 0 ? functionOf(path.get('callee'), depth + 1) : undefined;
    return maker ? returnedFunction(maker) : undefined;
  }
  return undefined;
}

/** The function that another one returns, where it returns exactly one. */
export function returnedFunction(maker: FunctionPath): FunctionPath | undefined {
  const body = maker.get('body');
  if (Array.isArray(body)) return undefined;
  if (isFunction(body)) return body;
  if (!body.isBlockStatement()) return undefined;
  const last = body.get('body').at(-1);
  if (!last?.isReturnStatement()) return undefined;
  const value = last.get('argument');
  return value.node && isFunction(value as NodePath) ? (value as FunctionPath) : undefined;
}
