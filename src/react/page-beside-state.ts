import * as t from '@babel/types';
import type { FormSite } from './approach.js';
import { isInside } from './form-regions.js';
import { shownBy } from './jsx-controls.js';
import { walk } from '../source/traverse.js';

/** Whether a component asks the page for values: form data of an element, an element's controls by name. */
function asksPage(site: FormSite): boolean {
  let asks = false;
  walk(site.component.path, {
    NewExpression({ node }) {
      if (t.isIdentifier(node.callee, { name: 'FormData' }) && node.arguments.length) asks = true;
    },
    MemberExpression({ node }) {
      if (!node.computed && t.isIdentifier(node.property) && /^(?:elements|namedItem)$/.test(node.property.name))
        asks = true;
    },
  });
  return asks;
}

/**
 * Controls whose values the page keeps, in a form that holds others in its state: what holds those knows only a part of
 * the form.
 * @returns their names, in order; empty where the form holds all of its values, or asks the page for none
 */
export function keptBesideState(site: FormSite): string[] {
  const { element } = site.region;
  if (!element || !asksPage(site)) return [];
  const names = site.candidates.flatMap((control) => {
    const own = control.intrinsic && isInside(control.element, element) && !shownBy(control);
    return own && control.name !== undefined && !/^(?:submit|button|reset|image)$/.test(control.type ?? '')
      ? [control.name]
      : [];
  });
  return [...new Set(names)];
}
