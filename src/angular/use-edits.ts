import { outermostUses } from '../form/code-text.js';
import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { Span } from '../form/code.js';
import type { Use } from '../form/uses.js';
import type { WriteContext } from '../form/writing.js';
import type { AngularComponent } from './component.js';
import type { FileEdit } from './writing.js';

/** Whether a place stands in the component's template, be it a file of its own or a part of the class's file. */
export function isInTemplate(span: Span, { template: { place } }: AngularComponent): boolean {
  return span.file === place.file && span.start >= place.base && span.end <= place.base + place.text.length;
}

/** Stretches that go as a whole: declarations, and attributes of the old approach whose handlers are written anew. */
function goneSpans(model: FormModel): Span[] {
  return [
    ...model.declarations.map(({ span }) => span),
    ...model.controls.flatMap(({ binding }) => binding?.attributes ?? []),
  ];
}

/**
 * The edits of every place that reads or changes the form, and their account.
 * @param textOf what takes the place of a use; undefined leaves its text
 * @param ledger the account, which gains an entry for each use
 */
export function useEdits(
  model: FormModel,
  context: WriteContext,
  textOf: (use: Use) => string | undefined,
  ledger: LedgerEntry[],
): FileEdit[] {
  const gone = goneSpans(model);
  const inside = (span: Span): boolean =>
    gone.some((one) => one.file === span.file && span.start >= one.start && span.end <= one.end);
  const edits: FileEdit[] = [];
  for (const use of outermostUses(model.uses.filter(({ span }) => !inside(span)))) {
    // code that follows a field moves as a whole, which its writer accounts for
    if (use.kind === 'watch') continue;
    const text = textOf(use);
    const old = context.text(use.span.file).slice(use.span.start, use.span.end);
    const changed = text !== undefined && text !== old;
    if (changed) edits.push({ ...use.span, text });
    ledger.push({
      entry: changed ? 'carried' : 'kept',
      span: use.span,
      what: old.replace(/[!?.]+$/, ''),
      why: changed
        ? `${text.split('\n')[0]?.replace(/[?.]+$/, '') ?? ''} takes its place`
        : 'the same name means the same here',
    });
  }
  return edits;
}
