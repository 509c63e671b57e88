import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import type { BoundControl } from '../form-parts.js';
import { placeOfComponent, seenField, seenForm } from '../seen-form.js';

/** Reads a form whose values a hook of the project keeps: what the component itself tells of it. */
export function readHookForm(site: FormSite, bound: readonly BoundControl[], names: readonly string[]): FormModel {
  const fields = names.map((name) => {
    const first = bound.find(({ field, control }) => field.endsWith(name) || control.name === name);
    return seenField(name, first, placeOfComponent(site));
  });
  return seenForm(site, 'own-hook', fields, bound);
}
