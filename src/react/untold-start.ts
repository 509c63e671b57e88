import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { WriteContext } from '../form/writing.js';

/** What keeps an object that is null until it is filled from a target that always holds values. */
export function emptyStart(model: FormModel, context: WriteContext, target: string): LedgerEntry[] {
  const start = model.holder?.start;
  if (!start?.empty) return [];
  const { file, start: from, end } = start.code;
  return [
    {
      entry: 'by-hand',
      span: start.code,
      what: context.text(file).slice(from, end),
      why: `there are no values until it is filled, for which ${target} has no place`,
    },
  ];
}

/**
 * What keeps a start that is told only as a whole from being carried.
 * @param whole whether the target begins with one expression for all values
 */
export function untoldStart(model: FormModel, context: WriteContext, whole: boolean): LedgerEntry[] {
  const start = model.holder?.start;
  if (!start) return [];
  const textOf = ({ file, start: from, end }: LedgerEntry['span']): string => context.text(file).slice(from, end);
  if (!whole)
    return [
      {
        entry: 'by-hand',
        span: start.code,
        what: textOf(start.code),
        why: 'a part of what it begins as is told only when the form runs, so that it cannot be taken apart value by value',
      },
    ];
  return model.uses.flatMap((use): LedgerEntry[] => {
    if (use.kind !== 'set' || use.whole || !use.assignments.some(({ value }) => value.kind === 'initial')) return [];
    return [
      {
        entry: 'by-hand',
        span: use.span,
        what: textOf(use.span),
        why: 'it goes back to what it began as, which is told only when the form runs',
      },
    ];
  });
}
