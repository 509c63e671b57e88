import { hookFormCalls } from '../calls/table.js';
import { packageApproach } from '../package-approach.js';
import { hookFormOf } from './found.js';
import { leaveHookForm } from './leave.js';
import { readHookForm } from './read.js';

export const reactHookForm = packageApproach(
  { title: 'npm react-hook-form', goodFor: 'long forms in which a keystroke should render little' },
  hookFormCalls,
  {
    packages: /^react-hook-form$/,
    makes: /^useForm$/,
    names: /^(?:register|setValue|useController|useFieldArray)$/,
  },
  (site, names) => {
    const form = hookFormOf(site);
    return (
      form && {
        partly: true,
        read: () => readHookForm(site, form, names),
        leave: { to: 'object-state', write: (model, context) => leaveHookForm(model, context, site, form) },
      }
    );
  },
);
