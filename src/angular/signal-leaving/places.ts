import type { NodePath } from '@babel/traverse';
import type { LedgerEntry } from '../../form/ledger.js';
import { styleOf } from '../../source/style.js';
import type { Chain } from '../chains.js';
import type { TemplateName } from '../template-model.js';
import { accessText } from '../writing.js';
import { leave, type Leaving } from './leaving.js';

/** What a name of the class or the template stands for: a field of the form, or its state. */
export interface Base {
  /** The control's expression. */
  control: string;
  /** Its path as the text of an expression, and without indices: `party[].nick`. */
  path: string;
  plain: string;
  /** The state of the field rather than the field itself. */
  state: boolean;
  /** Where the name stands for a field by its path: the parameter of a method. */
  byPath?: boolean;
}

/** A place of the class or the template, with what stands for the form there. */
export interface Place {
  leaving: Leaving;
  base: Base;
  chain: Chain;
  /** The path of the name, where it stands in the class. */
  path: NodePath | undefined;
  name: TemplateName | undefined;
  /** Says another place, such as one of a name that stands for the same field. */
  say: (place: Place) => void;
}

/** What the form’s own member stands for, or its model’s, whose state is the values. */
export function rootOf({ found }: Leaving, state: boolean): Base {
  return { control: `this.${found.form.name}`, path: '', plain: '', state };
}

/** A path of a row's field, which begins with an expression. */
function deeperPath(path: string, key: string): string {
  if (path === '') return `'${key}'`;
  if (/^'[^']*'$/.test(path)) return `${path.slice(0, -1)}.${key}'`;
  return /'$/.test(path) ? `${path.slice(0, -1)}.${key}'` : `${path} + '.${key}'`;
}

/** What a key behind a field or a group stands for; undefined where it is none of the form’s. */
export function deeper(base: Base, key: string, leaving: Leaving): Base | undefined {
  const plain = base.plain === '' ? key : `${base.plain}.${key}`;
  if (!kindAt(plain, leaving)) return undefined;
  return { ...base, control: controlAt(base.control, key), path: deeperPath(base.path, key), plain };
}

/** The expression for the control at a path, from the group’s expression on. */
export function controlAt(form: string, plain: string): string {
  const keys = plain.split('.').filter(Boolean);
  return form + keys.map((key) => `.controls${accessText(key)}`).join('');
}

/** What stands at a path: a field, a group of fields, or a list of rows. */
export function kindAt(plain: string, { leaves, lists }: Leaving): 'field' | 'group' | 'list' | undefined {
  if (plain === '') return 'group';
  const [list, key] = plain.split('[]');
  if (key !== undefined) {
    const rows = lists.find(({ path }) => path === list);
    if (key === '') return rows && 'group';
    return rows?.keys.some((one) => `.${one.key}` === key) ? 'field' : undefined;
  }
  if (lists.some(({ path }) => path === plain)) return 'list';
  if (leaves.some(({ path }) => path === plain)) return 'field';
  return leaves.some(({ path }) => path.startsWith(`${plain}.`)) ? 'group' : undefined;
}

/** Puts a text in the place of a part of a chain, and accounts for it. */
export function replace({ leaving, chain }: Place, start: number, end: number, text: string): void {
  leaving.edits.push({ file: chain.file, start, end, text });
  const { component, ledger } = leaving;
  const { place } = component.template;
  const [source, base] = chain.inTemplate ? [place.text, place.base] : [component.script.text, 0];
  const why = `${text.split('\n')[0] ?? ''} takes its place`;
  const whole = chain.links.find((link) => link.end >= end)?.end ?? end;
  const whatAt = (to: number): string => source.slice(start - base, to - base).split('\n')[0] ?? '';
  const entry = (to: number): LedgerEntry => ({
    entry: 'carried',
    span: { file: chain.file, start, end: to },
    what: whatAt(to),
    why,
  });
  if (whole !== end) ledger.push(entry(whole));
  ledger.push({ ...entry(end), takenOver: true });
}

/** Leaves the first links of a chain by hand. */
export function unclear({ leaving, chain }: Place, count: number, why: string): void {
  const end = chain.links[Math.max(count - 1, 0)]?.end ?? chain.start;
  leave(leaving, { file: chain.file, start: chain.start, end }, why);
}

/** The path of a field as an expression of the place that asks for it. */
export function pathText({ base, chain, leaving }: Place): string {
  const path = base.path === '' ? "''" : base.path;
  return chain.inTemplate ? path : path.replace(/'/g, styleOf(leaving.component.script.text).quote);
}
