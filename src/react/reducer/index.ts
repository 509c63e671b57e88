import type { ReactApproach } from '../approach.js';
import { writeReducer } from './write.js';

export const reducer: ReactApproach = {
  id: 'reducer',
  title: 'a reducer holds the fields',
  goodFor: 'many fields, and values that depend on one another',
  recognise: () => undefined,
  write: writeReducer,
};
