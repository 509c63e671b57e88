import type { Chain } from '../chains.js';
import type { TemplateAttribute, TemplateName } from '../template-model.js';
import type { Draft } from './found-fields.js';

/** Whether the handler of an attribute changes a value and does nothing else. */
export function isPlainChange({ value: handler = '', start }: TemplateAttribute, draft: Draft): boolean {
  if (draft.feeders.attributes.has(start)) return true;
  const assigned = /^\s*([^=]+?)\s*=\s*\$event;?\s*$/.exec(handler)?.[1];
  if (draft.rowControls.some(({ bound }) => bound.model.value?.trim() === assigned)) return true;
  const target = /^\s*([\w.]+)\s*=\s*\$event;?\s*$/.exec(handler)?.[1];
  return (
    draft.fields.some(
      ({ storage }) => storage && !storage.signal && [storage.root, ...storage.keys].join('.') === target,
    ) ||
    draft.fields.some(
      ({ storage }) => storage?.signal && new RegExp(`^\\s*${storage.root}\\.set\\(\\$event\\);?\\s*$`).test(handler),
    )
  );
}

/** Whether a name stands in the binding itself: `[(ngModel)]`, or `(ngModelChange)="model.town = $event"`. */
export function isBinding(name: TemplateName, draft: Draft): boolean {
  const { attribute } = name;
  if (!attribute) return false;
  if (attribute.name === 'ngModel' || attribute === draft.feed) return true;
  // it keeps the controls of one row apart from those of the others
  if (attribute.name === 'ngModelGroup' && name.variable !== undefined) return true;
  return attribute.name === 'ngModelChange' && isPlainChange(attribute, draft);
}

/** Notes a place that could not be understood, with the reason. */
export function unclearAt(draft: Draft, chain: Chain, why: string, unlessSignal?: true): void {
  const { script, template } = draft.site.component;
  const end = chain.links.at(-1)?.end ?? chain.start;
  const text = chain.file === script.file ? script.text : template.place.text;
  draft.unclear.push({
    span: { file: chain.file, start: chain.start, end },
    what: text.slice(chain.start, end),
    why,
    ...(unlessSignal ? { unlessSignal } : {}),
  });
}
