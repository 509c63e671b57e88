import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Apart, PlainNames } from '../package-leaving/apart.js';
import type { SchemaRules } from '../package-leaving/schemas.js';
import type { HookForm } from './found.js';

/** The names that the parts of a form get in its component once the package is gone. */
export interface FormNames extends PlainNames {
  /** Whether a send was tried. */
  submitted: string;
  setSubmitted: string;
  /** The message for the form as a whole. */
  failure: string;
  setFailure: string;
  recheck: string;
  /** The page’s own form, in which a wrong control is looked for. */
  formRef: string;
}

/** One field where it is registered, with the rules that are stated there. */
export interface OwnRules {
  field: string;
  rules: NodePath<t.ObjectExpression> | undefined;
  /** Where in the file it is registered. */
  at: number;
  shownWhen: (() => string)[];
  /** It holds a number, rather than the text of one. */
  numeric: boolean;
  /** A control of the page that takes numbers or dates as text. */
  element: NodePath<t.JSXElement>;
}

/** A form of the package while it is taken apart. */
export interface TakenApart extends Apart {
  form: HookForm;
  /** The name of the values’ type. */
  type: string | undefined;
  names: FormNames;
  rules: OwnRules[];
  /** What the author does besides when a field changes: the function of the component that does it. */
  besides: Map<string, { name: string; tag: string; lines: () => string[] }>;
  /** What is done where a send was tried in vain. */
  refused: (() => string) | undefined;
  /** The schema that checks it in place of rules at its fields. */
  schema: SchemaRules | undefined;
  /** Fields that hold numbers, because their control is told to give them. */
  numeric: Set<string>;
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

/** The field that an argument names. */
export function fieldIn({ fields }: TakenApart, name: NodePath | undefined): string | undefined {
  return name?.isStringLiteral() && fields.includes(name.node.value) ? name.node.value : undefined;
}
