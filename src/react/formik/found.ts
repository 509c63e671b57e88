import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormSite } from '../approach.js';
import { importOfTag } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { formsByHook } from '../package-leaving/hook-form.js';
import { membersTaken, type Members } from '../package-leaving/members.js';
import { walk } from '../../source/traverse.js';

/** The call or the element by which a component makes its form, with what it is given and what it gives. */
export interface FormikForm {
  /** `const form = useFormik(…)`, as the statement’s only declaration. */
  hook: NodePath<t.VariableDeclarator> | undefined;
  /** `<Formik …>`, with the function that it calls, or the one element in it. */
  element:
    | { path: NodePath<t.JSXElement>; render: NodePath<t.ArrowFunctionExpression> | undefined; content: NodePath }
    | undefined;
  /** What it is given, by name. */
  options: Map<string, NodePath>;
  /** Options that are no plain pairs of name and value. */
  unclear: NodePath[];
  taken: Members;
  /** The type that is written for the values. */
  type: t.TSType | undefined;
}

/** The one form of the package that a component makes; undefined where it makes none, or several. */
export function formikOf(site: FormSite): FormikForm | undefined {
  const { component } = site;
  if (component.kind !== 'function') return undefined;
  const found: FormikForm[] = formsByHook(site, 'formik', 'useFormik').map((form) => ({ ...form, element: undefined }));
  walk(component.path, {
    JSXElement(element) {
      const made = importOfTag(element.get('openingElement').get('name') as NodePath);
      if (made?.module !== 'formik' || made.name !== 'Formik') return;
      const form = fromElement(element);
      if (form) found.push(form);
    },
  });
  return found.length === 1 ? found[0] : undefined;
}

function fromElement(element: NodePath<t.JSXElement>): FormikForm | undefined {
  const options = new Map<string, NodePath>();
  const opening = element.get('openingElement');
  for (const { name, value } of attributesOf(element)) if (value) options.set(name, value);
  const unclear: NodePath[] = opening
    .get('attributes')
    .filter((one) => one.isJSXSpreadAttribute() || !options.has(String((one.node as t.JSXAttribute).name.name)));
  const children = element
    .get('children')
    .filter((child) => !(child.isJSXText() && child.node.value.trim() === '') && !isNothing(child));
  const [only, ...more] = children;
  if (!only || more.length) return undefined;
  const inner = only.isJSXExpressionContainer() ? (only.get('expression') as NodePath) : only;
  const type = (opening.node.typeParameters as t.TSTypeParameterInstantiation | null | undefined)?.params[0];
  const shared = { hook: undefined, options, unclear, type };
  if (inner.isJSXElement())
    return { ...shared, element: { path: element, render: undefined, content: inner }, taken: none() };
  if (!inner.isArrowFunctionExpression()) return undefined;
  const [given, ...further] = inner.get('params') as NodePath[];
  if (further.length) return undefined;
  return {
    ...shared,
    element: { path: element, render: inner, content: inner.get('body') as NodePath },
    taken: given ? membersTaken(given) : none(),
  };
}

function none(): Members {
  return { places: [], locals: new Map(), patterns: [], unclear: [] };
}

function isNothing(child: NodePath): boolean {
  return child.isJSXExpressionContainer() && t.isJSXEmptyExpression(child.node.expression);
}
