import { hookFormCalls } from '../calls/table.js';
import { packageApproach } from '../package-approach.js';

export const reactHookForm = packageApproach(
  { title: 'npm react-hook-form', goodFor: 'long forms in which a keystroke should render little' },
  hookFormCalls,
  {
    packages: /^react-hook-form$/,
    makes: /^useForm$/,
    names: /^(?:register|setValue|useController|useFieldArray)$/,
  },
);
