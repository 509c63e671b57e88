import type { NodePath } from '@babel/traverse';
import { spanOfNode, type Code, type Span } from '../../form/code.js';
import type { Field, RowList, ValueKind } from '../../form/model.js';
import type { RowPlace, Use } from '../../form/uses.js';
import type { TypeInFile } from '../../source/type-members.js';
import { templateChain, type Chain } from '../chains.js';
import { codeOf, type InitialPart } from '../class-reading.js';
import { kindOfElement, type AngularSite } from '../form-site.js';
import { eachRowName } from '../row-names.js';
import { changesRows, numberCode, rowAt, rowShape, type Loop } from '../rows.js';
import type { TemplateElement, TemplateName } from '../template-model.js';
import { fieldUse, type Reading } from '../uses.js';
import type { BoundElement } from './controls.js';
import type { Storage } from './storage.js';

/** A list of rows that lives in the class. */
export interface FoundList {
  /** Name of the list's field. */
  field: string;
  storage: Storage;
  loops: Loop[];
  /** Keys of a row, with what is known of them. */
  keys: Map<string, { type: string | undefined; optional: boolean; bound: BoundElement | undefined }>;
  /** Type of a row, where the source writes one. */
  rowType: TypeInFile | undefined;
  /** Types written for a row where it is a parameter. */
  typed: { start: number; end: number }[];
}

/** Where a control of a row is bound: its list, its keys, and which row. */
export interface RowBinding {
  root: string;
  listKeys: string[];
  loop: Loop;
  keys: string[];
  row: RowPlace;
}

/** What a control among rows is bound to: `line.kilos` or `model.lines[i].kilos`. */
export function rowBinding(bound: BoundElement, site: AngularSite, loops: readonly Loop[]): RowBinding | undefined {
  const { names, place } = site.component.template;
  const first = names.find((name) => name.attribute === bound.model && !isIndex(name, loops));
  if (!first) return undefined;
  const chain = templateChain(first, place);
  const { valuePlace } = bound.model;
  const last = chain.links.at(-1)?.end ?? 0;
  if (!valuePlace || place.text.slice(last - place.base, valuePlace.end - place.base).trim() !== '') return undefined;
  const plain = (links: Chain['links']): boolean => links.every(({ call, computed }) => !call && !computed);
  const loop = loops.find(({ variable }) => variable === first.variable);
  if (loop) {
    const keys = chain.links.slice(1);
    if (!keys.length || !plain(keys)) return undefined;
    const [root, ...listKeys] = loop.chain.links.map(({ key }) => key);
    const row: RowPlace = { kind: 'named', name: first.name };
    return root === undefined || !plain(loop.chain.links)
      ? undefined
      : { root, listKeys, loop, keys: keys.map(({ key }) => key), row };
  }
  const at = chain.links.findIndex(({ computed }) => computed !== undefined);
  const over = loops.find(
    ({ chain: list, variable }) =>
      list.links.length === at &&
      list.links.every(({ key }, index) => chain.links[index]?.key === key) &&
      bound.views.includes(variable.view),
  );
  const keys = chain.links.slice(at + 1);
  if (at < 1 || !over || !keys.length || !plain(keys) || !plain(over.chain.links)) return undefined;
  const [root = '', ...listKeys] = over.chain.links.map(({ key }) => key);
  const index = chain.links[at];
  if (!index) return undefined;
  const row = rowAt(chain, index, '');
  return { root, listKeys, loop: over, keys: keys.map(({ key }) => key), row };
}

function isIndex(name: TemplateName, loops: readonly Loop[]): boolean {
  return name.variable !== undefined && !loops.some(({ variable }) => variable === name.variable);
}

/** What a list starts with and what its rows are, as far as the class tells. */
export function foundList(
  field: string,
  storage: Storage,
  loops: Loop[],
  part: InitialPart | undefined,
  site: AngularSite,
): FoundList {
  const { keys: told, rowType } = rowShape(part, site.load);
  const keys: FoundList['keys'] = new Map([...told].map(([key, one]) => [key, { ...one, bound: undefined }]));
  return { field, storage, loops, keys, rowType, typed: [] };
}

