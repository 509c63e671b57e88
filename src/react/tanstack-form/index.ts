import type { ReactApproach } from '../approach.js';
import { isBesideOthers, packageForm, packageStateOf } from '../calls/read.js';
import { tanstackCalls } from '../calls/table.js';
import { writePackageHook } from '../holder-writing/package-hook.js';
import { libraryForm } from '../library-forms.js';

export const tanstackForm: ReactApproach = {
  id: 'tanstack-form',
  title: 'npm @tanstack/react-form',
  goodFor: 'forms whose types should follow from their initial values',
  reads: false,
  write: (model, context) => writePackageHook(model, context, tanstackCalls),
  recognise(site) {
    const state = packageStateOf(site, tanstackCalls);
    if (state?.fields.length) return packageForm(site, state, tanstackCalls);
    if (isBesideOthers(site, tanstackCalls)) return undefined;
    return libraryForm(site, {
      packages: /^@tanstack\/react-form$/,
      makes: /^(?:useForm|useAppForm|createFormHook)$/,
      names: /^(?:useField|setFieldValue)$/,
    });
  },
};
