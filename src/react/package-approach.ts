import type { FormSite, ReactApproach, Recognised } from './approach.js';
import { isBesideOthers, packageForm, packageStateOf } from './calls/read.js';
import type { CallTable } from './calls/table.js';
import { writePackageHook } from './holder-writing/package-hook.js';
import { libraryForm, type LibraryMarks } from './library-forms.js';

/** What is known of a form of a package beyond its table: how it is read, and how it leaves the package. */
type Told = Pick<Recognised, 'read' | 'leave' | 'partly'>;

/** An approach whose values the hook of an npm package keeps: written by its table, read where that tells everything. */
export function packageApproach(
  card: Pick<ReactApproach, 'title' | 'goodFor'>,
  calls: CallTable,
  marks: LibraryMarks,
  told?: (site: FormSite, names: readonly string[]) => Told | undefined,
): ReactApproach {
  return {
    ...card,
    id: calls.approach,
    reads: false,
    ...(told ? { partly: true as const } : {}),
    write: (model, context) => writePackageHook(model, context, calls),
    recognise(site): Recognised | undefined {
      const state = packageStateOf(site, calls);
      if (state?.fields.length) {
        const leave = told?.(site, [])?.leave;
        return { ...packageForm(site, state, calls), ...(leave ? { leave } : {}) };
      }
      if (isBesideOthers(site, calls)) return undefined;
      const seen = libraryForm(site, marks);
      return seen && { ...seen, ...told?.(site, seen.fields) };
    },
  };
}
