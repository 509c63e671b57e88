import type { ReactApproach } from '../approach.js';
import { leaveSchema } from './leave.js';
import { readSchemaForm } from './read.js';
import { schemaStateOf, unreadableSchema } from './state.js';
import { writeDeclaredSchema } from './write.js';

export const declaredSchema: ReactApproach = {
  id: 'declared-schema',
  title: 'fields and rules as data: a JSON Schema beside the component',
  goodFor: 'many fields and rules, shared with those who check them elsewhere',
  rules: ['json-schema', 'code'],
  reads: true,
  write: writeDeclaredSchema,
  recognise(site) {
    const state = schemaStateOf(site);
    if (!state?.fields.length) {
      const schema = unreadableSchema(site);
      return schema === undefined
        ? undefined
        : { fields: [], obstacle: `its schema ${schema} is not there or is no JSON` };
    }
    return {
      fields: state.fields.map(({ name }) => name),
      read: () => readSchemaForm(site, state),
      leave: { to: 'object-state', write: (model, context) => leaveSchema(model, context, site) },
    };
  },
};
