import { quoted } from '../../source/style.js';
import { pascal } from '../form-names.js';
import { typedAs, type Apart } from './apart.js';
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
  if (next.includes('valueAsNumber')) needs.add(`number in ${list}`);
  const name = quoted(key, leaving.context.style);
  return `${rowFunction(apart, 'change', list)}(${textIn(leaving, index)}, ${name}, ${next})`;
}

/** Adds the function that changes a field of a list's rows, where something calls it. */
export function addRowChange(apart: Apart, list: string, block: Block): void {
  const { needs, leaving, names } = apart;
  if (!needs.has(`change ${list}`)) return;
  const typed = (name: string, type: string): string => typedAs(name, leaving.script.typescript ? type : undefined);
  const value = typed('value', valueTypes(apart, list));
  addFunction(
    block,
    `function ${rowFunction(apart, 'change', list)}(${typed('index', 'number')}, ${typed('name', 'string')}, ${value})`,
    [
      `const ${list} = ${names.values}.${list}.map((row, at) => (at === index ? { ...row, [name]: value } : row));`,
      `${apart.changes(`{ ...${names.values}, ${list} }`, `\`${list}.\${index}.\${name}\``)};`,
    ],
  );
}

/** The types of values that a control of a row gives. */
export function valueTypes({ rows, needs }: Apart, list: string): string {
  const held = [...(rows.get(list)?.values() ?? []), ...(needs.has(`number in ${list}`) ? (['number'] as const) : [])];
  const types = (['text', 'number', 'flag', 'list'] as const).filter((kind) => held.includes(kind));
  const said = { text: 'string', number: 'number', flag: 'boolean', list: 'string[]' };
  return types.length ? types.map((kind) => said[kind]).join(' | ') : 'string';
}
