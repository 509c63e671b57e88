import { typeMembers } from '../source/type-members.js';
import type { FormSite } from './approach.js';
import type { HeldObject } from './held-object/held.js';

/**
 * The type of one member of a held object, as source text that can stand in the component's file.
 * @returns undefined where it cannot be told
 */
export function memberTypeText(state: Pick<HeldObject, 'type'>, name: string, site: FormSite): string | undefined {
  const member = typeMembers(state.type, site.load).get(name);
  return member && (member.optional ? `${member.text} | undefined` : member.text);
}
