import type { ApproachCard } from '../form/approach-card.js';
import type { RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { WriteContext } from '../form/writing.js';
import type { LoadScript } from '../source/project-files.js';
import type { AngularComponent } from './component.js';
import type { AngularSite } from './form-site.js';

/** A site that follows an approach. */
export interface Recognised {
  fields: string[];
  /** The form in full; left out where the approach is only recognised. */
  read?: () => FormModel;
}

type AngularWriter = (
  model: FormModel,
  context: WriteContext,
  component: AngularComponent,
  load: LoadScript,
) => RewritePlan;

/** A way of handling form state in Angular. */
export interface AngularApproach extends ApproachCard {
  /** What is seen of a site that follows the approach; undefined where it does not. */
  recognise(site: AngularSite): Recognised | undefined;
  write?: AngularWriter;
  /** The approach that its writer starts from; a form of any other one takes that on its way. */
  writesFrom?: string;
  /** The approach that a form of this one becomes first, whatever it becomes in the end; `unless` it becomes that. */
  leave?: { to: string; write: AngularWriter; unless?: string };
}
