import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import type { Apart, PlainNames } from '../package-leaving/apart.js';
import type { StoreForm } from './found.js';

/** The names that the parts of a form get in its component once the package is gone. */
export interface FormNames extends PlainNames {
  /** Messages that came when a field was left. */
  leftErrors: string;
  setLeftErrors: string;
  /** Whether anything was changed since the start. */
  changed: string;
  setChanged: string;
  canSubmit: string;
  submit: string;
  recheck: string;
  checkLeft: string;
}

/** The slots of rules that are said without the package. */
export type Slot = 'onChange' | 'onBlur';

/** A field with its rules, as its element states them. */
export interface OwnField {
  name: string;
  rules: Map<Slot, NodePath>;
  shownWhen: (() => string)[];
  /** Fields whose changes check this one as well. */
  listensTo: string[];
  /** Comments that stand with its rules. */
  comments: string[];
}

/** A form of the package while it is taken apart. */
export interface TakenApart extends Apart {
  form: StoreForm;
  names: FormNames;
  type: string | undefined;
  own: Map<string, OwnField>;
  watched: Map<string, string>;
  /** Places that hand a field on to a component of the project. */
  handed: { element: NodePath<t.JSXElement>; own: OwnField; at: NodePath }[];
  /** Functions of the author’s that check a field, as functions of the component. */
  ruleFunctions: string[][];
  /** What happens besides when a field changes: `listeners`. */
  listeners: Map<string, { fn: NodePath; held: string; lines: () => string[] }>;
}

/** The messages of a field, one expression for each slot that has rules. */
export function errorsOf({ own, names }: TakenApart, field: string): string[] {
  const rules = own.get(field)?.rules;
  return [
    ...(rules?.has('onChange') ? [`${names.errors}.${field}`] : []),
    ...(rules?.has('onBlur') ? [`${names.leftErrors}.${field}`] : []),
  ];
}
