import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { placeByHand, type WriteContext } from '../form/writing.js';

/** What keeps an object that is null until it is filled from a target that always holds values. */
export function heldLater(model: FormModel, context: WriteContext, target: string): LedgerEntry[] {
  const start = model.holder?.start;
  const why = `there are no values until it is filled, for which ${target} has no place`;
  return start?.empty ? [placeByHand(start.code, context, why)] : [];
}

/** Changes that put values back to a start that is told only as a whole. */
export function untoldStart(model: FormModel, context: WriteContext): LedgerEntry[] {
  if (!model.holder?.start) return [];
  const back = model.uses.filter(
    (use) => use.kind === 'set' && !use.whole && use.assignments.some(({ value }) => value.kind === 'initial'),
  );
  const why = 'it goes back to what it began as, which is told only when the form runs';
  return back.map(({ span }) => placeByHand(span, context, why));
}
