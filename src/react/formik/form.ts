import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionOf } from '../components.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { importOfTag } from '../hook-calls.js';
import type { Apart, PlainNames } from '../package-leaving/apart.js';
import type { FormikForm } from './found.js';

/** The names that the parts of a form get in its component once the package is gone. */
export interface FormNames extends PlainNames {
  status: string;
  setStatus: string;
  handleReset: string;
  /** What the status goes back to, where that is told anew. */
  firstStatus: string;
  setFirstStatus: string;
}

/** A form of the package while it is taken apart. */
export interface TakenApart extends Apart {
  form: FormikForm;
  names: FormNames;
  /** Whether something of the page asks if it is being sent. */
  asksSubmitting: boolean;
  /** Where a component that the form is handed to is drawn. */
  drawnBy?: { apart: TakenApart; element: NodePath<t.JSXElement> };
  /** Members that the function which sends is given, by the callee. */
  helped: Map<t.Node, string>;
  /** Names of the component that stand for a value: the package has none. */
  watched: ReadonlyMap<string, string>;
  /** Rules that a control brings along: which function of which field, and under which condition it is shown. */
  ownRules: { field: string; fn: NodePath; shownWhen: (() => string)[] }[];
  /** Places that show or ask an error, and whether they wait until the field was left. */
  asked: { gated: boolean }[];
}

/** A component of the package by the tag of an element: `Field`, `Form`. */
export function partOf(element: NodePath<t.JSXElement>): string | undefined {
  const made = importOfTag(element.get('openingElement').get('name') as NodePath);
  return made?.module === 'formik' ? made.name : undefined;
}

/** The element of the page that a `<Field>` draws. */
export function drawnBy(element: NodePath<t.JSXElement>): string | undefined {
  if (partOf(element) === undefined) return tagOf(element);
  const as = attributesOf(element).find(({ name }) => name === 'as' || name === 'component');
  if (!as) return 'input';
  return as.text;
}

/** The function that sends, by the option of its name. */
export function senderOf({ options }: FormikForm): Apart['send'] {
  const given = options.get('onSubmit');
  return given && { given, fn: given.isObjectMethod() ? undefined : functionOf(given) };
}
