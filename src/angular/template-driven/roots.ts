import type { Draft } from './found-fields.js';

/** Members of the class in which values live. */
export function rootsOf({ fields, lists }: Pick<Draft, 'fields' | 'lists'>): Set<string> {
  return new Set([...fields, ...lists].flatMap(({ storage }) => storage?.root ?? []));
}
