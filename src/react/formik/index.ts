import type { ReactApproach } from '../approach.js';
import { isBesideOthers, packageForm, packageStateOf } from '../calls/read.js';
import { formikCalls } from '../calls/table.js';
import { writePackageHook } from '../holder-writing/package-hook.js';
import { libraryForm } from '../library-forms.js';

export const formik: ReactApproach = {
  id: 'formik',
  title: 'npm formik',
  goodFor: 'forms whose values, reset and submit come out of one object',
  reads: false,
  write: (model, context) => writePackageHook(model, context, formikCalls),
  recognise(site) {
    const state = packageStateOf(site, formikCalls);
    if (state?.fields.length) return packageForm(site, state, formikCalls);
    if (isBesideOthers(site, formikCalls)) return undefined;
    return libraryForm(site, {
      packages: /^formik$/,
      makes: /^(?:useFormik|Formik|withFormik)$/,
      names: /^(?:getFieldProps|useField|setFieldValue)$/,
    });
  },
};
