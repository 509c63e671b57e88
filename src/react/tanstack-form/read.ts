import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { attributesOf, controlsIn, tagOf } from '../jsx-controls.js';
import { packageModel } from '../package-leaving/fields.js';
import type { StoreForm } from './found.js';

/** Reads a form of the package: its fields with what they begin as, and the controls that stand in its field components. */
export function readStoreForm(site: FormSite, form: StoreForm, names: readonly string[]): FormModel {
  const controls = controlsIn(site.component.path, site.script.text).flatMap((control) => {
    const around = control.element.findParent(
      (parent) => parent.isJSXElement() && /\.Field$/.test(tagOf(parent as NodePath<t.JSXElement>)),
    );
    const field = around?.isJSXElement() ? attributesOf(around).find(({ name }) => name === 'name')?.text : undefined;
    return field === undefined || !control.intrinsic ? [] : [{ field, control }];
  });
  const id = form.hook.get('id') as NodePath;
  return packageModel(site, 'tanstack-form', {
    start: form.options.get('defaultValues'),
    controls,
    made: form.hook.parentPath,
    objects: id.isIdentifier() ? [id] : [],
    names,
  });
}
