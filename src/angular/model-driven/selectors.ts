import type { LedgerEntry } from '../../form/ledger.js';
import type { LoadScript } from '../../source/project-files.js';
import { directivesOf, matching } from '../applied-directives.js';
import type { FileEdit } from '../writing.js';
import type { ModelDraft } from './draft.js';
import { tiedBy } from './markup-edits.js';

/**
 * Directives of the project whose selectors ask for a control of the template, such as `[onePlot][ngModel]`: they apply to
 * the same controls of the class as well.
 */
export function selectorEdits(draft: ModelDraft, load: LoadScript, ledger: LedgerEntry[]): FileEdit[] {
  const { component, model } = draft;
  return directivesOf(component, load).flatMap(({ name, selector, place }): FileEdit[] => {
    const parts = selector.split(',').map((part) => part.trim());
    const asking = parts.filter((part) => part.includes('[ngModel]'));
    if (!asking.length || /[:\\]/.test(selector)) return [];
    const ties = model.controls.flatMap((control) => {
      const element = component.template.elements.find(({ start }) => start === control.span.start);
      const applies = element && asking.some((part) => matching(part, [element]).length > 0);
      return applies ? [/^\[?(\w+)/.exec(tiedBy(control, draft))?.[1] ?? ''] : [];
    });
    const added = [...new Set(ties)].flatMap((tie) => asking.map((part) => part.replace('[ngModel]', `[${tie}]`)));
    const missing = added.filter((part) => !parts.includes(part));
    if (!missing.length) return [];
    ledger.push({
      entry: 'carried',
      span: place,
      what: `selector of ${name}`,
      why: `it applies to ${missing.join(', ')} as well`,
    });
    // in front of the quote that ends it
    const end = place.end - 1;
    return [{ file: place.file, start: end, end, text: missing.map((part) => `, ${part}`).join('') }];
  });
}
