import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { attributesOf, tagOf, type JsxControl } from '../jsx-controls.js';
import { modelByHook } from '../package-leaving/hook-form.js';
import type { StoreForm } from './found.js';

/** Reads a form of the package: its fields with what they begin as, and the controls that stand in its field components. */
export function readStoreForm(site: FormSite, form: StoreForm, names: readonly string[]): FormModel {
  return modelByHook(site, 'tanstack-form', form, names, fieldAround);
}

/** The field of the component that a control of the page stands in. */
function fieldAround({ element, intrinsic }: JsxControl): string | undefined {
  const around = element.findParent(
    (parent) => parent.isJSXElement() && /\.Field$/.test(tagOf(parent as NodePath<t.JSXElement>)),
  );
  if (!intrinsic || !around?.isJSXElement()) return undefined;
  return attributesOf(around).find(({ name }) => name === 'name')?.text;
}