/** What the reader of rows hands back to the form's reader. */
export interface RowsReading {
  site: AngularSite;
  lists: readonly FoundList[];
  reading(chain: Chain, path?: NodePath): Reading;
  isBinding(name: TemplateName): boolean;
  add(use: Use): void;
  unclear(chain: Chain, why: string): void;
}

/** Every place that speaks of a row by a name: a loop's variable, or a parameter that is given one. */
export function rowNameUses(rows: RowsReading): void {
  eachRowName(rows.site.component, rows.lists, {
    isBinding: (name) => rows.isBinding(name),
    use: (chain, list, path) => rowUse(chain, chain.links[0]?.key ?? '', list, rows, path),
    lost: (chain) => rows.unclear(chain, 'the row is handed on to code that cannot be followed'),
  });
}

function rowUse(chain: Chain, name: string, list: FoundList, rows: RowsReading, path?: NodePath): void {
  placedUse(chain, 1, { kind: 'named', name }, list, rows, path);
}

/** What is asked of a row that the first `count` links of a chain stand for. */
function placedUse(
  chain: Chain,
  count: number,
  row: RowPlace,
  list: FoundList,
  rows: RowsReading,
  path?: NodePath,
): void {
  const here = rows.reading(chain, path);
  const next = chain.links[count];
  if (!next) {
    if (chain.ending.kind !== 'plain' && chain.ending.kind !== 'spread' && chain.ending.kind !== 'shorthand')
      return rows.unclear(chain, 'the row is replaced as a whole');
    rows.add({
      ...fieldUse(here, `${list.field}[]`, count),
      row: row.kind === 'at' && mayBeNone(path) ? { ...row, mayMiss: true } : row,
    });
    return;
  }
  if (next.computed || next.call) return rows.unclear(chain, 'which value of the row is meant is not clear');
  if (!list.keys.has(next.key)) list.keys.set(next.key, { type: undefined, optional: false, bound: undefined });
  rows.add({ ...fieldUse(here, `${list.field}[].${next.key}`, count + 1), row });
}

/** Whether the author expects that there is no such row: `const last = lines[lines.length - 1]; last?.kilos`. */
function mayBeNone(path: NodePath | undefined): boolean {
  const declarator = path?.findParent((one) => one.isVariableDeclarator() || one.isStatement());
  const id = declarator?.isVariableDeclarator() ? (declarator.get('id') as NodePath) : undefined;
  const references = id?.isIdentifier() ? id.scope.getBinding(id.node.name)?.referencePaths : undefined;
  return (
    references?.some((one) => one.parentPath?.isOptionalMemberExpression() === true && one.key === 'object') === true
  );
}

const lookingMethods =
  /^(map|filter|some|every|find|findIndex|reduce|join|slice|includes|at|concat|flatMap|forEach|entries|keys|values)$/;

