import { childrenOf } from '../source/child-path.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, behindName } from '../source/behind-names.js';
import {
  meaningOf,
  memberHanded,
  standsForValues,
  type Asked,
  type Meaning,
  type Names,
  type RuleLens,
} from './meanings.js';

/** One round of a loop: what runs, and what its names stand for. */
export interface Round {
  body: NodePath;
  names: Names;
}

/** What a loop hands to one round: a name, a row of a table, or a name with what stands under it. */
type Item = { kind: 'key'; name: string } | { kind: 'row'; at: Asked } | { kind: 'entry'; name: string; at: Meaning };

function keysOf(object: NodePath): string[] | undefined {
  if (!object.isObjectExpression()) return undefined;
  const keys = object.node.properties.map((property) =>
    t.isSpreadElement(property) || property.computed
      ? undefined
      : t.isIdentifier(property.key)
        ? property.key.name
        : t.isStringLiteral(property.key)
          ? property.key.value
          : undefined,
  );
  return keys.every((key) => key !== undefined) ? keys : undefined;
}

/** The items of what `Object.keys` and its like are given. */
function itemsByKey(object: Asked, method: string, lens: RuleLens): Item[] | undefined {
  const isAll = standsForValues(object, lens);
  const behind = behindName(object, lens.load);
  const names = isAll ? lens.fields : keysOf(behind.path);
  if (!names) return undefined;
  return names.map((name): Item => {
    if (method === 'keys') return { kind: 'key', name };
    const member = isAll ? undefined : memberHanded({ ...object, ...behind }, name);
    return { kind: 'entry', name, at: member ? { kind: 'code', at: member } : { kind: 'field', name } };
  });
}

function itemsOf(list: Asked, lens: RuleLens): Item[] | undefined {
  const path = bare(list.path);
  const meaning = meaningOf({ ...list, path });
  if (meaning?.kind === 'list') return meaning.items.map((at): Item => ({ kind: 'row', at }));
  if (meaning?.kind === 'code') return itemsOf(meaning.at, lens);
  if (path.isCallExpression()) {
    const { callee } = path.node;
    const method =
      t.isMemberExpression(callee) &&
      t.isIdentifier(callee.object, { name: 'Object' }) &&
      t.isIdentifier(callee.property)
        ? callee.property.name
        : '';
    const [given] = path.get('arguments') as (NodePath | undefined)[];
    return given && /^(keys|entries)$/.test(method) ? itemsByKey({ ...list, path: given }, method, lens) : undefined;
  }
  const behind = behindName({ path, script: list.script }, lens.load);
  if (!behind.path.isArrayExpression()) return undefined;
  return (behind.path.get('elements') as NodePath[]).map((element): Item => {
    const { node } = bare(element);
    return t.isStringLiteral(node) && lens.kindOf(node.value) !== undefined
      ? { kind: 'key', name: node.value }
      : { kind: 'row', at: { ...list, path: element, script: behind.script } };
  });
}

/** What a row's member means: the name of a field, or code. */
function meaningOfMember(at: Asked, lens: RuleLens): Meaning {
  const { node } = bare(at.path);
  return t.isStringLiteral(node) && lens.kindOf(node.value) !== undefined
    ? { kind: 'key', name: node.value }
    : { kind: 'code', at };
}

/** What the variables of a round stand for. */
function namesOfRound(
  pattern: t.Node | null | undefined,
  scope: NodePath,
  item: Item,
  lens: RuleLens,
  known: Names,
): Names {
  const names = new Map<unknown, Meaning>(known);
  const set = (node: t.Node | null | undefined, meaning: Meaning): void => {
    if (t.isIdentifier(node)) names.set(scope.scope.getBinding(node.name), meaning);
  };
  if (item.kind === 'key') set(pattern, { kind: 'key', name: item.name });
  if (item.kind === 'entry' && t.isArrayPattern(pattern)) {
    set(pattern.elements[0], { kind: 'key', name: item.name });
    set(pattern.elements[1], item.at);
  }
  if (item.kind !== 'row') return names;
  set(pattern, { kind: 'code', at: item.at });
  if (t.isArrayPattern(pattern) && bare(item.at.path).isArrayExpression()) {
    const elements = childrenOf(bare(item.at.path), 'elements');
    pattern.elements.forEach((one, index) => {
      const element = elements[index];
      if (element?.node) set(one, meaningOfMember({ ...item.at, path: element }, lens));
    });
  }
  if (!t.isObjectPattern(pattern)) return names;
  for (const property of pattern.properties) {
    if (!t.isObjectProperty(property) || property.computed || !t.isIdentifier(property.key)) continue;
    const member = memberHanded(item.at, property.key.name);
    if (member) set(property.value, meaningOfMember(member, lens));
  }
  return names;
}

/**
 * The rounds of a loop over names of fields, or over a table that is written out.
 * @returns undefined where a statement is no such loop
 */
export function roundsOf(statement: NodePath, asked: (path: NodePath) => Asked, lens: RuleLens): Round[] | undefined {
  if (statement.isForOfStatement() || statement.isForInStatement()) {
    const { left } = statement.node;
    const pattern = t.isVariableDeclaration(left) ? left.declarations[0]?.id : undefined;
    const over = asked(statement.get('right') as NodePath);
    const items = statement.isForInStatement() ? itemsByKey(over, 'keys', lens) : itemsOf(over, lens);
    const body = statement.get('body') as NodePath;
    return items?.map((item) => ({ body, names: namesOfRound(pattern, body, item, lens, over.names) }));
  }
  const call = statement.isExpressionStatement() ? statement.get('expression') : undefined;
  const callee = call?.isCallExpression() ? (call.get('callee') as NodePath) : undefined;
  if (!call?.isCallExpression() || !callee?.isMemberExpression()) return undefined;
  if (!t.isIdentifier(callee.node.property, { name: 'forEach' })) return undefined;
  const [fn] = call.get('arguments') as (NodePath | undefined)[];
  const over = asked(callee.get('object'));
  const items = fn?.isFunction() ? itemsOf(over, lens) : undefined;
  if (!fn?.isFunction() || !items) return undefined;
  const body = fn.get('body') as NodePath;
  return items.map((item) => ({ body, names: namesOfRound(fn.node.params[0], body, item, lens, over.names) }));
}
