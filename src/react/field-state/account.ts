import { keptEntries } from '../kept-entries.js';
import { retiredEntries } from '../old-state.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import type { Draft } from './draft.js';

/** What became of a use, in words. */
function wordsOf(use: Use, model: FormModel): Pick<LedgerEntry, 'what' | 'why' | 'untouched'> {
  const holder = model.holder?.name ?? 'an object';
  switch (use.kind) {
    case 'read':
      return { what: `read of ${use.field}`, why: 'the state variable is read' };
    case 'read-all':
      return use.listed
        ? {
            what: 'all values in a dependency list',
            why: 'each is listed: it follows changes of values, not of the object',
          }
        : { what: 'all values read', why: `${holder} is made of the state variables`, untouched: true };
    case 'depend':
      return { what: 'dispatch in a dependency list', why: 'setters never change, so they need not be listed' };
    case 'hand-on-all':
      return { what: 'setter of all values handed on', why: 'a function that calls each setter is handed on instead' };
    case 'set':
    case 'made-handler':
      return { what: `change of ${use.assignments.map(({ field }) => field).join(', ')}`, why: 'the setter is called' };
    default:
      return { what: 'change of a field by its name', why: 'the setter of that field is called' };
  }
}

/** The ledger of the rewrite: one entry for each use, control, rule and declaration. */
export function accountOf(
  model: FormModel,
  draft: Draft,
  retired: { name: string; start: number; end: number }[],
): LedgerEntry[] {
  const ledger: LedgerEntry[] = [];
  for (const use of model.uses) {
    ledger.push({ entry: use.kind === 'depend' ? 'retired' : 'carried', span: use.span, ...wordsOf(use, model) });
  }
  ledger.push(...keptEntries(model, { control: 'only the names in it change', rule: 'only the names in it change' }));
  for (const declaration of model.declarations) {
    ledger.push({
      entry: declaration.role === 'state' ? 'carried' : declaration.span.file === model.file ? 'retired' : 'kept',
      span: declaration.span,
      what: declaration.what,
      why:
        declaration.role === 'state'
          ? `state variables ${[...draft.names.values()].map(({ value }) => value).join(', ')}`
          : declaration.span.file === model.file
            ? 'the setters do its work'
            : 'the setters do its work; other files may still need it',
    });
  }
  ledger.push(...retiredEntries(model, retired));
  return ledger;
}
