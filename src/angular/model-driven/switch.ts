import type { Place } from '../template-model.js';

/** A control that can be used only while the value of another one is right. */
export interface Switch {
  field: string;
  /** The field whose value decides, and the condition on it: `§ === 'theft'`. */
  of: string;
  text: string;
  /** The control begins anew whenever it is switched off: the value it is given, where it is given one. */
  again?: { given: string | undefined };
  /** What stands between the stream and its listener, and what the listener calls the value. */
  pipeline: string;
  parameter: string;
  /** The statement that keeps the control in step. */
  statement: Place;
}
