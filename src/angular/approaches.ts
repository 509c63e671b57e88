import type { AngularApproach } from './approach.js';
import { controlGroup } from './control-group.js';
import { markupOnly } from './markup-only.js';
import { modelDriven } from './model-driven/index.js';
import { signalModel } from './signal-model/index.js';
import { templateDriven } from './template-driven/index.js';
import { templateOneWay } from './template-one-way.js';

/** Angular's approaches, in the order in which a form is asked for them: the most telling marks first. */
export const angularApproaches: readonly AngularApproach[] = [
  signalModel,
  controlGroup,
  modelDriven,
  templateOneWay,
  templateDriven,
  markupOnly,
];
