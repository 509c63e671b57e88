import { rowFunction, valueTypes } from '../package-leaving/row-changes.js';
import { elementsOf } from '../package-leaving/ties.js';
import type { Stated } from './block.js';
import type { TakenApart } from './form.js';

/** What may be handed to a component, with its type; a type that is undefined is one that cannot be said. */
export function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
  const { names, rows, needs } = apart;
  const said = (type: string | undefined): string =>
    stated.type === undefined || type === undefined ? '' : type.replaceAll(stated.type, values);
  const setter = (type: string): string => `Dispatch<SetStateAction<${type}>>`;
  const event = (of: string, tags: ReadonlySet<string>): string => `(event: ${of}<${elementsOf(tags)}>) => void`;
  const form = (of: string): string => `(event: ${of}<HTMLFormElement>) => void`;
  const types = new Map<string, string | undefined>([
    [names.values, values],
    [names.errors, said(stated.errors)],
    [names.touched, said(stated.touched)],
    [names.submitting, 'boolean'],
    [names.dirty, 'boolean'],
    [names.valid, 'boolean'],
    [names.attempts, 'number'],
    [names.status, stated.status.type],
    [names.setStatus, stated.status.type === undefined ? undefined : setter(stated.status.type)],
    [names.setErrors, setter(said(stated.errors))],
    [names.setTouched, setter(said(stated.touched))],
    [names.setSubmitting, 'Dispatch<SetStateAction<boolean>>'],
    [names.change, `(next: ${values}) => void`],
    [names.setValues, setter(values)],
    [names.handleChange, event('ChangeEvent', apart.changed)],
    [names.handleBlur, event('FocusEvent', apart.left)],
    [names.left, '(name: string) => void'],
    [names.handleSubmit, form('FormEvent')],
    [names.handleReset, form('FormEvent')],
    [names.reset, needs.has('resetTo') ? `(next?: ${values}) => void` : '() => void'],
  ]);
  for (const list of rows.keys()) {
    if (needs.has(`change ${list}`))
      types.set(
        rowFunction(apart, 'change', list),
        `(index: number, name: string, value: ${valueTypes(apart, list)}) => void`,
      );
    if (needs.has(`without ${list}`)) types.set(rowFunction(apart, 'remove', list), '(index: number) => void');
  }
  return types;
}
