import type { NodePath } from '@babel/traverse';
import type { Cell, CourseGuide } from '../../course/cell.js';
import type { FlowEvent } from '../../course/flow.js';
import type { RunMoment } from '../../form/life.js';
import type { FormModel } from '../../form/model.js';
import type { Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import type { Given, NameTrail } from './names.js';

/** A way in which code of a form begins to run. */
export interface Entry {
  moment: RunMoment;
  /** The fields whose control it hangs on; all of them where it hangs on the form. */
  of: 'all' | string[];
  events: FlowEvent[];
  at: Placed;
  /** It hangs on the form's submit, or on the button that sends. */
  submits: boolean;
  /** The event of the markup, and what it is given; undefined for an effect. */
  event?: string;
  given?: NodePath;
}

/** A checker that a call runs: its name, and where it stands, where that is known. */
export interface CheckerRun {
  name: string;
  fn: Placed | undefined;
}

/** Everything that is asked again and again while the life of a form is read. */
export interface Scene extends CourseGuide {
  site: FormSite;
  model: FormModel;
  /** The component, and the hooks of the project that it calls. */
  places: Placed[];
  trail: NameTrail;
  given: Given;
  cells: Cell[];
  /** State that holds the values, where the uses of the model do not tell. */
  holders: Cell[];
  entries: Entry[];
  /** The checker that a call runs; undefined where it runs none. */
  checks(at: Placed): CheckerRun | undefined;
  /** The fields that an expression reads; all of them where it reads the values as a whole. */
  reads(at: Placed): string[];
}
