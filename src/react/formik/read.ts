import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { controlsIn } from '../jsx-controls.js';
import { packageModel } from '../package-leaving/fields.js';
import { drawnBy } from './form.js';
import type { FormikForm } from './found.js';

/** Reads a form of the package: its fields with what they begin as, and the controls that are named after them. */
export function readFormik(site: FormSite, form: FormikForm, names: readonly string[]): FormModel {
  const root = form.element?.path ?? site.component.path;
  const controls = controlsIn(root, site.script.text).flatMap((control) => {
    const field = control.name ?? registeredAs(control.element);
    const tag = drawnBy(control.element) ?? control.tag;
    return field === undefined ? [] : [{ field, control: { ...control, tag } }];
  });
  const start = form.options.get('initialValues');
  const given = [form.hook?.get('id') as NodePath | undefined, form.element?.render?.get('params')[0]];
  const objects = given.filter((one): one is NodePath<t.Identifier> => one?.isIdentifier() === true);
  return packageModel(site, 'formik', { start, controls, made: form.hook?.parentPath ?? root, objects, names });
}

/** The field of `{...formik.getFieldProps('town')}`. */
function registeredAs(element: NodePath<t.JSXElement>): string | undefined {
  for (const one of element.node.openingElement.attributes) {
    if (!t.isJSXSpreadAttribute(one) || !t.isCallExpression(one.argument)) continue;
    const [first] = one.argument.arguments;
    if (t.isStringLiteral(first)) return first.value;
  }
  return undefined;
}
