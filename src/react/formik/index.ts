import { formikCalls } from '../calls/table.js';
import { packageApproach } from '../package-approach.js';

export const formik = packageApproach(
  { title: 'npm formik', goodFor: 'forms whose values, reset and submit come out of one object' },
  formikCalls,
  {
    packages: /^formik$/,
    makes: /^(?:useFormik|Formik|withFormik)$/,
    names: /^(?:getFieldProps|useField|setFieldValue)$/,
  },
);
