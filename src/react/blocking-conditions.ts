import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionAround } from './components.js';
import { walk } from '../source/traverse.js';

/** Adds the variables that an expression depends on, followed through constants of the component. */
function addVariables(path: NodePath, found: Set<unknown>, depth = 0): void {
  if (depth > 6) return;
  const visit = (inner: NodePath): void => {
    if (!inner.isIdentifier() || !inner.isReferencedIdentifier()) return;
    const binding = inner.scope.getBinding(inner.node.name);
    if (!binding || found.has(binding)) return;
    found.add(binding);
    const init = binding.path.isVariableDeclarator() ? (binding.path.get('init') as NodePath) : undefined;
    if (binding.constant && init?.node && !init.isFunction()) addVariables(init, found, depth + 1);
  };
  visit(path);
  walk(path, { Identifier: visit });
}

/** Whether a branch does nothing but end its function. */
function onlyReturns(node: t.Node): boolean {
  const [only, ...more] = t.isBlockStatement(node) ? node.body : [node];
  return !more.length && t.isReturnStatement(only) && !only.argument;
}

/**
 * The variables that keep a form from being sent: those that a button is disabled by, and those that end a handler.
 * @param component the component's function
 */
export function blockingVariables(component: NodePath): Set<unknown> {
  const found = new Set<unknown>();
  walk(component, {
    JSXAttribute(attribute) {
      const value = attribute.get('value');
      if (!t.isJSXIdentifier(attribute.node.name, { name: 'disabled' }) || !value.isJSXExpressionContainer()) return;
      const element = attribute.parent;
      const isButton =
        t.isJSXOpeningElement(element) && t.isJSXIdentifier(element.name) && /button/i.test(element.name.name);
      if (isButton) addVariables(value.get('expression') as NodePath, found);
    },
    IfStatement(statement) {
      if (functionAround(statement)?.node === component.node) return;
      if (onlyReturns(statement.node.consequent)) addVariables(statement.get('test'), found);
    },
  });
  return found;
}
