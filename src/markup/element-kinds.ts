import type { ValueKind } from '../form/model.js';

/** What of an element tells the kind of value that it edits. */
export interface EditingElement {
  tag: string;
  /** Its `type`, where it is plain text. */
  type: string | undefined;
  multiple: boolean;
  /** Whether the value is known to be a list, which tick boxes add to and take from. */
  list?: boolean | undefined;
}

/** The kind of value that a native element edits; undefined where the value itself has to tell: any text, any component. */
export function nativeKind({ tag, type, multiple, list }: EditingElement): ValueKind | undefined {
  if (type === 'checkbox') return list ? 'many choices' : 'boolean';
  if (type === 'radio') return 'choice';
  if (type === 'file') return 'file';
  if (type === 'number' || type === 'range') return 'number';
  if (type !== undefined && /^(?:date|time|datetime-local|month|week)$/.test(type)) return 'date';
  if (tag === 'select') return multiple ? 'many choices' : 'choice';
  return undefined;
}
