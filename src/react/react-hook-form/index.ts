import type { ReactApproach } from '../approach.js';
import { namedFields, usesPackage } from '../library-forms.js';

export const reactHookForm: ReactApproach = {
  id: 'react-hook-form',
  title: 'npm react-hook-form',
  goodFor: 'long forms in which a keystroke should render little',
  reads: false,
  recognise: (site) =>
    usesPackage(site, /^react-hook-form$/, /^(useForm|Controller|FormProvider|useFormContext)$/)
      ? { fields: namedFields(site, /^register$/) }
      : undefined,
};
