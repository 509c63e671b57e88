import type { FormSite } from '../approach.js';
import { formsByHook, type HookForm } from '../package-leaving/hook-form.js';

export type { HookForm };

/** The one form of the package that a component makes; undefined where it makes none, or several. */
export function hookFormOf(site: FormSite): HookForm | undefined {
  const [only, ...more] = formsByHook(site, 'react-hook-form', 'useForm');
  return more.length ? undefined : only;
}
