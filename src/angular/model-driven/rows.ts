import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Span } from '../../form/code.js';
import type { RowPlace, Use } from '../../form/uses.js';
import { classChain, type Chain, type Link } from '../chains.js';
import { codeOf, initialNode } from '../class-reading.js';
import { eachRowName } from '../row-names.js';
import { isIdentity, rowAt } from '../rows.js';
import type { TemplateName } from '../template-model.js';
import { controlUse, fieldUse } from '../uses.js';
import { type FoundArray, type ArraysReading, listLinks } from './array-links.js';

/**
 * The references of the rows in a function that looks through them: `controls.reduce((sum, line) => …, 0)`.
 * @returns undefined where what happens to a row cannot be followed
 */
function lookedThrough(path: NodePath, { key, end }: Link): [name: string, reference: NodePath][] | undefined {
  const at = /^(?:map|filter|some|every|find|findIndex|forEach|flatMap)$/.test(key)
    ? 0
    : key === 'reduce'
      ? 1
      : undefined;
  const call = path.findParent((one) => one.isCallExpression() && one.node.end === end);
  const fn = call?.isCallExpression() ? call.get('arguments')[0] : undefined;
  if (at === undefined || !fn?.isArrowFunctionExpression()) return undefined;
  const { params } = fn.node;
  const row = params[at];
  // the groups themselves would come out, or all of them go in
  const counted =
    call?.parentPath?.isMemberExpression() && t.isIdentifier(call.parentPath.node.property, { name: 'length' });
  const gives = (/^(?:filter|find)$/.test(key) && !counted) || params.length > at + 2;
  if (gives || (row !== undefined && !t.isIdentifier(row))) return undefined;
  if (!row) return [];
  return (fn.scope.getOwnBinding(row.name)?.referencePaths ?? []).map((reference) => [row.name, reference]);
}

const statusOfArray =
  /^(touched|untouched|dirty|pristine|valid|invalid|pending|errors|hasError|getError|markAsTouched|markAsDirty|markAllAsTouched)$/;

/** A use of an array or of one of its rows; undefined where the chain speaks of neither. */
export function arrayUses(chain: Chain, rows: ArraysReading, path?: NodePath): boolean {
  const found = listLinks(chain, rows);
  const array = rows.arrays.find(({ field }) => field === found?.field);
  if (!found || !array) return false;
  const here = rows.reading(chain, path);
  const { links, file, ending } = chain;
  const spanTo = (link: Link | undefined): Span => ({ file, start: chain.start, end: link?.end ?? chain.start });
  const unclear = (why: string): boolean => {
    rows.unclear(spanTo(links.at(-1)), here.text.slice(chain.start, links.at(-1)?.end), why);
    return true;
  };
  const base = { where: here.where, list: array.field };
  const list = links[found.count - 1];
  const next = links[found.count];
  const after = links[found.count + 1];
  const add = (use: Use): boolean => {
    rows.add(use);
    return true;
  };
  if (!next) return unclear('the array is handed on');
  const given = next.call?.arguments.map((place) => codeOf(file, place)) ?? [];
  const [first, second] = given;
  const unused =
    found.count + 1 === links.length && (ending.kind === 'statement' || (chain.inEvent && ending.kind === 'plain'));
  const change = (made: Extract<Use, { kind: 'change-rows' }>['change']): boolean =>
    unused ? add({ kind: 'change-rows', ...base, change: made, span: spanTo(next) }) : unclear('its result is used');
  switch (next.key) {
    case 'length':
      return add({ kind: 'rows', what: 'length', ...base, span: spanTo(list) });
    case 'controls': {
      if (!after || after.key === 'indexOf') return add({ kind: 'rows', what: 'items', ...base, span: spanTo(next) });
      if (after.key === 'length') return add({ kind: 'rows', what: 'length', ...base, span: spanTo(next) });
      if (!after.computed && !/^\d+$/.test(after.key)) {
        const looked = after.call && path ? lookedThrough(path, after) : undefined;
        if (!looked) return unclear('its groups are looked through here');
        for (const [name, reference] of looked) {
          // a row that is only told from others says nothing of its values
          if (isIdentity(reference, false)) continue;
          groupUse(classChain(file, reference, name), 1, { kind: 'named', name }, array, rows, reference);
        }
        return add({ kind: 'rows', what: 'items', ...base, span: spanTo(next) });
      }
      const row = rowAt(chain, after, here.text);
      return groupUse(chain, found.count + 2, row, array, rows, path);
    }
    case 'at':
      return first
        ? groupUse(
            chain,
            found.count + 1,
            { kind: 'at', index: first, mayMiss: here.text.slice(next.end).startsWith('?.') },
            array,
            rows,
            path,
          )
        : unclear('which row is meant is not clear');
    case 'push':
      return first && isMade(first, here.text, array, rows)
        ? change({ kind: 'add', values: [first], at: undefined })
        : unclear('what builds the new row is not clear');
    case 'insert':
      return first && second && isMade(second, here.text, array, rows)
        ? change({ kind: 'add', values: [second], at: first })
        : unclear('what builds the new row is not clear');
    case 'removeAt':
      return first ? change({ kind: 'remove', at: first }) : unclear('which row goes is not clear');
    case 'clear':
      return change({ kind: 'clear' });
    case 'value':
    case 'getRawValue':
      return add(fieldUse(here, array.field, found.count + 1));
    default:
      return statusOfArray.test(next.key)
        ? add(controlUse(here, found.count, array.field))
        : unclear('this is asked of the array itself, which a plain list does not tell');
  }
}

