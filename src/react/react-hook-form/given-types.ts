import { memberType } from '../package-leaving/starts.js';
import { elementsOf } from '../package-leaving/ties.js';
import type { Stated } from './block.js';
import type { OwnList, TakenApart } from './form.js';
import { rowFunction, valueTypes } from '../package-leaving/row-changes.js';
import { listParameters } from './row-functions.js';

/** What may be handed to a component, with its type; a type that is undefined is one that cannot be said. */
export function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
  const { names, rows, lists, needs } = apart;
  const said = (type: string | undefined): string =>
    stated.type === undefined || type === undefined ? '' : type.replaceAll(stated.type, values);
  const setter = (type: string): string => `Dispatch<SetStateAction<${type}>>`;
  const event = (of: string, tags: ReadonlySet<string>): string => `(event: ${of}<${elementsOf(tags)}>) => void`;
  const types = new Map<string, string | undefined>([
    [names.values, values],
    [names.errors, said(stated.errors)],
    [names.touched, said(stated.touched)],
    [names.failure, 'string'],
    [names.submitting, 'boolean'],
    [names.submitted, 'boolean'],
    [names.dirty, 'boolean'],
    [names.valid, 'boolean'],
    [names.attempts, 'number'],
    [names.setErrors, setter(said(stated.errors))],
    [names.setFailure, setter('string')],
    [names.change, `(next: ${values}, name: string) => void`],
    [names.setValues, setter(values)],
    [names.recheck, `(next: ${values}, ...fields: string[]) => void`],
    [names.handleChange, event('ChangeEvent', apart.changed)],
    [names.handleBlur, event('FocusEvent', apart.left)],
    [names.left, '(name: string) => void'],
    [names.focusField, '(name: string) => void'],
    [names.resetField, `(name: keyof ${values}) => void`],
    [names.reset, needs.has('resetTo') ? `(next?: ${values}) => void` : '() => void'],
  ]);
  for (const list of rows.keys())
    if (needs.has(`change ${list}`))
      types.set(
        rowFunction(apart, 'change', list),
        `(index: number, name: string, value: ${valueTypes(apart, list)}) => void`,
      );
  for (const list of lists.values()) addListTypes(types, list, memberType(values, list.name, apart.leaving));
  return types;
}

function addListTypes(types: Map<string, string | undefined>, list: OwnList, type: string): void {
  types.set(list.keys, 'number[]');
  for (const [member, name] of list.changes) types.set(name, `(${listParameters(member, type)}) => void`);
}
