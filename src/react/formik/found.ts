import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { calledImport, importOfTag } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { membersTaken, type Members } from '../package-leaving/members.js';

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
export function formikOf({ component }: FormSite): FormikForm | undefined {
  if (component.kind !== 'function') return undefined;
  const found: FormikForm[] = [];
  component.path.traverse({
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module !== 'formik' || made.name !== 'useFormik') return;
      const form = fromHook(call);
      if (form) found.push(form);
    },
    JSXElement(element) {
      const made = importOfTag(element.get('openingElement').get('name') as NodePath);
      if (made?.module !== 'formik' || made.name !== 'Formik') return;
      const form = fromElement(element);
      if (form) found.push(form);
    },
  });
  return found.length === 1 ? found[0] : undefined;
}

function fromHook(call: NodePath<t.CallExpression>): FormikForm | undefined {
  const declarator = call.parentPath;
  const [given] = call.get('arguments');
  if (!declarator.isVariableDeclarator() || !given?.isObjectExpression()) return undefined;
  const statement = declarator.parentPath;
  if (!statement.isVariableDeclaration() || statement.node.declarations.length > 1) return undefined;
  const options = new Map<string, NodePath>();
  const unclear: NodePath[] = [];
  for (const property of given.get('properties')) {
    const { node } = property;
    const key = t.isSpreadElement(node) || node.computed ? undefined : node.key;
    const value = t.isIdentifier(key) ? memberNamed(given, key.name) : undefined;
    if (t.isIdentifier(key) && value) options.set(key.name, value);
    else unclear.push(property);
  }
  return {
    hook: declarator,
    element: undefined,
    options,
    unclear,
    taken: membersTaken(declarator.get('id') as NodePath),
    type: call.node.typeParameters?.params[0] as t.TSType | undefined,
  };
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
