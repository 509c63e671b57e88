import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { WriteContext } from '../../form/writing.js';
import type { FormSite } from '../approach.js';
import { pascal } from '../form-names.js';
import type { PageField } from './page-fields.js';
import { walk } from '../../source/traverse.js';

export interface Draft {
  site: FormSite;
  context: WriteContext;
  fields: PageField[];
  /** Name of the state variable for each field, and of its setter. */
  names: Map<PageField, { value: string; setter: string }>;
  /** Constants of a function that only take a field's value under its own name: `const town = data.get('town')`. */
  aliases: Map<t.Node, PageField>;
  /** Declarations that only take the page's objects: they go. */
  gone: ReadonlySet<t.Node>;
  ledger: LedgerEntry[];
  edits: RewritePlan['edits'];
}

/** The variable that a field's value gets: its own name, as a variable can be called. */
export function variableName(name: string): string {
  const plain = name.replace(/[^A-Za-z0-9]+(\w)/g, (_, letter: string) => letter.toUpperCase()).replace(/[^\w$]/g, '');
  return plain.charAt(0).toLowerCase() + plain.slice(1);
}

/** A text literal with the quotes of the file. */
export function restyled(text: string, quote: string): string {
  const plain = /^'((?:[^'"\\])*)'$/.exec(text)?.[1];
  return plain === undefined ? text.replace(/\?\? ''\)$/, `?? ${quote}${quote})`) : quote + plain + quote;
}

/** Whether a path declares a ref: `const town = useRef()`. */
export function refCall(path: NodePath): boolean {
  return (
    path.isVariableDeclarator() &&
    t.isCallExpression(path.node.init) &&
    /useRef$/.test(path.get('init').toString().split('(')[0]?.replace(/<.*/, '') ?? '')
  );
}

/** The names of the state variable that takes over a field of the page. */
export function namesOf(field: PageField, draft: Draft): { value: string; setter: string } {
  const names = draft.names.get(field);
  if (!names) throw new Error(`no field ${field.name}`);
  return names;
}

/** Free names for the state variables of all fields of the page. */
export function namesFor(field: PageField, draft: Draft): { value: string; setter: string } {
  const { component } = draft.site;
  const wished = variableName(field.name) || 'value';
  const taken = (name: string): boolean =>
    component.path.scope.hasBinding(name) ||
    draft.site.script.program.scope.hasBinding(name) ||
    [...draft.names.values()].some((one) => one.value === name || one.setter === name) ||
    isLocal(name, field, draft);
  const value =
    [wished, `${wished}Value`, `${wished}Text`].find((name) => !taken(name)) ??
    draft.context.freeName(`${wished}Field`);
  const setter =
    [`set${pascal(value)}`, `change${pascal(value)}`].find((name) => !taken(name)) ??
    draft.context.freeName(`set${pascal(value)}Value`);
  return { value, setter };
}

/** Whether a function of the component uses a name for something of its own. */
function isLocal(name: string, field: PageField, { site, aliases, gone }: Draft): boolean {
  let found = false;
  walk(site.component.path, {
    Scope(path) {
      const own = path.scope.getOwnBinding(name);
      if (own && aliases.get(own.path.node) !== field && !gone.has(own.path.node)) found = true;
    },
  });
  return found;
}
