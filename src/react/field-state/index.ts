import type { ReactApproach } from '../approach.js';
import { hookMark } from '../form-hook/hook-file.js';
import { hookStateOf, madeHook } from '../form-hook/state.js';
import { readFieldState } from './read.js';
import { fieldVariables } from './variables.js';
import { writeFieldState } from './write.js';

export const fieldState: ReactApproach = {
  id: 'field-state',
  title: 'one state variable for each field',
  goodFor: 'one or two fields that have little to do with one another',
  reads: true,
  recognise(site) {
    const found = fieldVariables(site);
    // a hook of the project may hold the form, with a variable beside it that a control shows as well
    if (!found || (hookStateOf(site, madeHook(hookMark))?.fields.length ?? 0) > found.fields.length) return undefined;
    return { fields: found.fields.map(({ name }) => name), read: () => readFieldState(site, found) };
  },
  write: writeFieldState,
};
