import type { ReactApproach } from '../approach.js';
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
    return found && { fields: found.fields.map(({ name }) => name), read: () => readFieldState(site, found) };
  },
  write: writeFieldState,
};