/** What a chain that spells a list does with it; the list is its first `count` links. */
export function listUse(chain: Chain, count: number, list: FoundList, rows: RowsReading, path?: NodePath): void {
  const here = rows.reading(chain, path);
  const { links, ending, file } = chain;
  const next = links[count];
  const base = { where: here.where, list: list.field };
  const whole = (end: number): { file: string; start: number; end: number } => ({ file, start: chain.start, end });
  const alone = whole(links[count - 1]?.end ?? chain.start);
  if (list.loops.some(({ chain: loop }) => loop.file === file && loop.start === chain.start)) {
    rows.add({ kind: 'rows', what: 'items', ...base, span: alone });
    return;
  }
  if (!next) return wholeListUse(chain, count, list, rows, path);
  if (next.computed || /^\d+$/.test(next.key))
    return placedUse(chain, count + 1, rowAt(chain, next, here.text), list, rows, path);
  if (next.key === 'length' && !next.call) {
    if (ending.kind !== 'assigned') rows.add({ kind: 'rows', what: 'length', ...base, span: alone });
    else if (here.text.slice(ending.value.start, ending.value.end) === '0')
      rows.add({ kind: 'change-rows', ...base, change: { kind: 'clear' }, span: { file, ...ending.whole } });
    else rows.unclear(chain, 'the list is cut to a length');
    return;
  }
  const given = next.call?.arguments.map((place) => codeOf(file, place)) ?? [];
  const [first, second, ...more] = given;
  const last = count + 1 === links.length;
  const unused = last && (ending.kind === 'statement' || (chain.inEvent && ending.kind === 'plain'));
  const change = (made: Extract<Use, { kind: 'change-rows' }>['change']): void =>
    rows.add({ kind: 'change-rows', ...base, change: made, span: whole(next.end) });
  if (next.call && next.key === 'indexOf' && first)
    return rows.add({ kind: 'rows', what: 'items', ...base, span: alone });
  if (next.call && unused && !here.text.slice(next.call.arguments[0]?.start, next.end).startsWith('...')) {
    if (next.key === 'push' && first) return change({ kind: 'add', values: given, at: undefined });
    if (next.key === 'unshift' && first && !second)
      return change({ kind: 'add', values: given, at: numberCode('0', first) });
    if (next.key === 'pop') return change({ kind: 'remove', at: 'last' });
    const removes = second && here.text.slice(second.start, second.end);
    if (next.key === 'splice' && first && removes === '1' && !more.length) return change({ kind: 'remove', at: first });
    if (next.key === 'splice' && first && removes === '0' && more.length === 1)
      return change({ kind: 'add', values: more, at: first });
  }
  const text = next.call ? here.text.slice(links[count - 1]?.end, next.end) : '';
  if (next.call && lookingMethods.test(next.key) && !changesRows(text)) {
    rows.add({ kind: 'read', field: list.field, key: undefined, where: here.where, span: alone });
    return;
  }
  rows.unclear(chain, 'what happens to the list here is not clear');
}

function wholeListUse(chain: Chain, count: number, list: FoundList, rows: RowsReading, path?: NodePath): void {
  const here = rows.reading(chain, path);
  const { ending, file } = chain;
  if (ending.kind !== 'assigned') {
    if (ending.kind === 'stepped') return rows.unclear(chain, 'the list is counted up');
    const loop = path?.parentPath;
    if (loop?.isForOfStatement()) {
      const { start, end } = spanOfNode(file, loop.node);
      if (changesRows(here.text.slice(start, end))) return rows.unclear(chain, 'the loop changes the rows');
    }
    rows.add(fieldUse(here, list.field, count));
    return;
  }
  const own = here.text.slice(chain.start, chain.links[count - 1]?.end);
  const value = here.text.slice(ending.value.start, ending.value.end);
  const span = { file, ...ending.whole };
  const base = { kind: 'change-rows' as const, where: here.where, list: list.field, span };
  if (ending.operator !== '=') return rows.unclear(chain, 'the list is changed by an operator');
  if (/^\[\s*\]$/.test(value)) return rows.add({ ...base, change: { kind: 'clear' } });
  const code = (start: number, end: number): Code => codeOf(file, { start, end });
  const escaped = own.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const added = new RegExp(`^\\[\\s*\\.\\.\\.${escaped}\\s*,\\s*([\\s\\S]+?),?\\s*\\]$`).exec(value);
  const more = added?.[1];
  if (added && more !== undefined && !more.includes('...')) {
    const start = ending.value.start + value.indexOf(more, added[0].indexOf(own) + own.length);
    return rows.add({
      ...base,
      change: { kind: 'add', values: [code(start, start + more.length)], at: undefined },
    });
  }
  const kept = new RegExp(
    `^${escaped}\\.filter\\(\\s*\\(?\\s*(\\w+)\\s*(?:,\\s*(\\w+)\\s*)?\\)?\\s*=>\\s*(\\w+)\\s*!==?\\s*(\\w+)\\s*\\)$`,
  ).exec(value);
  if (kept) {
    const [, item, index, left = '', right = ''] = kept;
    const other = left === item || left === index ? right : left;
    const compared = left === other ? right : left;
    const start = ending.value.start + value.lastIndexOf(other);
    const at = code(start, start + other.length);
    if (compared === index) return rows.add({ ...base, change: { kind: 'remove', at } });
    if (compared === item) return rows.add({ ...base, change: { kind: 'remove-row', row: at } });
  }
  const other = rowToldBy(list, escaped, value, rows.site);
  if (other !== undefined) {
    const start = ending.value.start + other.at;
    return rows.add({ ...base, change: { kind: 'remove-row', row: code(start, start + other.name.length) } });
  }
  rows.add({ ...base, change: { kind: 'replace', values: code(ending.value.start, ending.value.end) } });
}

