import type { ReactApproach } from '../approach.js';
import { libraryForm } from '../library-forms.js';

export const tanstackForm: ReactApproach = {
  id: 'tanstack-form',
  title: 'npm @tanstack/react-form',
  goodFor: 'forms whose types should follow from their initial values',
  reads: false,
  recognise: (site) =>
    libraryForm(site, {
      packages: /^@tanstack\/react-form$/,
      makes: /^(?:useForm|useAppForm|createFormHook)$/,
      names: /^(?:useField|setFieldValue)$/,
    }),
};
