import * as t from '@babel/types';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import type { JsxControl } from '../jsx-controls.js';
import { declaredBy, modelByHook } from '../package-leaving/hook-form.js';
import { contextParts } from '../package-leaving/context-parts.js';
import { handsOn } from './hands-on.js';
import type { HookForm } from './found.js';

/** Reads a form of the package: its fields with what they begin as, and the controls that are registered for them. */
export function readHookForm(site: FormSite, form: HookForm, names: readonly string[]): FormModel {
  const { parts } = contextParts(site, form, handsOn);
  const further = parts.map(({ site: own, made }) => {
    const id = made && declaredBy(made)?.target;
    return { site: own, objects: id?.isIdentifier() ? [id] : [] };
  });
  return modelByHook(site, 'react-hook-form', form, names, registeredAs, further);
}

/** The field of `{...register('town')}`. */
function registeredAs({ element }: JsxControl): string | undefined {
  for (const one of element.node.openingElement.attributes) {
    if (!t.isJSXSpreadAttribute(one) || !t.isCallExpression(one.argument)) continue;
    const { callee, arguments: given } = one.argument;
    const [first] = given;
    const called = t.isIdentifier(callee) ? callee : t.isMemberExpression(callee) ? callee.property : undefined;
    if (t.isIdentifier(called, { name: 'register' }) && t.isStringLiteral(first)) return first.value;
  }
  return undefined;
}
