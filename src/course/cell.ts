import type { NodePath } from '@babel/traverse';
import { spanOfNode, type Span } from '../form/code.js';
import type { RunMoment, StepBranch } from '../form/life.js';
import type { FormModel } from '../form/model.js';
import type { Placed } from '../source/behind-names.js';
import type * as t from '@babel/types';

/** A piece of state that a form's code keeps: a state variable, a flag in a ref, a member of a class. */
export interface Cell {
  name: string;
  /** Its start, where it is written at its declaration. */
  start: NodePath | undefined;
  type: t.Node | undefined;
  /** Its start as source text, where the declaration itself is not at hand. */
  begins?: string | undefined;
  at: Placed;
  /** Bindings of its value and its setter, where it has them. */
  value: unknown;
  setter: unknown;
  kind: 'variable' | 'ref' | 'member';
}

/** A place that gives a cell a value. */
export interface Telling {
  cell: Cell;
  /** What it gets; undefined where the code does not say. */
  value: NodePath | undefined;
  /** What it gets as source text, where the place itself does not say it. */
  text?: string | undefined;
  at: Placed;
}

/** A telling with the moment and the branch of the submit in which it happens. */
export interface Told extends Telling {
  moment: RunMoment;
  branch: StepBranch | undefined;
}

/** What is asked of a form's code while roles and steps are found. */
export interface CourseGuide {
  model: FormModel;
  tells(at: Placed): Telling[];
  /** Whether a call runs a checker. */
  checks(at: Placed): { name: string; fn: Placed | undefined } | undefined;
  /** Whether a call hands the person's values to something outside of the form. */
  sends(at: Placed): boolean;
  /** Whether the markup disables something while a cell is up. */
  disables(cell: Cell): boolean;
}

/** Where something stands, for the model. */
export function spanAt({ path, script }: Placed): Span {
  return spanOfNode(script.file, path.node);
}

/** Whether a span lies inside of a place. */
export function isWithin(inner: Span, { path, script }: Placed): boolean {
  return inner.file === script.file && inner.start >= (path.node.start ?? 0) && inner.end <= (path.node.end ?? 0);
}
