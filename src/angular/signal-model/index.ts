import type { AngularApproach } from '../approach.js';
import { cardOf } from '../cards.js';
import { boundFields } from './found-form.js';
import { readSignalModel } from './read.js';
import { leaveSignalModel } from '../signal-leaving/leave.js';
import { writeSignalModel } from './write.js';

export const signalModel: AngularApproach = {
  ...cardOf('signal-model'),
  recognise(site) {
    if (!/@angular\/forms\/signals/.test(site.component.script.text)) return undefined;
    const bound = boundFields(site);
    if (!bound.length) return undefined;
    const fields = new Set(bound.map(({ keys }) => keys.join('.')).filter(Boolean));
    return { fields: [...fields], read: () => readSignalModel(site, bound) };
  },
  write: writeSignalModel,
  leave: { to: 'model-driven', write: leaveSignalModel },
};
