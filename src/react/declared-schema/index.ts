import type { ReactApproach } from '../approach.js';
import { readHeldObject } from '../held-object/read.js';
import { leaveSchema } from './leave.js';
import { schemaStateOf } from './state.js';
import { writeDeclaredSchema } from './write.js';

export const declaredSchema: ReactApproach = {
  id: 'declared-schema',
  title: 'fields and rules as data: a JSON Schema beside the component',
  goodFor: 'many fields and rules, shared with those who check them elsewhere',
  reads: true,
  write: writeDeclaredSchema,
  recognise(site) {
    const state = schemaStateOf(site);
    if (!state?.fields.length) return undefined;
    return {
      fields: state.fields.map(({ name }) => name),
      read: () => readHeldObject(site, state, 'declared-schema'),
      leave: { to: 'object-state', write: (model, context) => leaveSchema(model, context, site) },
    };
  },
};
