import type { Chain } from '../chains.js';
import type { TemplateName } from '../template-model.js';
import type { Draft } from './found-fields.js';
import { isPlainChange } from './storage-uses.js';

/** Whether a name stands in the binding itself: `[(ngModel)]`, or `(ngModelChange)="model.town = $event"`. */
export function isBinding(name: TemplateName, draft: Draft): boolean {
  const { attribute } = name;
  if (!attribute) return false;
  if (attribute.name === 'ngModel') return true;
  return attribute.name === 'ngModelChange' && isPlainChange(attribute.value ?? '', draft);
}

/** Notes a place that could not be understood, with the reason. */
export function unclearAt(draft: Draft, chain: Chain, why: string): void {
  const { script, template } = draft.site.component;
  const end = chain.links.at(-1)?.end ?? chain.start;
  const text = chain.file === script.file ? script.text : template.place.text;
  draft.unclear.push({ span: { file: chain.file, start: chain.start, end }, what: text.slice(chain.start, end), why });
}
