import type { ReactApproach } from '../approach.js';
import { readReducer } from './read.js';
import { reducerStateOf } from './state.js';
import { writeReducer } from './write.js';

export const reducer: ReactApproach = {
  id: 'reducer',
  title: 'a reducer holds the fields',
  goodFor: 'many fields, and values that depend on one another',
  recognise: (site) => reducerStateOf(site)?.fields.map(({ name }) => name),
  read: readReducer,
  write: writeReducer,
};
