import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RowPlace, Use } from '../../form/uses.js';
import { spanOfNode, type Span } from '../../form/code.js';
import { conditionOf } from '../../rules/native.js';
import type { Chain } from '../chains.js';

import { plainText, type AngularSite } from '../form-site.js';
import { loopsOf, type Loop } from '../rows.js';
import type { TemplateElement } from '../template-model.js';
import type { Reading } from '../uses.js';
import { builtFrom, type BuiltArray, type BuiltControl, type BuiltGroup } from './structure.js';
import { walk } from '../../source/traverse.js';

/** An array of groups, with everything that builds one of its rows. */
export interface FoundArray {
  field: string;
  array: BuiltArray;
  loops: Loop[];
  /** Groups that are built for a row, with where that stands. */
  built: { group: BuiltGroup; span: Span; path: NodePath }[];
  /** Controls of a row, from the first group built. */
  controls: Map<string, BuiltControl>;
  typed: { start: number; end: number }[];
  attributes: Span[];
}

/** What the reader of rows needs of the form's reader. */
export interface ArraysReading {
  site: AngularSite;
  arrays: readonly FoundArray[];
  /** Name of the member that holds the group. */
  member: string;
  /** Members that give an array: name and the array's field. */
  aliases: ReadonlyMap<string, string>;
  reading(chain: Chain, path?: NodePath): Reading;
  add(use: Use): void;
  unclear(span: Span, what: string, why: string): void;
}

/** The arrays of groups below a group, by path. */
export function arraysIn(group: BuiltGroup, path = ''): { field: string; array: BuiltArray }[] {
  return group.children.flatMap((child) => {
    const field = path === '' ? child.name : `${path}.${child.name}`;
    if (child.kind === 'array') return [{ field, array: child }];
    return child.kind === 'group' ? arraysIn(child, field) : [];
  });
}

/** The list's own links at the start of a chain: `form.controls.lines`, `form.get('lines')`, `lines`. */
export function listLinks(
  chain: Chain,
  { member, aliases, arrays }: Pick<ArraysReading, 'member' | 'aliases' | 'arrays'>,
): { field: string; count: number } | undefined {
  const [first] = chain.links;
  const own = first && !first.call ? aliases.get(first.key) : undefined;
  if (own !== undefined) return { field: own, count: 1 };
  if (first?.key !== member || first.call) return undefined;
  const path: string[] = [];
  for (let at = 1; at < chain.links.length;) {
    const link = chain.links[at];
    if (link?.key === 'get' && link.call?.texts[0] !== undefined) {
      path.push(...link.call.texts[0].split('.'));
      at += 1;
    } else if (link?.key === 'controls' && !link.call) {
      const key = chain.links[at + 1];
      if (!key || key.call || key.computed) return undefined;
      path.push(key.key);
      at += 2;
    } else return undefined;
    if (arrays.some(({ field }) => field === path.join('.'))) return { field: path.join('.'), count: at };
  }
  return undefined;
}

/** What the template and the class tell of the form's arrays: loops over them, and the groups built for their rows. */
export function foundArrays(
  group: BuiltGroup,
  site: AngularSite,
  member: string,
  aliases: ReadonlyMap<string, string>,
): FoundArray[] {
  const known = arraysIn(group).map(({ field, array }): FoundArray => ({
    field,
    array,
    loops: [],
    built: [],
    controls: new Map(),
    typed: [],
    attributes: [],
  }));
  if (!known.length) return known;
  for (const loop of loopsOf(site.component)) {
    const found = listLinks(loop.chain, { member, aliases, arrays: known });
    const rest = found && loop.chain.links.slice(found.count);
    if (rest?.length === 1 && rest[0]?.key === 'controls')
      known.find(({ field }) => field === found?.field)?.loops.push(loop);
  }
  const inside = (path: NodePath, node: t.Node): boolean =>
    (path.node.start ?? 0) > (node.start ?? 0) && (path.node.end ?? 0) <= (node.end ?? 0);
  const visit = (path: NodePath<t.NewExpression> | NodePath<t.CallExpression>): void => {
    const holder = known.find(({ array }) => inside(path, array.node));
    if (!holder && (path.node === group.node || inside(path, group.node))) return;
    const made = builtFrom('', path.node, site);
    if (made?.kind !== 'group') return;
    const keys = made.children.map(({ name }) => name);
    const target =
      holder ??
      (known.length === 1
        ? known[0]
        : known.find(({ loops }) => boundKeys(loops, site).every((key) => keys.includes(key))));
    if (!target || !boundKeys(target.loops, site).every((key) => keys.includes(key))) return;
    target.built.push({ group: made, span: spanOfNode(site.component.script.file, path.node), path });
    path.skip();
  };
  walk(site.component.script.program, { NewExpression: visit, CallExpression: visit });
  for (const { built, controls } of known)
    for (const child of built[0]?.group.children ?? []) if (child.kind === 'control') controls.set(child.name, child);
  return known;
}

/** Names of the controls that a loop's rows bind. */
function boundKeys(loops: readonly Loop[], site: AngularSite): string[] {
  return site.elements
    .filter((element) => loops.some(({ variable }) => isWithin(element, variable.view)))
    .flatMap((element) => plainText(element, 'formControlName') ?? []);
}

function isWithin(element: TemplateElement, view: TemplateElement['view']): boolean {
  for (let at: TemplateElement['view'] | undefined = element.view; at; at = at.parent) if (at === view) return true;
  return false;
}

/** What is wrong with an array for the purposes of a rewrite; undefined where all of it is understood. */
export function arrayTrouble({ array, built, controls, loops }: FoundArray): string | undefined {
  if (array.otherOptions) return 'the array has options that are not followed';
  if (!loops.length) return 'no loop of the template repeats its rows';
  if (!built.length) return 'where its rows are built is not clear';
  const told = (group: BuiltGroup): string =>
    group.children
      .map((child) =>
        child.kind === 'control'
          ? `${child.name}:${child.nonNullable}:${child.rules.map(({ constraint }) => conditionOf(constraint)).join()}`
          : '?',
      )
      .join(';') + group.rules.length;
  const [first] = built;
  if (first?.group.rules.length) return 'its rows have rules of their own';
  if (controls.size !== first?.group.children.length) return 'its rows hold more than plain controls';
  return built.every(({ group }) => first && told(group) === told(first.group))
    ? undefined
    : 'its rows are built differently in different places';
}

/** The row that an element of the template stands in. */
export function rowOfElement(
  element: TemplateElement,
  arrays: readonly FoundArray[],
): { array: FoundArray; loop: Loop; row: RowPlace } | undefined {
  for (const array of arrays)
    for (const loop of array.loops)
      if (isWithin(element, loop.variable.view))
        return { array, loop, row: { kind: 'named', name: loop.variable.name } };
  return undefined;
}

/** Attributes that only place controls among rows. */
export function placingAttributes(array: FoundArray, site: AngularSite): Span[] {
  const { file } = site.component.template.place;
  return site.elements.flatMap((element) => {
    const around = element.attributes.filter(({ name, value, kind }) => {
      if (name === 'formArrayName') return value?.replace(/['"]/g, '').trim() === array.field.split('.').at(-1);
      if (kind !== 'property' || !/^(formGroupName|formGroup)$/.test(name)) return false;
      return array.loops.some(
        ({ variable, index }) => isWithin(element, variable.view) && (value === index || value === variable.name),
      );
    });
    return around.map(({ start, end }) => ({ file, start, end }));
  });
}
