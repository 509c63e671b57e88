import type { NodePath } from '@babel/traverse';
import type { Placed } from '../../source/behind-names.js';
import { kindIn, type Apart, type Kind } from './apart.js';
import { startValues } from './fields.js';
import { textIn } from './leaving.js';

/** A field of a row: `lines.${index}.what`. */
export interface RowField {
  list: string;
  index: NodePath;
  key: string;
  kind: Kind;
}

/** The field of a row that a name spells when the form runs: a template of a list, an index and a key. */
export function rowFieldNamed(apart: Apart, name: NodePath | undefined): RowField | undefined {
  if (!name?.isTemplateLiteral()) return undefined;
  const [first, last, ...more] = name.node.quasis.map(({ value }) => value.cooked ?? '');
  const [index] = name.get('expressions') as NodePath[];
  const list = /^([\w$]+)\.$/.exec(first ?? '')?.[1];
  const key = /^\.([\w$]+)$/.exec(last ?? '')?.[1];
  if (!index || more.length || list === undefined || key === undefined || !apart.fields.includes(list))
    return undefined;
  const kinds = apart.rows.get(list) ?? rowKinds(apart, list);
  const kind = kinds?.get(key);
  if (!kinds || kind === undefined) return undefined;
  apart.rows.set(list, kinds);
  apart.kinds.set(list, 'rows');
  return { list, index, key, kind };
}

/** What the values of a list's rows are, by the first of them. */
export function rowKinds({ leaving, starts }: Apart, list: string): Map<string, Kind> | undefined {
  const start = starts.get(list);
  const [first] = start?.path.isArrayExpression() ? (start.path.get('elements') as NodePath[]) : [];
  return start && first && kindsOf({ path: first, script: start.script }, leaving);
}

/** What the values of an object are. */
export function kindsOf({ path, script }: Placed, { site }: Apart['leaving']): Map<string, Kind> | undefined {
  const values = startValues(path, { ...site, script });
  return values && new Map(values.map((one) => [one.name, kindIn(one.path, one.script)]));
}

/** The name of a row's field when the form runs: `lines.${index}.what`. */
export function rowName({ leaving }: Pick<Apart, 'leaving'>, { list, index, key }: Omit<RowField, 'kind'>): string {
  return `\`${list}.\${${textIn(leaving, index)}}.${key}\``;
}
