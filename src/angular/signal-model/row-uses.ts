import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code } from '../../form/code.js';
import type { ChangeRowsUse } from '../../form/uses.js';
import type { Chain } from '../chains.js';
import { classSurrounding, codeOf } from '../class-reading.js';
import { eachRowName } from '../row-names.js';
import { numberCode } from '../rows.js';
import type { Reading } from '../uses.js';
import { isBinding } from './found-form.js';
import { notUnderstood, type Gathering } from './gathering.js';
import type { TreeList, TreePlace } from './rows.js';

/**
 * What a chain that spells a list of the form does with it: repeats it, counts it, or gives it new rows.
 * @returns false where it is asked like any other field
 */
export function listUse(
  here: Reading,
  list: TreeList,
  { count, state }: TreePlace,
  gathering: Gathering,
  path: NodePath | undefined,
): boolean {
  const { chain, where } = here;
  const { file, start, links } = chain;
  const next = links[count];
  const base = { where, list: list.path };
  const alone = { file, start, end: links[count - 1]?.end ?? start };
  if (!state) {
    const repeats = list.loops.some((loop) => loop.chain.file === file && loop.chain.start === start);
    const counts = next?.key === 'length' && !next.call;
    if (repeats || counts)
      gathering.uses.push({ kind: 'rows', what: repeats ? 'items' : 'length', ...base, span: alone });
    else if (next) notUnderstood(here, count, 'the fields of its rows are looked through', gathering);
    return repeats || next !== undefined;
  }
  const change = links[count + 1];
  if (next?.key !== 'value' || next.call || !change?.call || !/^(set|update)$/.test(change.key)) return false;
  const made = changeOf(here, count + 1, path);
  if (made) gathering.uses.push({ kind: 'change-rows', ...base, change: made, span: { ...alone, end: change.end } });
  else notUnderstood(here, count + 2, 'the rows are made of those before', gathering);
  return true;
}

type Change = ChangeRowsUse['change'];

/** How `set` or `update` of a list's value changes its rows. */
function changeOf({ chain, text }: Reading, at: number, path: NodePath | undefined): Change | undefined {
  const link = chain.links[at];
  const [given] = link?.call?.arguments ?? [];
  if (!link || !given) return undefined;
  const { file } = chain;
  if (link.key === 'set')
    return /^\[\s*\]$/.test(text.slice(given.start, given.end))
      ? { kind: 'clear' }
      : { kind: 'replace', values: codeOf(file, given) };
  const call = path?.findParent((one) => one.isCallExpression() && one.node.arguments[0]?.start === given.start);
  const fn = call?.isCallExpression() ? call.node.arguments[0] : undefined;
  const [parameter] = t.isArrowFunctionExpression(fn) ? fn.params : [];
  if (!t.isArrowFunctionExpression(fn) || !t.isIdentifier(parameter) || fn.params.length > 1) return undefined;
  return changeMade(fn.body, parameter.name, file);
}

/** What a function of the rows before makes of them: one more, one less. */
function changeMade(body: t.Node, rows: string, file: string): Change | undefined {
  const place = (node: t.Node): Code => codeOf(file, { start: node.start ?? 0, end: node.end ?? 0 });
  if (t.isArrayExpression(body)) {
    const [first, ...more] = body.elements;
    const last = more.at(-1);
    const values = more.flatMap((one) => (t.isExpression(one) && !asks(one, rows) ? [one] : []));
    if (t.isSpreadElement(first) && t.isIdentifier(first.argument, { name: rows }) && values.length === more.length)
      return { kind: 'add', values: values.map(place), at: undefined };
    if (t.isSpreadElement(last) && t.isIdentifier(last.argument, { name: rows })) {
      const front = body.elements.slice(0, -1).flatMap((one) => (t.isExpression(one) && !asks(one, rows) ? [one] : []));
      const at: Code = { ...place(last), end: last.start ?? 0, holes: [] };
      return front.length === more.length
        ? { kind: 'add', values: front.map(place), at: numberCode('0', at) }
        : undefined;
    }
    const [from, to] = [sliced(first, rows), sliced(last, rows)];
    const [end] = to?.length === 1 ? to : [];
    const inserted = values.length === more.length - 1 && from?.length === 2 && isZero(from[0]) && end;
    return inserted ? { kind: 'add', values: values.map(place), at: place(end) } : undefined;
  }
  const call = t.isCallExpression(body) && t.isMemberExpression(body.callee) ? body : undefined;
  if (!call || !t.isMemberExpression(call.callee) || !t.isIdentifier(call.callee.object, { name: rows }))
    return undefined;
  const name = t.isIdentifier(call.callee.property) ? call.callee.property.name : '';
  const [first, second] = call.arguments;
  if (name === 'slice' && first && isZero(first) && t.isUnaryExpression(second, { operator: '-' }))
    return t.isNumericLiteral(second.argument, { value: 1 }) ? { kind: 'remove', at: 'last' } : undefined;
  const keeps = name === 'filter' && t.isArrowFunctionExpression(first) ? first : undefined;
  const [one, index] = keeps?.params ?? [];
  const test = keeps?.body;
  if (!t.isIdentifier(one) || !t.isBinaryExpression(test) || !/^!==?$/.test(test.operator)) return undefined;
  for (const [mine, other] of [
    [test.left, test.right],
    [test.right, test.left],
  ] as const) {
    if (!t.isIdentifier(mine) || asks(other, one.name) || asks(other, rows)) continue;
    if (t.isIdentifier(index, { name: mine.name })) return { kind: 'remove', at: place(other) };
    if (mine.name === one.name) return { kind: 'remove-row', row: place(other) };
  }
  return undefined;
}

/** What a spread part of the rows is taken from and to: `...rows.slice(0, index)`. */
function sliced(node: t.Node | null | undefined, rows: string): t.Node[] | undefined {
  const call = t.isSpreadElement(node) ? node.argument : undefined;
  if (!t.isCallExpression(call) || !t.isMemberExpression(call.callee)) return undefined;
  const { object, property } = call.callee;
  return t.isIdentifier(object, { name: rows }) && t.isIdentifier(property, { name: 'slice' })
    ? call.arguments
    : undefined;
}

function isZero(node: t.Node | undefined): boolean {
  return t.isNumericLiteral(node, { value: 0 });
}

function asks(node: t.Node, name: string): boolean {
  let found = false;
  t.traverseFast(node, (inner) => {
    found ||= t.isIdentifier(inner, { name });
  });
  return found;
}

/**
 * Every place that speaks of a row of the form by a name: a loop's variable, or a parameter that is given one.
 * @param use takes a chain that begins with the name of a row
 */
export function rowNameUses(
  { site: { component }, lists, submits }: Gathering,
  use: (here: Reading, list: TreeList, path?: NodePath) => void,
): void {
  const found = (chain: Chain, list: TreeList, path?: NodePath): void => {
    const where = path ? classSurrounding(path, submits) : chain.inEvent ? 'event' : 'render';
    use({ chain, where, text: path ? component.script.text : component.template.place.text }, list, path);
  };
  eachRowName(component, lists, { isBinding, use: found, lost: found });
}
