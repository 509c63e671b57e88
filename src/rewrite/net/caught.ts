import type { Span } from '../../form/code.js';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { FileChange } from '../results.js';
import type { Sources } from '../sources.js';

/** The checks of the net, in the order in which they run. */
export const checkNames = ['fate', 'conservation', 'equality', 'soundness'] as const;

export type CheckName = (typeof checkNames)[number];

/** What a check caught: a place of the original text, what stands there, and what would be lost or wrong. */
export interface Caught {
  check: CheckName;
  span: Span;
  what: string;
  why: string;
}

/** A planned step of a rewrite as the checks look at it. Nothing of it is written yet. */
export interface PlannedStep {
  /** The form as its reader saw it. */
  model: FormModel;
  /** The approach the step leads to. */
  to: string;
  plan: RewritePlan;
  /** The form as the target's reader sees it, where it finds it. */
  after?: FormModel | undefined;
  /** The files of the plan as whole texts before and after. */
  files: readonly FileChange[];
  /** The files of the form as they are. */
  sources: Sources;
}
