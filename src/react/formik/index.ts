import type { ReactApproach } from '../approach.js';
import { namedFields, usesPackage } from '../library-forms.js';

export const formik: ReactApproach = {
  id: 'formik',
  title: 'npm formik',
  goodFor: 'forms whose markup is made of the package’s own components',
  reads: false,
  recognise: (site) =>
    usesPackage(site, /^formik$/, /^(useFormik|Formik|Form|withFormik)$/)
      ? { fields: namedFields(site, /^(getFieldProps|useField)$/) }
      : undefined,
};
