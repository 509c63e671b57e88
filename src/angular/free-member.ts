import type { WriteContext } from '../form/writing.js';
import type { AngularComponent } from './component.js';

/**
 * A name for a new member of a class: neither one of its members has it, nor a variable of its template.
 * @param wished names in the order in which they are liked; where all are taken, one like the first
 */
export function freeMember(
  { members, template }: AngularComponent,
  context: Pick<WriteContext, 'freeName'>,
  ...wished: string[]
): string {
  const taken = (name: string): boolean =>
    members.has(name) || template.variables.some((variable) => variable.name === name);
  return wished.find((name) => !taken(name)) ?? context.freeName(wished[0] ?? 'member', ...wished);
}
