import * as t from '@babel/types';
import { isRowField, rowFieldParts, type FormModel } from '../form/model.js';
import { signalArgument, writtenType } from './class-reading.js';
import type { AngularComponent } from './component.js';

/** The one member of the class that holds all values as an object; undefined where there are several, or none. */
export function valuesRoot({ fields, controls }: Pick<FormModel, 'fields' | 'controls'>): string | undefined {
  // a row's control edits its list
  const bound = new Set(controls.map(({ field }) => (isRowField(field) ? rowFieldParts(field).list : field)));
  const edited = fields.filter(({ name }) => bound.has(name));
  const roots = new Set(
    edited.map(({ names }) => (names.value?.includes('.') ? names.value.split('.')[0] : undefined)),
  );
  const [only] = roots;
  return roots.size === 1 ? only : undefined;
}

/** The name of the type that a member's values have, where one is written. */
export function typeNameOf(root: string, { members, script }: AngularComponent): string | undefined {
  const member = members.get(root);
  const type = signalArgument(member)?.type ?? writtenType(member);
  return t.isTSTypeReference(type) ? script.text.slice(type.start ?? 0, type.end ?? 0) : undefined;
}
