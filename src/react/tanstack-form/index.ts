import type { ReactApproach } from '../approach.js';
import { namedFields, usesPackage } from '../library-forms.js';

export const tanstackForm: ReactApproach = {
  id: 'tanstack-form',
  title: 'npm @tanstack/react-form',
  goodFor: 'forms whose types should follow from their initial values',
  reads: false,
  recognise: (site) =>
    usesPackage(site, /^@tanstack\/react-form$/, /^(useForm|useAppForm|createFormHook)$/)
      ? { fields: namedFields(site, /^useField$/) }
      : undefined,
};