/**
 * The row that a list is kept without, where the key that tells it is the one by which a loop tells rows apart:
 * `legs.filter((other) => other.id !== leg.id)`.
 */
function rowToldBy(
  { loops }: FoundList,
  own: string,
  value: string,
  { component }: AngularSite,
): { name: string; at: number } | undefined {
  const kept = new RegExp(
    `^${own}\\.filter\\(\\s*\\(?\\s*(\\w+)\\s*\\)?\\s*=>\\s*(\\w+)\\.(\\w+)\\s*!==?\\s*(\\w+)\\.(\\w+)\\s*\\)$`,
  ).exec(value);
  const [, item, left, key, right, otherKey] = kept ?? [];
  if (!item || !left || !right || key === undefined || key !== otherKey || (left === item) === (right === item))
    return undefined;
  const { place } = component.template;
  const isTold = loops.some(({ variable, list }) =>
    new RegExp(`^[^{]*;\\s*track\\s+${variable.name}\\.${key}\\s*[;)]`).test(place.text.slice(list.end - place.base)),
  );
  const name = left === item ? right : left;
  return isTold ? { name, at: value.indexOf(`${name}.${key}`, value.indexOf('=>')) } : undefined;
}

/** The fields of a list's rows. */
export function rowFields(
  list: FoundList,
  declared: Field['declared'],
  kindOf: (bound: BoundElement, type: string | undefined) => ValueKind,
): Field[] {
  return [...list.keys].map(([key, { type, bound, optional }]): Field => {
    const kind = bound ? kindOf(bound, type) : 'other';
    return {
      name: `${list.field}[].${key}`,
      kind,
      role: 'field',
      type: type ?? typeOfKind(bound?.element),
      typeWritten: list.rowType !== undefined,
      initial: { code: undefined, text: optional ? 'undefined' : `${itemName(list)}.${key}`, when: 'constant' },
      commentsBefore: [],
      commentBehind: undefined,
      names: { value: key },
      declared,
    };
  });
}

function typeOfKind(element: TemplateElement | undefined): string | undefined {
  const kind = element && kindOfElement(element);
  if (kind === 'number') return 'number | null';
  return kind === 'boolean' ? 'boolean' : kind === undefined ? undefined : 'string';
}

/** What a row is called. */
export function itemName(list: FoundList): string {
  return list.loops[0]?.variable.name ?? 'row';
}

/** A list as the model says it. */
export function modelList(list: FoundList, site: AngularSite): RowList {
  const { script, template } = site.component;
  const { node, script: from } = list.rowType ?? {};
  const written = node && from ? from.text.slice(node.start ?? 0, node.end ?? 0) : undefined;
  return {
    field: list.field,
    item: itemName(list),
    type: written,
    typed: list.typed.map((place) => ({ file: script.file, ...place })),
    loops: list.loops.map(({ list: place, index, indexAt }) => ({
      list: { file: template.place.file, ...place },
      index,
      indexAt,
    })),
    attributes: rowGroups(list, site),
  };
}

/** Attributes that only keep the controls of one row apart from those of the others: `[ngModelGroup]="'leg' + leg.id"`. */
function rowGroups({ loops }: FoundList, { elements, component }: AngularSite): Span[] {
  const { file } = component.template.place;
  const isRow = (element: TemplateElement): boolean => {
    for (let view: TemplateElement['view'] | undefined = element.view; view; view = view.parent)
      if (loops.some(({ variable }) => variable.view === view)) return true;
    return false;
  };
  return elements.filter(isRow).flatMap(({ attributes, references }) => {
    const isAsked = references.some(({ exportAs }) => exportAs === 'ngModelGroup');
    const own = attributes.find(({ name, kind }) => name === 'ngModelGroup' && kind === 'property');
    return own && !isAsked ? [{ file, start: own.start, end: own.end }] : [];
  });
}
