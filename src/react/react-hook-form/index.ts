import type { ReactApproach } from '../approach.js';
import { isBesideOthers, packageForm, packageStateOf } from '../calls/read.js';
import { hookFormCalls } from '../calls/table.js';
import { writePackageHook } from '../holder-writing/package-hook.js';
import { libraryForm } from '../library-forms.js';

export const reactHookForm: ReactApproach = {
  id: 'react-hook-form',
  title: 'npm react-hook-form',
  goodFor: 'long forms in which a keystroke should render little',
  reads: false,
  write: (model, context) => writePackageHook(model, context, hookFormCalls),
  recognise(site) {
    const state = packageStateOf(site, hookFormCalls);
    if (state?.fields.length) return packageForm(site, state, hookFormCalls);
    if (isBesideOthers(site, hookFormCalls)) return undefined;
    return libraryForm(site, {
      packages: /^react-hook-form$/,
      makes: /^useForm$/,
      names: /^(?:register|setValue|useController|useFieldArray)$/,
    });
  },
};
