import type { Placed } from '../../source/behind-names.js';
import { quoted } from '../../source/style.js';
import { kindIn, type Apart } from './apart.js';
import { startValues } from './fields.js';
import type { Leaving } from './leaving.js';

/** How what is kept of a field is asked of all that is kept: by its name, also where it stands inside of another value. */
export function keptMember({ leaving }: Apart, field: string): string {
  return field.includes('.') ? `[${quoted(field, leaving.context.style)}]` : `.${field}`;
}

/** Whether a name is that of a field: of the form, or inside of one of its values, by what that begins as. */
export function isField(apart: Apart, name: string): boolean {
  const { fields, kinds, starts, leaving } = apart;
  if (fields.includes(name) || kinds.has(name)) return true;
  const [head = '', ...rest] = name.split('.');
  const start = starts.get(head);
  let held = start && valuesIn(start, leaving);
  for (const [at, key] of rest.entries()) {
    const own = held?.get(key);
    if (!own) return false;
    if (at < rest.length - 1) held = valuesIn(own, leaving);
    else if (valuesIn(own, leaving)) return false;
    else kinds.set(name, kindIn(own.path, own.script));
  }
  return rest.length > 0;
}

/** The values of an object that is written out. */
function valuesIn({ path, script }: Placed, { site }: Leaving): Map<string, Placed> | undefined {
  const values = startValues(path, { ...site, script });
  return values && new Map(values.map((one) => [one.name, one]));
}

/** Values of the form that are objects themselves. */
export function groupsOf({ starts, leaving }: Pick<Apart, 'starts' | 'leaving'>): string[] {
  return [...starts].flatMap(([name, start]) => (valuesIn(start, leaving) ? [name] : []));
}

/** Fields inside of other values, as far as the form speaks of them. */
export function nestedFields({ kinds }: Apart): string[] {
  return [...kinds.keys()].filter((name) => name.includes('.'));
}
