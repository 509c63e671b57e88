import type { Item } from '../../source/layout.js';
import { quoted } from '../../source/style.js';
import type { ReducerDraft } from './draft.js';

/** A property on one line, in short where its key and its value are one name. */
export function flatProperty(name: string, value: string): string {
  return value === name ? name : `${name}: ${value}`;
}

/** A text literal with the quotes of the file. */
export function str(draft: ReducerDraft, text: string): string {
  return quoted(text, draft.context.style);
}

/** A property to lay out, in short where its key and its value are one name. */
export function property(name: string, value: string): Item {
  return value === name ? { lead: '', value: name } : { lead: `${name}: `, value };
}
