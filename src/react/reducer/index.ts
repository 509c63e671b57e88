import type { ReactApproach } from '../approach.js';
import { readHeldObject } from '../held-object/read.js';
import { reducerStateOf } from './state.js';
import { writeReducer } from './write.js';

export const reducer: ReactApproach = {
  id: 'reducer',
  title: 'a reducer holds the fields',
  goodFor: 'many fields, and values that depend on one another',
  reads: true,
  recognise(site) {
    const state = reducerStateOf(site);
    return (
      state && { fields: state.fields.map(({ name }) => name), read: () => readHeldObject(site, state, 'reducer') }
    );
  },
  write: writeReducer,
};
