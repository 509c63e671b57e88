import { tanstackCalls } from '../calls/table.js';
import { packageApproach } from '../package-approach.js';

export const tanstackForm = packageApproach(
  { title: 'npm @tanstack/react-form', goodFor: 'forms whose types should follow from their initial values' },
  tanstackCalls,
  {
    packages: /^@tanstack\/react-form$/,
    makes: /^(?:useForm|useAppForm|createFormHook)$/,
    names: /^(?:useField|setFieldValue)$/,
  },
);
