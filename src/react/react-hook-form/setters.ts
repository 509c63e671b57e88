import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { pairOf, typedAs, valuesWith } from '../package-leaving/apart.js';
import { otherwise } from '../package-leaving/conditions.js';
import { depthOf, isSeenAt, says, takeStatement, textIn } from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import type { RowField } from '../package-leaving/rows.js';
import { callIn, runOf } from '../package-leaving/turns.js';
import { nameOf, ownFieldIn, type TakenApart } from './form.js';

/** Calls of `setValue` one after the other: one change of all that they set. */
export function saySet(apart: TakenApart, path: NodePath): boolean {
  const { leaving, names, needs } = apart;
  const call = callOf(path);
  const first = call && setPair(apart, call);
  if (!call || !first || !isSeenAt(leaving, call, names.values)) return false;
  const statement = call.parentPath;
  const run = statement.isExpressionStatement() ? runOf(statement, (one) => setIn(apart, one)) : [];
  if (run.length && run[0]?.statement.node !== statement.node) return true;
  const sets = run.length ? run.map(({ set }) => set) : [first];
  const checked = sets.flatMap(({ checks, name }) => (checks ? [name] : []));
  // a second one of the same list would build on the rows as they were before the first
  const lists = sets.flatMap(({ row, within }) => row?.list ?? within ?? []);
  if (new Set(lists).size < lists.length) return false;
  const pairs = (of: string): string => sets.map(({ pair }) => pair(of)).join(', ');
  leaving.turns.push({ path: call, does: checked.length ? 'whole' : 'sets' });
  if (!checked.length) {
    says(leaving, call, () => `${names.setValues}((old) => ({ ...old, ${pairs('old')} }))`);
  } else {
    const isBody = statement.isArrowFunctionExpression() && call.key === 'body';
    if (!run.length && !isBody) return false;
    needs.add('errors').add('recheck');
    const { newline, semicolon, indent } = leaving.context.style;
    const next = leaving.context.freeName('next', 'nextValues');
    const lines = (): string[] => [
      `const ${typedAs(next, apart.type)} = ${valuesWith(apart, pairs(names.values))}${semicolon}`,
      `${names.setValues}(${next})${semicolon}`,
      `${names.recheck}(${next}, ${checked.map((name) => name()).join(', ')})${semicolon}`,
    ];
    const depth = depthOf(leaving, statement);
    if (isBody) {
      says(leaving, call, () => ['{', ...lines().map((line) => indent + line), '}'].join(newline + depth));
    } else says(leaving, statement, () => lines().join(newline + depth));
  }
  for (const { statement: other } of run.slice(1)) {
    takeStatement(leaving, other);
  }
  return true;
}

/** What a statement sets that does nothing else. */
function setIn(apart: TakenApart, statement: NodePath): SetPair | undefined {
  const call = callIn(statement);
  if (!call) return undefined;
  const { callee } = call.node;
  const isSet = apart.form.taken.places.some(({ member, path: at }) => member === 'setValue' && at.node === callee);
  return isSet ? setPair(apart, call) : undefined;
}

interface SetPair {
  row: RowField | undefined;
  /** The value that holds it, where it is inside of one. */
  within: string | undefined;
  /** The name of what it sets, as an expression. */
  name(): string;
  /** What it sets, as a pair of an object of values. */
  pair(of: string): string;
  checks: boolean;
}

function setPair(apart: TakenApart, call: NodePath<t.CallExpression>): SetPair | undefined {
  const [name, value, options, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const own = ownFieldIn(apart, name);
  if (!own || !value || more.length) return undefined;
  const { field, row } = own;
  const flags = options?.isObjectExpression() ? options.node.properties : [];
  if (options && !options.isObjectExpression()) return undefined;
  const isOn = (flag: string): boolean | undefined => {
    const found = flags.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: flag }));
    if (!found) return false;
    return t.isObjectProperty(found) && t.isBooleanLiteral(found.value) ? found.value.value : undefined;
  };
  const checks = isOn('shouldValidate');
  if (
    checks === undefined ||
    flags.length !== ['shouldValidate', 'shouldDirty', 'shouldTouch'].filter((one) => isOn(one)).length
  )
    return undefined;
  if (row && name)
    otherwise(apart.leaving, [name.node.start, name.node.end], name.node, 'the row is set where it stands');
  const pair = (of: string): string => {
    const text = textIn(apart.leaving, value);
    if (row) {
      const index = textIn(apart.leaving, row.index);
      const next = row.key === text ? text : `${row.key}: ${text}`;
      return `${row.list}: ${of}.${row.list}.map((row, at) => (at === ${index} ? { ...row, ${next} } : row))`;
    }
    return pairOf(field, text, of);
  };
  const within = field.includes('.') ? field.split('.')[0] : undefined;
  return { row, within, name: () => nameOf(apart, own), pair, checks };
}
