import { plainPropTypes, setterType } from '../package-leaving/given-types.js';
import type { Stated } from './block.js';
import type { TakenApart } from './form.js';

/** What may be handed to a component, with its type; a type that is undefined is one that cannot be said. */
export function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
  const { names } = apart;
  const { type } = stated.status;
  return new Map([
    ...plainPropTypes(apart, stated, values),
    [names.status, type],
    [names.setStatus, type === undefined ? undefined : setterType(type)],
    [names.setSubmitting, setterType('boolean')],
    [names.change, `(next: ${values}) => void`],
    [names.handleSubmit, '(event: FormEvent<HTMLFormElement>) => void'],
    [names.handleReset, '(event: FormEvent<HTMLFormElement>) => void'],
  ]);
}
