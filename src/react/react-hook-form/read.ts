import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { controlsIn } from '../jsx-controls.js';
import { packageModel } from '../package-leaving/fields.js';
import type { HookForm } from './found.js';

/** Reads a form of the package: its fields with what they begin as, and the controls that are registered for them. */
export function readHookForm(site: FormSite, form: HookForm, names: readonly string[]): FormModel {
  const controls = controlsIn(site.component.path, site.script.text).flatMap((control) => {
    const field = registeredAs(control.element);
    return field === undefined ? [] : [{ field, control }];
  });
  const id = form.hook.get('id') as NodePath;
  return packageModel(site, 'react-hook-form', {
    start: form.options.get('defaultValues'),
    controls,
    made: form.hook.parentPath,
    objects: id.isIdentifier() ? [id] : [],
    names,
  });
}

/** The field of `{...register('town')}`. */
function registeredAs(element: NodePath<t.JSXElement>): string | undefined {
  for (const one of element.node.openingElement.attributes) {
    if (!t.isJSXSpreadAttribute(one) || !t.isCallExpression(one.argument)) continue;
    const { callee, arguments: given } = one.argument;
    const [first] = given;
    const called = t.isIdentifier(callee) ? callee : t.isMemberExpression(callee) ? callee.property : undefined;
    if (t.isIdentifier(called, { name: 'register' }) && t.isStringLiteral(first)) return first.value;
  }
  return undefined;
}
