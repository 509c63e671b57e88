import { plainPropTypes, setterType } from '../package-leaving/given-types.js';
import { memberType } from '../package-leaving/starts.js';
import type { Stated } from './block.js';
import type { OwnList, TakenApart } from './form.js';
import { listParameters } from './row-functions.js';

/** What may be handed to a component, with its type; a type that is undefined is one that cannot be said. */
export function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
  const { names, lists } = apart;
  const types = new Map([
    ...plainPropTypes(apart, stated, values),
    [names.failure, 'string'],
    [names.submitted, 'boolean'],
    [names.setFailure, setterType('string')],
    [names.change, `(next: ${values}, name: string) => void`],
    [names.recheck, `(next: ${values}, ...fields: string[]) => void`],
    [names.focusField, '(name: string) => void'],
    [names.resetField, `(name: keyof ${values}) => void`],
  ]);
  for (const list of lists.values()) addListTypes(types, list, memberType(values, list.name, apart.leaving));
  return types;
}

function addListTypes(types: Map<string, string | undefined>, list: OwnList, type: string): void {
  types.set(list.keys, 'number[]');
  for (const [member, name] of list.changes) types.set(name, `(${listParameters(member, type)}) => void`);
}
