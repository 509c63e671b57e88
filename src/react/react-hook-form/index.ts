import type { ReactApproach } from '../approach.js';
import { libraryForm } from '../library-forms.js';

export const reactHookForm: ReactApproach = {
  id: 'react-hook-form',
  title: 'npm react-hook-form',
  goodFor: 'long forms in which a keystroke should render little',
  reads: false,
  recognise: (site) =>
    libraryForm(site, {
      packages: /^react-hook-form$/,
      makes: /^useForm$/,
      names: /^(?:register|setValue|useController|useFieldArray)$/,
    }),
};
