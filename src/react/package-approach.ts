import type { ReactApproach, Recognised } from './approach.js';
import { isBesideOthers, packageForm, packageStateOf } from './calls/read.js';
import type { CallTable } from './calls/table.js';
import { writePackageHook } from './holder-writing/package-hook.js';
import { libraryForm, type LibraryMarks } from './library-forms.js';

/** An approach whose values the hook of an npm package keeps: written by its table, read where that tells everything. */
export function packageApproach(
  card: Pick<ReactApproach, 'title' | 'goodFor'>,
  calls: CallTable,
  marks: LibraryMarks,
): ReactApproach {
  return {
    ...card,
    id: calls.approach,
    reads: false,
    write: (model, context) => writePackageHook(model, context, calls),
    recognise(site): Recognised | undefined {
      const state = packageStateOf(site, calls);
      if (state?.fields.length) return packageForm(site, state, calls);
      return isBesideOthers(site, calls) ? undefined : libraryForm(site, marks);
    },
  };
}
