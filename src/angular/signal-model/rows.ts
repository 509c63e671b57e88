import type { Field, RowList } from '../../form/model.js';
import type { RowPlace } from '../../form/uses.js';
import type { Chain } from '../chains.js';
import { partAt, type InitialPart } from '../class-reading.js';
import type { AngularSite } from '../form-site.js';
import { loopsOf, rowAt, rowShape, type Loop, type RowShape } from '../rows.js';
import type { TemplateVariable } from '../template-model.js';
import type { FoundForm } from './found-form.js';

/** A list of the model whose rows the template repeats out of the form over it. */
export interface TreeList extends RowShape {
  /** Its field: `trip.party`. */
  path: string;
  part: InitialPart | undefined;
  loops: Loop[];
  /** Types written where a row of the form is a parameter. */
  typed: { start: number; end: number }[];
}

/** The lists whose rows a template repeats: `@for (leg of tourForm.legs; track leg)`. */
export function treeLists(found: FoundForm, { component, load }: AngularSite): TreeList[] {
  const lists = new Map<string, TreeList>();
  for (const loop of loopsOf(component)) {
    const [first, ...rest] = loop.chain.links;
    if (
      first?.key !== found.form.name ||
      !rest.length ||
      loop.chain.links.some(({ call, computed }) => call ?? computed)
    )
      continue;
    const path = rest.map(({ key }) => key).join('.');
    const known = lists.get(path);
    if (known) known.loops.push(loop);
    else {
      const part = partAt(component, found.start, path.split('.'), load);
      const shape = rowShape(part, load);
      if (shape.keys.size) lists.set(path, { ...shape, path, part, loops: [loop], typed: [] });
    }
  }
  return [...lists.values()];
}

/** The list that a variable of the template stands for a row of. */
export function listOfVariable(
  variable: TemplateVariable | undefined,
  lists: readonly TreeList[],
): TreeList | undefined {
  return variable && lists.find(({ loops }) => loops.some((loop) => loop.variable === variable));
}

/** What the first links of a chain stand for: a field, a group, a list, or the whole form. */
export interface TreePlace {
  /** Keys from the form to it, as in `legs[].town`. */
  path: string;
  /** How many links spell it. */
  count: number;
  /** Whether its state is asked there: `form.town()`. */
  state: boolean;
  /** The row it stands in. */
  row: RowPlace | undefined;
}

/**
 * What a chain of the form's member, or of a name that stands for one of its rows, speaks of.
 * @param from the list that the chain's name is a row of
 * @param text the chain's file
 */
export function treePlace(
  chain: Chain,
  lists: readonly TreeList[],
  text: string,
  from: TreeList | undefined,
): TreePlace {
  let path = from ? `${from.path}[]` : '';
  let row: RowPlace | undefined = from && { kind: 'named', name: chain.links[0]?.key ?? '' };
  for (const [index, link] of chain.links.entries()) {
    const isPlace = link.computed !== undefined || /^\d+$/.test(link.key);
    if (index > 0 && isPlace) {
      if (row || !lists.some((list) => list.path === path)) return { path, count: index, state: false, row };
      row = rowAt(chain, link, text);
      path = `${path}[]`;
    } else if (index > 0) {
      // the length of a list is no field of it
      if (lists.some((list) => list.path === path)) return { path, count: index, state: false, row };
      path = path === '' ? link.key : `${path}.${link.key}`;
    }
    if (link.call) return { path, count: index + 1, state: true, row };
  }
  return { path, count: chain.links.length, state: false, row };
}

/** The fields of a list's rows. */
export function rowFields(
  { path, keys, rowType, loops }: TreeList,
  declared: Field['declared'],
  kindOf: (field: string, type: string | undefined) => Field['kind'],
): Field[] {
  const item = loops[0]?.variable.name ?? 'row';
  return [...keys].map(([key, { type, optional }]): Field => {
    const name = `${path}[].${key}`;
    return {
      name,
      kind: kindOf(name, type),
      role: 'field',
      type: optional && type !== undefined ? `${type} | undefined` : type,
      typeWritten: rowType !== undefined,
      initial: { code: undefined, text: optional ? 'undefined' : `${item}.${key}`, when: 'constant' },
      commentsBefore: [],
      commentBehind: undefined,
      names: { value: key },
      declared,
    };
  });
}

/** A list as the model says it. */
export function modelList({ path, loops, rowType, typed }: TreeList, { component }: AngularSite): RowList {
  const { script, template } = component;
  const { node, script: from } = rowType ?? {};
  return {
    field: path,
    item: loops[0]?.variable.name ?? 'row',
    type: node && from ? from.text.slice(node.start ?? 0, node.end ?? 0) : undefined,
    typed: typed.map((place) => ({ file: script.file, ...place })),
    loops: loops.map(({ list, index, indexAt }) => ({ list: { file: template.place.file, ...list }, index, indexAt })),
    attributes: [],
  };
}
