import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import type { FormSite } from '../approach.js';
import { bodyOf } from '../components.js';
import { attributesOf, type JsxControl } from '../jsx-controls.js';
import { walk } from '../../source/traverse.js';

/**
 * Why a control may begin anew while its component stays: then the page forgets what was typed, and state would not.
 * @returns the place and the reason; undefined where it stays as long as the component
 */
export function whyAnew(control: JsxControl, site: FormSite): { path: NodePath; why: string } | undefined {
  const { component } = site;
  for (let path: NodePath | null = control.element; path && path !== component.path; path = path.parentPath) {
    const { parentPath: parent } = path;
    const key = path.isJSXElement() ? keyOf(path) : undefined;
    if (key)
      return { path: key, why: 'with another key the page begins anew, and state would keep what was typed before' };
    const goes =
      (parent?.isLogicalExpression() && path.key === 'right') ||
      (parent?.isConditionalExpression() && path.key !== 'test');
    if (goes)
      return { path, why: 'it comes and goes: the page begins anew each time, and state would keep what was typed' };
  }
  return undefined;
}

/** The key of an element; one that only tells the rows of a list apart is none. */
function keyOf(element: NodePath<t.JSXElement>): NodePath | undefined {
  const key = attributesOf(element).find(({ name }) => name === 'key');
  const around = element.findParent((parent) => parent.isFunction() || parent.isJSXElement());
  const isListed = around?.isFunction() === true && around.parentPath?.isCallExpression() === true;
  return isListed || key?.value?.isStringLiteral() ? undefined : key?.value;
}

/** Where the component shows something else in the form's place. */
export function whyGone(site: FormSite): NodePath | undefined {
  const body = site.component.kind === 'function' ? bodyOf(site.component) : undefined;
  const { element } = site.region;
  let other: NodePath | undefined;
  walk(body, {
    Function: (path) => path.skip(),
    ReturnStatement(path) {
      if (!element || !element.findParent((parent) => parent === path)) other ??= path;
    },
  });
  return other;
}
