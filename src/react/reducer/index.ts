import type { ReactApproach } from '../approach.js';
import { writeObjectState } from '../holder-writing/write.js';
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
      state && {
        fields: state.fields.map(({ name }) => name),
        read: () => readHeldObject(site, state, 'reducer'),
        // what is null until it is filled has a place in one state variable
        ...(state.empty ? { leave: { to: 'object-state', write: writeObjectState, direct: ['object-state'] } } : {}),
      }
    );
  },
  write: writeReducer,
};
