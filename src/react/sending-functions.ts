import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { calledWith, isCalledInPlace } from './called-in-place.js';
import type { FunctionPath } from './components.js';
import type { Lens } from './value-tracing.js';
import { walk } from '../source/traverse.js';

/** Whether a call hands values on rather than computing with them or changing state. */
function sendsValues(call: NodePath<t.CallExpression | t.NewExpression>, lens: Lens): boolean {
  const callee = call.get('callee') as NodePath;
  if (lens.changesOf(callee).length) return false;
  if (callee.isIdentifier()) {
    if (
      /^(Number|String|Boolean|parseInt|parseFloat|isNaN|Date|alert|confirm|encodeURIComponent|setTimeout|clearTimeout)$/.test(
        callee.node.name,
      )
    )
      return false;
    return !/^(set[A-Z]|validate|check|is[A-Z]|has[A-Z])/.test(callee.node.name);
  }
  if (callee.isMemberExpression()) {
    const { object } = callee.node;
    if (t.isIdentifier(object) && /^(console|Math|Number|Object|Array|Date)$/.test(object.name)) return false;
    if (t.isRegExpLiteral(object)) return false;
    if (!t.isIdentifier(object)) return true;
    const method = t.isIdentifier(callee.node.property) ? callee.node.property.name : '';
    return !/^(test|match|trim|includes|indexOf|some|every|find|filter|map|forEach)$/.test(method);
  }
  return true;
}

/** The variables whose values leave a function: as an argument of a call, or in an object that a constant holds. */
export function sentBy(fn: FunctionPath, lens: Lens): Set<string> {
  const names = new Set<string>();
  walk(fn, {
    Identifier(path) {
      const name = path.isReferencedIdentifier() ? lens.fieldOf(path) : undefined;
      if (name === undefined) {
        sentTogether(path, lens, names);
        return;
      }
      for (let inner: NodePath = path; inner.node !== fn.node && inner.parentPath; inner = inner.parentPath) {
        const outer: NodePath = inner.parentPath;
        const isArgument = (outer.isCallExpression() || outer.isNewExpression()) && inner.listKey === 'arguments';
        if (isArgument && sendsValues(outer, lens)) {
          names.add(name);
          return;
        }
        if (outer.isObjectExpression() || outer.isArrayExpression()) {
          const holder = outer.findParent(
            (parent) => parent.isVariableDeclarator() || parent.isFunction() || parent.isCallExpression(),
          );
          if (holder?.isVariableDeclarator()) names.add(name);
        }
        if (outer.isIfStatement() && inner.key === 'test') return;
      }
    },
  });
  return names;
}

/** Values that a constant of the component holds together, handed on by its name: `send(values)`. */
function sentTogether(path: NodePath<t.Identifier>, lens: Lens, names: Set<string>): void {
  const call = path.parentPath;
  if (path.listKey !== 'arguments' || !call.isCallExpression() || !sendsValues(call, lens)) return;
  const declared = path.scope.getBinding(path.node.name)?.path;
  const held = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  // `const { sent, ...plan } = values`: the rest of an object that a constant holds
  const pattern = declared?.isVariableDeclarator() ? declared.node.id : undefined;
  const left = t.isObjectPattern(pattern)
    ? pattern.properties.flatMap((one) => (t.isObjectProperty(one) && t.isIdentifier(one.key) ? [one.key.name] : []))
    : [];
  const source =
    held?.node && t.isObjectPattern(pattern) && held.isIdentifier()
      ? held.scope.getBinding(held.node.name)?.path
      : undefined;
  const object = source?.isVariableDeclarator() ? (source.get('init') as NodePath) : held;
  if (!object?.node || !object.isObjectExpression()) return;
  for (const property of object.get('properties')) {
    const name = property.isObjectProperty() ? lens.fieldOf(property.get('value') as NodePath) : undefined;
    const key = property.isObjectProperty() && t.isIdentifier(property.node.key) ? property.node.key.name : '';
    if (name !== undefined && !left.includes(key)) names.add(name);
  }
}

/**
 * Whether a function of a component hands values on: a handler or an effect, rather than what is worked out for the view.
 * @param isWhole whether a reference stands for all values
 */
export function isSentBySomething(component: FunctionPath, lens: Lens, isWhole: (path: NodePath) => boolean): boolean {
  let sent = false;
  walk(component, {
    Function(fn) {
      if (isWorkedOut(fn)) return;
      sent ||= sentBy(fn as FunctionPath, lens).size > 0 || sendsWhole(fn, lens, isWhole);
      if (sent) fn.stop();
    },
  });
  return sent;
}

/** Whether a function only works out what the view shows, or how a state begins. */
function isWorkedOut(fn: NodePath): boolean {
  return isCalledInPlace(fn) || /^use(?:Memo|State|Reducer)$/.test(calledWith(fn)?.name ?? '');
}

/** Whether a function gives all values to a call, by themselves or spread into an object. */
function sendsWhole(fn: NodePath, lens: Lens, isWhole: (path: NodePath) => boolean): boolean {
  let sends = false;
  walk(fn, {
    Identifier(path) {
      if (!isWhole(path)) return;
      const statement = path.getStatementParent();
      for (let at: NodePath = path; at.parentPath && at !== statement; at = at.parentPath) {
        const call: NodePath = at.parentPath;
        const isArgument = (call.isCallExpression() || call.isNewExpression()) && at.listKey === 'arguments';
        if (isArgument && sendsValues(call, lens) && !lens.changesAny?.(call.get('callee') as NodePath)) sends = true;
        // a constant of all values is handed on by its own name
        if (call.isVariableDeclarator() && (at.isObjectExpression() || at === path)) sends = true;
      }
    },
  });
  return sends;
}
