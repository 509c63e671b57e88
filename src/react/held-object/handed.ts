import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormSite } from '../approach.js';
import { isInside } from '../form-regions.js';
import type { JsxControl } from '../jsx-controls.js';
import { componentBehind } from '../receivers.js';
import { walk } from '../../source/traverse.js';

/** Whether a path is a variable by name. */
type IsVariable = (path: NodePath) => boolean;

/** Whether an expression looks a value up by a name that is computed: `values[row.name]`. */
function looksUp(path: NodePath, isHeld: IsVariable): boolean {
  let found = false;
  const visit = (member: NodePath): void => {
    if (member.isMemberExpression() && member.node.computed && isHeld(member.get('object'))) found = true;
  };
  visit(path);
  walk(path, { MemberExpression: visit, Function: (inner) => inner.skip() });
  return found;
}

/** Whether a control of the form shows a value of an object by a computed name, as the rows of a table of inputs do. */
export function isShownByKey(site: FormSite, isHeld: IsVariable): boolean {
  return site.candidates.some(
    ({ element, attributes }) =>
      isInside(element, site.region.element) &&
      attributes.some(({ name, value }) => !/^on[A-Z]/.test(name) && value !== undefined && looksUp(value, isHeld)),
  );
}

function takesWhole({ element, attributes }: JsxControl, isHeld: IsVariable): boolean {
  if (attributes.some(({ value }) => value !== undefined && isHeld(value))) return true;
  return element
    .get('openingElement')
    .get('attributes')
    .some((one) => one.isJSXSpreadAttribute() && isHeld(one.get('argument')));
}

/** Whether a component that is seen in the source holds controls of its own. */
function holdsControls(control: JsxControl, site: FormSite): boolean {
  const tag = control.element.get('openingElement').get('name') as NodePath;
  const found = tag.isJSXIdentifier() ? componentBehind(site, tag) : undefined;
  let holds = false;
  walk(found?.fn, {
    JSXOpeningElement({ node }) {
      if (t.isJSXIdentifier(node.name) && /^(input|select|textarea)$/.test(node.name.name)) holds = true;
    },
  });
  return holds;
}

/**
 * Whether an object of values is handed on whole to a component that edits it. Outside of a form's element the
 * component has to be seen to hold controls, and the values have to be sent.
 */
export function isHandedWhole(site: FormSite, isHeld: IsVariable, isSent: boolean): boolean {
  const { element } = site.region;
  return site.candidates.some(
    (control) =>
      !control.intrinsic &&
      isInside(control.element, element) &&
      takesWhole(control, isHeld) &&
      (element !== undefined || (isSent && holdsControls(control, site))),
  );
}
