import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import type { Apart, PlainNames } from '../package-leaving/apart.js';
import { isField, keptMember } from '../package-leaving/nested.js';
import type { Leaving } from '../package-leaving/leaving.js';
import { rowFieldNamed, rowName, type RowField } from '../package-leaving/rows.js';
import { nameText } from '../package-leaving/ties.js';
import type { SchemaRules } from '../package-leaving/schemas.js';
import type { HookForm } from './found.js';

/** The names that the parts of a form get in its component once the package is gone. */
export interface FormNames extends PlainNames {
  /** Whether a send was tried. */
  submitted: string;
  setSubmitted: string;
  /** Whether the last send that was tried went through. */
  succeeded: string;
  setSucceeded: string;
  /** The message for the form as a whole. */
  failure: string;
  setFailure: string;
  recheck: string;
  /** What gives a field the focus, or sets one back. */
  focusField: string;
  resetField: string;
  /** The page’s own form, in which a wrong control is looked for. */
  formRef: string;
}

/** A field as a place names it: one of the form, or of a row (`lines.count`), with the row where it is one. */
export interface OwnField {
  field: string;
  row?: RowField | undefined;
}

/** One field where it is registered, with the rules that are stated there. */
export interface OwnRules extends OwnField {
  rules: NodePath<t.ObjectExpression> | undefined;
  /** Where in the file it is registered. */
  at: number;
  shownWhen: (() => string)[];
  /** It holds a number, rather than the text of one. */
  numeric: boolean;
  /** A control of the page that takes numbers or dates as text; a list of rows has none. */
  element: NodePath<t.JSXElement> | undefined;
  /** The component in which it is registered. */
  leaving: Leaving;
}

/** What changes a list of rows, by the names of the package. */
export type ListChange = 'append' | 'prepend' | 'insert' | 'remove' | 'swap' | 'move' | 'update' | 'replace';

/** A list of rows of which the package knows each by a key: `useFieldArray`. */
export interface OwnList {
  name: string;
  /** The keys of its rows, and what sets them. */
  keys: string;
  setKeys: string;
  /** The function that sets rows and keys, and moves along what is kept of each row. */
  arrange: string;
  moved: string;
  /** The functions that change it, by what they are called in the package. */
  changes: Map<ListChange, string>;
  /** Those that something calls. */
  called: Set<ListChange>;
  /** Changes after which the first control of a new row gets the focus. */
  focusing: Set<ListChange>;
  /** Changes after which it does not. */
  still: Set<ListChange>;
  /** The component that keeps it. */
  leaving: Leaving;
  call: NodePath<t.CallExpression>;
}

/** A form of the package while it is taken apart. */
export interface TakenApart extends Apart {
  form: HookForm;
  /** The name of the values’ type. */
  type: string | undefined;
  names: FormNames;
  rules: OwnRules[];
  /** Fields that begin as their controls do, with the pairs of name and value that say so. */
  unset: Map<string, string>;
  /** What the author does besides when a field changes: the function of the component that does it. */
  besides: Map<string, { name: string; tag: string; lines: () => string[] }>;
  /** What is done where a send was tried in vain. */
  refused: (() => string) | undefined;
  /** The schema that checks it in place of rules at its fields. */
  schema: SchemaRules | undefined;
  /** Fields that hold numbers, because their control is told to give them. */
  numeric: Set<string>;
  /** Where a component that the form is handed to is drawn. */
  drawnBy?: { apart: TakenApart; element: NodePath<t.JSXElement> };
  /** Lists of rows, by their names. */
  lists: Map<string, OwnList>;
  /** How many controls of the page are registered for each field that can get the focus. */
  controls: Map<string, number>;
  /** The first control of a row of each list. */
  firstControls: Map<string, { key: string; element: NodePath<t.JSXElement> }>;
  /** Fields with a rule that has no message: it is told by the name of the rule. */
  silent: Set<string>;
  /** Fields whose message is asked for, rather than whether there is one; an empty name for any of them. */
  worded: Set<string>;
  /** Fields of whose error it is asked which rule told it. */
  typed: Set<string>;
  /** Which fields are checked along with one: `deps`. */
  along: Map<string, string[]>;
  /** Names that stand for a value of the form: `const kind = watch('kind')`. */
  watched: Map<string, string>;
  /** Components of the file that only follow values of the form, by their tags. */
  watchers: Set<string>;
  /** References by which components of the project let a field's control get the focus: field to name and element. */
  references: Map<string, { name: string; element: string }>;
}

/** When fields are checked: before the first send was tried, and after it. */
export interface Moments {
  before: 'onSubmit' | 'onBlur' | 'onChange' | 'onTouched' | 'all';
  after: 'onSubmit' | 'onBlur' | 'onChange';
}

/** The moments that the options of the hook say; undefined where they are told only when the form runs. */
export function momentsOf({ options }: HookForm): Moments | undefined {
  const said = (name: string, usual: string): string | undefined => {
    const value = options.get(name);
    if (!value) return usual;
    return value.isStringLiteral() ? value.node.value : undefined;
  };
  const [before, after] = [said('mode', 'onSubmit'), said('reValidateMode', 'onChange')];
  const isBefore = (text: string | undefined): text is Moments['before'] =>
    /^on(Submit|Blur|Change|Touched)$|^all$/.test(text ?? '');
  const isAfter = (text: string | undefined): text is Moments['after'] => /^on(Submit|Blur|Change)$/.test(text ?? '');
  return isBefore(before) && isAfter(after) ? { before, after } : undefined;
}

/** The field that an argument names, of the form or of a row. */
export function ownFieldIn(apart: TakenApart, name: NodePath | undefined): OwnField | undefined {
  const field = fieldIn(apart, name);
  if (field !== undefined) return { field };
  const spelt = name?.isTSAsExpression() ? (name.get('expression') as NodePath) : name;
  const row = rowFieldNamed(apart, spelt);
  return row && { field: `${row.list}.${row.key}`, row };
}

/** Whether a wrong field gives the focus to a control of the page. */
export function getsFocus({ controls, references }: TakenApart, { field }: OwnRules): boolean {
  return controls.has(field) || references.has(field);
}

/** Notes a control that can get the focus. */
export function notesFocus({ controls }: TakenApart, field: string): void {
  controls.set(field, (controls.get(field) ?? 0) + 1);
}

/** The name of a field, as an expression. */
export function nameOf(apart: TakenApart, { field, row }: OwnField): string {
  return row ? rowName(apart, row) : nameText(apart, field);
}

/** The message of a field, as an expression. */
export function errorOf(apart: TakenApart, own: OwnField): string {
  return apart.names.errors + (own.row ? `[${nameOf(apart, own)}]` : keptMember(apart, own.field));
}

/** The attribute that gives a control the name of its field. */
export function nameAttribute(apart: TakenApart, own: OwnField): string {
  return own.row ? `name={${nameOf(apart, own)}}` : `name="${own.field}"`;
}

/** The field of the form that an argument names. */
export function fieldIn(apart: TakenApart, name: NodePath | undefined): string | undefined {
  return name?.isStringLiteral() && isField(apart, name.node.value) ? name.node.value : undefined;
}
