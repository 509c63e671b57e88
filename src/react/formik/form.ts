import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionOf } from '../components.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { importOfTag } from '../hook-calls.js';
import type { Apart, PlainNames } from '../package-leaving/apart.js';
import { textIn, type Leaving } from '../package-leaving/leaving.js';
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

/** The conditions under which an element is shown inside of its form; undefined where one is no plain condition. */
export function shownWhen(element: NodePath, root: NodePath, leaving: Leaving): (() => string)[] | undefined {
  const found: (() => string)[] = [];
  for (let at: NodePath = element; at.parentPath && at !== root; at = at.parentPath) {
    const { parentPath: parent, key } = at;
    const text = (node: t.Node): string => textIn(leaving, { node });
    if (parent.isLogicalExpression() && key === 'right') {
      if (parent.node.operator !== '&&') return undefined;
      const { left } = parent.node;
      found.unshift(() => text(left));
    } else if (parent.isConditionalExpression() && key !== 'test') {
      const { test } = parent.node;
      found.unshift(() => (key === 'consequent' ? text(test) : `!(${text(test)})`));
    } else if (parent.isFunction() && parent !== root && !isRender(parent, root)) return undefined;
  }
  return found;
}

function isRender(fn: NodePath, root: NodePath): boolean {
  return fn === root || (root.node.start ?? 0) >= (fn.node.start ?? 0);
}
