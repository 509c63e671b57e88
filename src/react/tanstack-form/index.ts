import { tanstackCalls } from '../calls/table.js';
import { packageApproach } from '../package-approach.js';
import { storeFormOf } from './found.js';
import { leaveStoreForm } from './leave.js';
import { readStoreForm } from './read.js';

export const tanstackForm = packageApproach(
  { title: 'npm @tanstack/react-form', goodFor: 'forms whose types should follow from their initial values' },
  tanstackCalls,
  {
    packages: /^@tanstack\/react-form$/,
    makes: /^(?:useForm|useAppForm|createFormHook)$/,
    names: /^(?:useField|setFieldValue)$/,
  },
  (site, names) => {
    const form = storeFormOf(site);
    return (
      form && {
        partly: true,
        read: () => readStoreForm(site, form, names),
        leave: { to: 'object-state', write: (model, context) => leaveStoreForm(model, context, site, form) },
      }
    );
  },
);
