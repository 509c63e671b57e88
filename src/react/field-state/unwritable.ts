import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { SetAllUse } from '../../form/uses.js';
import { placeByHand, type WriteContext } from '../../form/writing.js';
import { keepsTypes } from './changes.js';

/** Uses of the form as one object, which separate state variables do not have. */
export function wholeFormUses(model: FormModel, context: WriteContext): LedgerEntry[] {
  return model.uses
    .filter((use) => /^(?:reset|ask|watch)$/.test(use.kind) || (use.kind === 'set-all' && !canBeTakenApart(use, model)))
    .map((use) =>
      placeByHand(
        use.span,
        context,
        (use.kind === 'set-all' ? whyNotApart(use, model) : undefined) ??
          'separate state variables have no object that stands for the whole form',
      ),
    );
}

/** Why new values cannot be given to their variables one by one. */
function whyNotApart(use: SetAllUse, model: FormModel): string | undefined {
  if (use.step?.takesValues && !model.holder)
    return 'it works out new values from all of them, and no name of the component stands for all';
  const looksBack = use.merge || use.from?.body !== undefined || use.step?.takesValues === true;
  return looksBack && use.fresh !== true && (use.statement || use.arrowBody)
    ? 'it works out new values from all of them as they are at that moment; state variables would give older ones here'
    : use.why;
}

/** Whether new values can be worked out first, and then given to their variables one by one. */
function canBeTakenApart(use: SetAllUse, model: FormModel): boolean {
  if (!use.statement && !use.arrowBody) return false;
  if (!use.merge && !use.from && use.step?.takesValues !== true) return true;
  return (
    use.fresh === true &&
    model.holder !== undefined &&
    (use.merge || use.step !== undefined || use.from?.body !== undefined)
  );
}

/** Changes of a field whose name only the running form knows, where the fields do not hold the same kind of value. */
export function mixedNames(model: FormModel, context: WriteContext): LedgerEntry[] {
  const types = new Set(model.fields.map(({ type }) => type));
  if (!model.typescript || types.size === 1) return [];
  return model.uses
    .filter((use) => use.kind === 'set-named' && use.any === true && !keepsTypes(use, model))
    .map(({ span }) =>
      placeByHand(
        span,
        context,
        'which field it changes is known only when the form runs, and the fields are of different types',
      ),
    );
}

/** Setters of all values that are handed to something that computes new values from the ones before. */
export function wholeSetters(model: FormModel, context: WriteContext): LedgerEntry[] {
  return model.uses
    .filter((use) => use.kind === 'hand-on-all' && (use.takes === 'updater' || use.stable))
    .map(({ span }) =>
      placeByHand(
        span,
        context,
        'it is handed to something that may compute all values from the ones before; separate variables have no setter for that',
      ),
    );
}

/** Values handed on together while the object lacks some: made of variables, it would name each as undefined. */
export function lackingReads(model: FormModel, context: WriteContext): LedgerEntry[] {
  const absent = model.fields.filter((field) => field.absent === true).map(({ name }) => name);
  if (!absent.length) return [];
  const why = `it lacks ${absent.join(', ')} until they are set; made of state variables it would hold them as undefined`;
  return handedTogether(model, context, why);
}

/** Values handed on together that may be more than the fields: what they begin as does not tell. */
export function openReads(model: FormModel, context: WriteContext): LedgerEntry[] {
  const opens = model.uses.some((use) => (use.kind === 'set-all' || use.kind === 'set') && use.open === true);
  if (!model.holder?.start?.open && !opens) return [];
  const where = opens ? 'is put into it' : 'it begins as';
  const why = `what ${where} may hold more than the form’s fields; made of state variables it would lose the rest`;
  return handedTogether(model, context, why);
}

/** Places where all values are handed on as one object, left by hand. */
function handedTogether(model: FormModel, context: WriteContext, why: string): LedgerEntry[] {
  return model.uses
    .filter((use) => use.kind === 'read-all' && !use.named && !use.listed)
    .map(({ span }) => ({
      entry: 'by-hand',
      span,
      what: context.script(span.file).text.slice(span.start, span.end),
      why,
    }));
}

/** Updates computed from values that may be old where they would be computed now. */
export function staleUpdates(model: FormModel, context: WriteContext): LedgerEntry[] {
  const entries: LedgerEntry[] = [];
  for (const use of model.uses) {
    if (use.kind !== 'set') continue;
    for (const { field, value } of use.assignments) {
      if (value.kind !== 'from-previous' || use.fresh || value.reads.every((read) => read === field)) continue;
      entries.push(
        placeByHand(
          use.span,
          context,
          `the reducer computes ${field} from ${value.reads.filter((read) => read !== field).join(', ')} as they are at that moment; state variables would give older values here`,
        ),
      );
    }
  }
  return entries;
}
