/**
 * One thing a person does. A control is named by its label, aria-label, placeholder, name or id, or by its place
 * in the page (`#0`); a button by its words.
 */
export type Step =
  | { click: string }
  /** Puts the text in the place of what is there; an empty text clears the control. */
  | { type: [string, string] }
  /** Types behind what is there. */
  | { keys: [string, string] }
  | { focus: string }
  /** Goes into the control and leaves it again. */
  | { blur: string }
  /** Ticks or unticks a box; picks a radio. */
  | { check: string }
  /** Picks an option by its words or its value. */
  | { choose: [string, string] }
  /** Picks a file of that name. */
  | { file: [string, string] }
  /** Presses Enter in a control. */
  | { enter: string }
  /** Presses a button twice before the page can answer. */
  | { twice: string }
  /** Lets time pass, in milliseconds. */
  | { wait: number }
  /** Looks at the page and does nothing. */
  | { look: string };

/** A step in words. */
export function stepWords(step: Step): string {
  if ('click' in step) return `clicking ${step.click}`;
  if ('type' in step)
    return step.type[1] === '' ? `clearing ${step.type[0]}` : `typing “${step.type[1]}” into ${step.type[0]}`;
  if ('keys' in step) return `typing “${step.keys[1]}” behind what ${step.keys[0]} holds`;
  if ('focus' in step) return `going into ${step.focus}`;
  if ('blur' in step) return `leaving ${step.blur}`;
  if ('check' in step) return `ticking ${step.check}`;
  if ('choose' in step) return `choosing “${step.choose[1]}” in ${step.choose[0]}`;
  if ('file' in step) return `picking the file ${step.file[1]} in ${step.file[0]}`;
  if ('enter' in step) return `pressing Enter in ${step.enter}`;
  if ('twice' in step) return `clicking ${step.twice} twice`;
  if ('wait' in step) return `waiting ${step.wait} ms`;
  return step.look;
}
