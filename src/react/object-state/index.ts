import type { ReactApproach } from '../approach.js';
import { readHeldObject } from '../held-object/read.js';
import { fillLater } from '../filling/fill-later.js';
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
    const { variable, type, empty } = state;
    const { script, load } = site;
    return {
      fields: state.fields.map(({ name }) => name),
      read: () => readHeldObject(site, state, 'object-state'),
      ...(empty && variable.value
        ? {
            leave: {
              to: 'object-state',
              write: (model, context) => fillLater(model, context, { script, variable, type, load }),
              // without a word of its start the hook says nothing that a reducer could begin as
              ...(variable.call.node.arguments.length ? { direct: ['reducer'] } : {}),
            },
          }
        : {}),
    };
  },
  write: writeObjectState,
};
