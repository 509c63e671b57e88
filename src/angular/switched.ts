import type { Span } from '../form/code.js';
import type { LedgerEntry } from '../form/ledger.js';

/** Stands for the value that decides in a switch’s condition. */
export const decidingValue = '§';

/** The opposite of a condition. */
export function negated(text: string): string {
  const compared = /^([^\s=!<>&|]+) ([=!])(==?) ([^=!<>&|]+)$/.exec(text);
  if (compared)
    return `${compared[1] ?? ''} ${compared[2] === '=' ? '!' : '='}${compared[3] ?? ''} ${compared[4] ?? ''}`;
  if (text === decidingValue) return `!${text}`;
  return text === `!${decidingValue}` ? decidingValue : `!(${text})`;
}

/** The condition on a value under which a control cannot be used. */
export function unusableText(text: string, value: string): string {
  return negated(text).replaceAll(decidingValue, value);
}

/** The account of a statement that kept a control in step with a value. */
export function switchEntry(span: Span, field: string, text: string): LedgerEntry {
  return {
    entry: 'carried',
    takenOver: true,
    span,
    what: `what switches ${field}`,
    why: `${text} says when it cannot be used`,
  };
}
