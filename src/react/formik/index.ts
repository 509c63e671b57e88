import type { ReactApproach } from '../approach.js';
import { libraryForm } from '../library-forms.js';

export const formik: ReactApproach = {
  id: 'formik',
  title: 'npm formik',
  goodFor: 'forms whose markup is made of the package’s own components',
  reads: false,
  recognise: (site) =>
    libraryForm(site, {
      packages: /^formik$/,
      makes: /^(?:useFormik|Formik|withFormik)$/,
      names: /^(?:getFieldProps|useField|setFieldValue)$/,
    }),
};
