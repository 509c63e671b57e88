import type { FormSite } from '../approach.js';
import { formsByHook, type HookForm } from '../package-leaving/hook-form.js';

export type StoreForm = HookForm;

/** The one form of the package that a component makes; undefined where it makes none, or several. */
export function storeFormOf(site: FormSite): StoreForm | undefined {
  const [only, ...more] = formsByHook(site, '@tanstack/react-form', 'useForm');
  return more.length || only?.options.size === 0 ? undefined : only;
}
