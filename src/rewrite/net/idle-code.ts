import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import type { PlannedStep } from './caught.js';
import { isScript } from './placed-token.js';

/**
 * Code that goes with the approach although no use speaks of it: what a reducer throws at actions it does not know,
 * names by which a holder is handed its values or gives them, options of a hook that nobody gives.
 */
export function idleSpans(file: string, step: PlannedStep): Span[] {
  const { model, sources } = step;
  if (!isScript(file) || !step.files.some((change) => change.file === file && change.before !== null)) return [];
  const found: Span[] = [];
  const add = (node: t.Node): void => void found.push(spanOfNode(file, node));
  const own = new Set(model.names.map(({ name }) => name));
  t.traverseFast(sources.script(file).ast, (node) => {
    if (t.isVariableDeclarator(node) && t.isIdentifier(node.id) && isHookCall(node.init)) own.add(node.id.name);
    if (t.isFunction(node)) for (const one of node.params) if (t.isIdentifier(one)) own.add(one.name);
  });
  const isOwn = (node: t.Node): boolean => t.isIdentifier(node) && own.has(node.name);
  t.traverseFast(sources.script(file).ast, (node) => {
    if (t.isCallExpression(node) && isOwn(node.callee))
      for (const argument of node.arguments)
        if (t.isObjectExpression(argument))
          for (const one of argument.properties) if (t.isObjectProperty(one) && !one.shorthand) add(one.key);
    // the page takes in what is typed by itself
    if (step.to === 'dom-values' && t.isJSXAttribute(node) && isOneOf(node, 'value', 'checked', 'onChange')) add(node);
    if (model.approach === 'reducer' && t.isThrowStatement(node)) add(node);
    const key = t.isObjectProperty(node) && t.isIdentifier(node.key) ? node.key.name : '';
    if (model.framework === 'angular' && /^(?:nonNullable|static|updateOn)$/.test(key)) add(node);
    if (model.approach === 'class-state') for (const one of wornByClass(node)) add(one);
    if (model.approach !== 'own-hook') return;
    if (t.isOptionalCallExpression(node)) add(node);
    if (t.isObjectPattern(node)) for (const one of node.properties) if (t.isObjectProperty(one)) add(one.key);
    if (t.isMemberExpression(node) && t.isIdentifier(node.object) && isOwn(node.object)) add(node.property);
    if (!t.isCallExpression(node) || !isHookCall(node)) return;
    add(node.callee);
    for (const one of node.arguments)
      if (t.isObjectExpression(one)) for (const given of one.properties) if (t.isObjectProperty(given)) add(given.key);
  });
  return found;
}

function isOneOf({ name }: t.JSXAttribute, ...wanted: string[]): boolean {
  return t.isJSXIdentifier(name) && wanted.includes(name.name);
}

/** What only a class says: bound methods, values of before, values that a callback of `setState` was just given. */
function wornByClass(node: t.Node): t.Node[] {
  if (t.isExpressionStatement(node) && isBinding(node.expression)) return [node];
  if (t.isMemberExpression(node) && t.isIdentifier(node.object) && /^(?:prev|old|last)/.test(node.object.name))
    return [node.property];
  const called = t.isCallExpression(node) && t.isMemberExpression(node.callee) ? node.callee.property : undefined;
  if (!t.isCallExpression(node) || !t.isIdentifier(called, { name: 'setState' })) return [];
  const [, callback] = node.arguments;
  const found: t.Node[] = [];
  if (callback)
    t.traverseFast(callback, (inner) => {
      const state =
        t.isMemberExpression(inner) && t.isMemberExpression(inner.object) ? inner.object.property : undefined;
      if (t.isMemberExpression(inner) && t.isIdentifier(state, { name: 'state' })) found.push(inner.property);
    });
  return found;
}

/** `this.send = this.send.bind(this)` */
function isBinding(node: t.Expression): boolean {
  if (!t.isAssignmentExpression(node) || !t.isCallExpression(node.right)) return false;
  const { callee } = node.right;
  return t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'bind' });
}

function isHookCall(node: t.Node | null | undefined): node is t.CallExpression {
  return t.isCallExpression(node) && t.isIdentifier(node.callee) && /^use[A-Z]/.test(node.callee.name);
}
