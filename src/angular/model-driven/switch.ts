import type { Place } from '../template-model.js';

/** A control that can be used only while the value of another one is right. */
export interface Switch {
  field: string;
  /** The field whose value decides, and the condition on it: `§ === 'theft'`. */
  of: string;
  text: string;
  /** The statement that keeps the control in step. */
  statement: Place;
}