/** `form.setControl('lines', new FormArray(…))`: every row is exchanged. */
export function exchangeUse(chain: Chain, rows: ArraysReading, path?: NodePath): boolean {
  const [first, set, ...more] = chain.links;
  const array = rows.arrays.find(({ field }) => field === set?.call?.texts[0]);
  const value = set?.call?.arguments[1];
  if (first?.key !== rows.member || set?.key !== 'setControl' || more.length || !array || !value) return false;
  const here = rows.reading(chain, path);
  const text = here.text.slice(value.start, value.end);
  const inner =
    /^(?:new FormArray|(?:this\.)?#?\w+(?:\.nonNullable)?\.array)\s*(?:<[^(]*>)?\(\s*([\s\S]*?),?\s*\)$/.exec(
      text,
    )?.[1];
  if (inner === undefined || chain.ending.kind !== 'statement') return false;
  const start = value.start + text.indexOf(inner, text.indexOf('('));
  const made =
    array.built.some(({ span }) => span.start >= start && span.end <= start + inner.length) ||
    makersOf(array).some((name) => new RegExp(`\\b${name}\\b`).test(inner));
  if (!made) return false;
  rows.add({
    kind: 'change-rows',
    list: array.field,
    where: here.where,
    change: { kind: 'replace', values: codeOf(chain.file, { start, end: start + inner.length }) },
    span: { file: chain.file, start: chain.start, end: set.end },
  });
  return true;
}

/** Names of the functions and methods that build a row. */
function makersOf(array: FoundArray): string[] {
  return array.built.flatMap(({ path }) => {
    const around = path.findParent((one) => one.isFunction() || one.isClassMethod());
    const key = around?.isClassMethod()
      ? around.node.key
      : around?.isFunctionDeclaration()
        ? around.node.id
        : undefined;
    const declarator = around?.parentPath?.isVariableDeclarator() ? around.parentPath.node.id : undefined;
    const property = around?.parentPath?.isClassProperty() ? around.parentPath.node.key : undefined;
    return [key, declarator, property].flatMap((one) => (t.isIdentifier(one) ? [one.name] : []));
  });
}

/** Whether code gives a row that the class builds itself: a group, or a call of what returns one. */
function isMade(code: Code, text: string, array: FoundArray, { site }: ArraysReading): boolean {
  if (array.built.some(({ span }) => span.start === code.start && span.file === code.file)) return true;
  const called = /^(?:this\s*\.\s*)?#?(\w+)\s*\(/.exec(text.slice(code.start, code.end))?.[1] ?? '';
  const member = initialNode(site.component.members.get(called));
  const name = t.isIdentifier(member) ? member.name : called;
  return makersOf(array).includes(name);
}

/** What is asked of a row's group that the first `count` links stand for. */
function groupUse(
  chain: Chain,
  count: number,
  row: RowPlace,
  array: FoundArray,
  rows: ArraysReading,
  path?: NodePath,
): boolean {
  const here = rows.reading(chain, path);
  const { links } = chain;
  const next = links[count];
  const key =
    next?.key === 'get' && next.call
      ? next.call.texts[0]
      : next?.key === 'controls' && !next.call && !links[count + 1]?.computed
        ? links[count + 1]?.key
        : undefined;
  const put = (use: Use): boolean => {
    rows.add({ ...use, row });
    return true;
  };
  if (next && key !== undefined && array.controls.has(key))
    return put(controlUse(here, count + (next.call ? 1 : 2), `${array.field}[].${key}`));
  if (next?.key === 'value' || next?.key === 'getRawValue') {
    const inner = links[count + 1];
    if (inner && !inner.computed && array.controls.has(inner.key))
      return put(fieldUse(here, `${array.field}[].${inner.key}`, count + 2));
    return put(fieldUse(here, `${array.field}[]`, count + 1));
  }
  const end = links.at(-1)?.end ?? chain.start;
  rows.unclear(
    { file: chain.file, start: chain.start, end },
    here.text.slice(chain.start, end),
    'this is asked of the row’s group itself, which a plain row does not tell',
  );
  return true;
}

/** Every place that speaks of a row by a name: a loop's variable, or a parameter that is given one. */
export function rowGroupUses(rows: ArraysReading): void {
  eachRowName(rows.site.component, rows.arrays, {
    isBinding: isPlacing,
    use: (chain, array, path) => {
      groupUse(chain, 1, { kind: 'named', name: chain.links[0]?.key ?? '' }, array, rows, path);
    },
    lost: ({ file, start, links }) => {
      const [first] = links;
      const span = { file, start, end: first?.end ?? start };
      rows.unclear(span, first?.key ?? '', 'the row is handed on to code that cannot be followed');
    },
  });
}

function isPlacing({ attribute }: TemplateName): boolean {
  return attribute !== undefined && /^(formGroup|formControl|formGroupName)$/.test(attribute.name);
}

/** The groups built for rows, as uses: another approach needs their values alone. */
export function madeRows(found: FoundArray): Use[] {
  return found.built.map(({ group, span }) => ({
    kind: 'make-row' as const,
    list: found.field,
    where: 'callback' as const,
    span,
    values: group.children.flatMap((child) =>
      child.kind === 'control'
        ? [
            {
              key: child.name,
              code: child.initial
                ? codeOf(child.script.file, { start: child.initial.start ?? 0, end: child.initial.end ?? 0 })
                : undefined,
            },
          ]
        : [],
    ),
  }));
}
