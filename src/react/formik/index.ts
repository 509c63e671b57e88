import { formikCalls } from '../calls/table.js';
import { packageApproach } from '../package-approach.js';
import { leaveFormik } from './leave.js';
import { formikOf } from './found.js';
import { readFormik } from './read.js';

export const formik = packageApproach(
  { title: 'npm formik', goodFor: 'forms whose values, reset and submit come out of one object' },
  formikCalls,
  {
    packages: /^formik$/,
    makes: /^(?:useFormik|Formik|withFormik)$/,
    names: /^(?:getFieldProps|useField|setFieldValue)$/,
  },
  (site, names) => {
    const form = formikOf(site);
    return (
      form && {
        partly: true,
        read: () => readFormik(site, form, names),
        leave: { to: 'object-state', write: (model, context) => leaveFormik(model, context, site, form) },
      }
    );
  },
);
