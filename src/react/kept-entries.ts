import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';

/**
 * Entries for the controls and the rules of a form whose markup and conditions stay as they are.
 * @param why what is true of a control, and of a rule, after the rewrite
 */
export function keptEntries(model: FormModel, why: { control: string; rule: string }): LedgerEntry[] {
  return [
    ...model.controls.map(({ span, field }): LedgerEntry => ({
      entry: 'kept',
      span,
      what: `control of ${field}`,
      why: why.control,
    })),
    ...keptRules(model, why.rule),
  ];
}

/** Entries for rules whose code stays where it is. */
export function keptRules(model: FormModel, why = 'it reads the same names'): LedgerEntry[] {
  return model.rules.map(({ span, condition }) => ({ entry: 'kept', span, what: condition, why }));
}
