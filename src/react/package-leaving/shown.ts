import type { NodePath } from '@babel/traverse';
import { negated, standingFor, type Watched } from './conditions.js';

/** Whether a function is what a component draws between its tags: `<form.Subscribe>{(town) => …}</form.Subscribe>`. */
function isChild({ parentPath }: NodePath): boolean {
  return parentPath?.isJSXExpressionContainer() === true && parentPath.parentPath.isJSXElement();
}

/** The conditions under which an element is shown, asked of the values that are checked; undefined where one is no plain one. */
export function shownWhen(apart: Watched, element: NodePath): (() => string)[] | undefined {
  const found: (() => string)[] = [];
  const root = apart.leaving.site.component.path as NodePath;
  const text = (path: NodePath): string => standingFor(apart, path, new Map(), undefined);
  for (let at: NodePath = element; at.parentPath && at !== root; at = at.parentPath) {
    const { parentPath: parent, key } = at;
    if (parent.isLogicalExpression() && key === 'right') {
      if (parent.node.operator !== '&&') return undefined;
      const left = parent.get('left') as NodePath;
      found.unshift(() => text(left));
    } else if (parent.isConditionalExpression() && key !== 'test') {
      const test = parent.get('test') as NodePath;
      found.unshift(() => (key === 'consequent' ? text(test) : negated(test, text)));
    } else if (parent.isFunction() && parent !== root) {
      // what a list draws for each of its items is there with the list
      if (!parent.parentPath?.isCallExpression() && !isChild(parent)) return undefined;
    }
  }
  return found;
}
