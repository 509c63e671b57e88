import { quoted } from '../../source/style.js';
import { pascal } from '../form-names.js';
import { typedAs, type Apart, type Kind } from './apart.js';
import { addFunction, type Block } from './block.js';
import { nameIn, textIn } from './leaving.js';
import type { RowField } from './rows.js';

/** The name of the function that changes a row of a list, or takes one out of it. */
export function rowFunction({ leaving, rowFunctions }: Apart, does: 'change' | 'remove', list: string): string {
  const wished = `${does}${pascal(list)}`;
  const name = rowFunctions.get(wished) ?? nameIn(leaving, wished, `${wished}Row`);
  rowFunctions.set(wished, name);
  return name;
}

/** The call that changes a field of a row. */
export function changeOfRow(apart: Apart, { list, index, key }: RowField, next: string): string {
  const { leaving, needs } = apart;
  needs.add(`change ${list}`).add('change');
  const name = quoted(key, leaving.context.style);
  return `${rowFunction(apart, 'change', list)}(${textIn(leaving, index)}, ${name}, ${next})`;
}

/** Adds the function that changes a field of a list's rows, where something calls it. */
export function addRowChange(apart: Apart, list: string, block: Block): void {
  const { needs, leaving, names, rows } = apart;
  if (!needs.has(`change ${list}`)) return;
  const typed = (name: string, type: string): string => typedAs(name, leaving.script.typescript ? type : undefined);
  const value = typed('value', valueTypes(rows.get(list)));
  addFunction(
    block,
    `function ${rowFunction(apart, 'change', list)}(${typed('index', 'number')}, ${typed('name', 'string')}, ${value})`,
    [
      `const ${list} = ${names.values}.${list}.map((row, at) => (at === index ? { ...row, [name]: value } : row));`,
      `${apart.changes(`{ ...${names.values}, ${list} }`, `\`${list}.\${index}.\${name}\``)};`,
    ],
  );
}

/** The types of values that a row holds. */
export function valueTypes(kinds: ReadonlyMap<string, Kind> | undefined): string {
  const held = [...(kinds?.values() ?? [])];
  const types = (['text', 'number', 'flag', 'list'] as const).filter((kind) => held.includes(kind));
  const said = { text: 'string', number: 'number', flag: 'boolean', list: 'string[]' };
  return types.length ? types.map((kind) => said[kind]).join(' | ') : 'string';
}
