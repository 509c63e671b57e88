import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';

/** Fields of which nothing tells a type that a target has to write. */
export function untypedFields({ typescript, fields }: FormModel): LedgerEntry[] {
  return fields
    .filter(({ type }) => typescript && type === undefined)
    .map(({ name, declared, initial }) => ({
      entry: 'by-hand',
      span: declared,
      what: `type of ${name}`,
      why: `its initial value ${initial.text} does not tell it; write useState<…> with the type first`,
    }));
}
