import { createColors } from 'picocolors';

/** Colours for the terminal; every function gives its text back unchanged where colour is off. */
export type Paint = ReturnType<typeof createColors>;

/** @param on whether the output understands colour and the person wants it */
export function paintFor(on: boolean): Paint {
  return createColors(on);
}

/** A count with its noun: `1 form`, `2 forms`. */
export function counted(count: number, noun: string): string {
  return `${count} ${noun}${count === 1 ? '' : 's'}`;
}
