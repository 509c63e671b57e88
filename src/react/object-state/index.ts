import type { ReactApproach } from '../approach.js';
import { readHeldObject } from '../held-object/read.js';
import { objectStateOf } from './state.js';
import { writeObjectState } from '../holder-writing/write.js';

export const objectState: ReactApproach = {
  id: 'object-state',
  title: 'one state variable for all fields',
  goodFor: 'a handful of plain fields that are sent together',
  reads: true,
  recognise(site) {
    const state = objectStateOf(site);
    if (!state?.fields.length) return undefined;
    return { fields: state.fields.map(({ name }) => name), read: () => readHeldObject(site, state, 'object-state') };
  },
  write: writeObjectState,
};
