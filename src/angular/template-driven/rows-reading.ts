import type { RowsReading } from './rows.js';
import { type Draft, reading } from './found-fields.js';
import { isBinding, unclearAt } from './places.js';

/** What reading rows shares with reading the rest of the form. */
export function rowsReading(draft: Draft): RowsReading {
  return {
    site: draft.site,
    lists: draft.lists,
    reading: (chain, path) => reading(chain, draft, path),
    isBinding: (name) => isBinding(name, draft),
    add: (use) => draft.uses.push(use),
    unclear: (chain, why) => unclearAt(draft, chain, why),
  };
}
