import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { pairOf, valuesWith } from '../package-leaving/apart.js';
import { isSeenAt, says, takeStatement, textIn } from '../package-leaving/leaving.js';
import { attributeOf, fieldNamed, nextValue, tiedBy, type Tied } from '../package-leaving/ties.js';
import { isField } from '../package-leaving/nested.js';
import { callIn, runOf } from '../package-leaving/turns.js';
import { drawnBy, type TakenApart } from './form.js';

/** What makes a change of all values. */
export function changeOf(apart: TakenApart, next: string): string {
  apart.needs.add('change');
  return `${apart.names.change}(${next})`;
}

/** A control with what it draws. */
export function tiedTo(element: NodePath<t.JSXElement>, field: string, at: NodePath): Tied {
  return { element, tag: drawnBy(element) ?? '', field, at };
}

/** The attributes that tie a control to its field; leaving it counts always. */
export function formikTies(apart: TakenApart, tied: Tied, own: ReadonlySet<string>): string[] | undefined {
  apart.needs.add('touched');
  return tiedBy(apart, tied, own, true);
}

/** What a statement sets: the field, and what it says in an object of values. */
interface Settled {
  field: string;
  pair(): string;
}

/** Says a call that sets one field; those that follow it in the same block are one change with it. */
export function saySetter(apart: TakenApart, call: NodePath<t.CallExpression>): boolean {
  const { leaving, names, needs } = apart;
  const first = settledAt(apart, call);
  if (!first || !isSeenAt(leaving, call, names.values)) return false;
  needs.add('change');
  const statement = call.parentPath;
  const run = statement.isExpressionStatement() ? runOf(statement, (path) => settledAt(apart, callIn(path))) : [];
  if (run.length && run[0]?.statement.node !== statement.node) return true;
  // a second one inside of the same value would build on that as it was before the first
  const heads = run.flatMap(({ set }) => (set.field.includes('.') ? [set.field.split('.')[0]] : []));
  if (new Set(heads).size < heads.length) return false;
  leaving.turns.push({ path: call, does: 'whole' });
  const pairs = (): string => (run.length ? run.map(({ set }) => set.pair()).join(', ') : first.pair());
  says(leaving, call, () => changeOf(apart, valuesWith(apart, pairs())));
  for (const { statement: other } of run.slice(1)) {
    takeStatement(leaving, other);
  }
  return true;
}

function settledAt(apart: TakenApart, call: NodePath<t.CallExpression> | undefined): Settled | undefined {
  if (!call) return undefined;
  const { leaving, form } = apart;
  const callee = call.node.callee;
  const member = form.taken.places.find(({ path }) => path.node === callee)?.member ?? apart.helped.get(callee);
  const [name, value, ...more] = call.get('arguments') as (NodePath | undefined)[];
  if (member === 'handleChange' && name?.isIdentifier() && !value) return changedBy(apart, call, name.node.name);
  if (member !== 'setFieldValue' || !name?.isStringLiteral() || !value || more.length) return undefined;
  const field = name.node.value;
  if (!isField(apart, field)) return undefined;
  return { field, pair: () => pairOf(field, textIn(leaving, value), apart.names.values) };
}

/** `handleChange(event)` in the handler of a control: what the control gives its field. */
function changedBy(apart: TakenApart, call: NodePath<t.CallExpression>, event: string): Settled | undefined {
  const fn = call.findParent((parent) => parent.isFunction());
  const outer = fn && attributeOf(fn);
  const [parameter] = fn?.isFunction() ? fn.node.params : [];
  const field = outer?.name === 'onChange' ? fieldNamed(apart, outer.element) : undefined;
  if (!outer || field === undefined || !t.isIdentifier(parameter, { name: event })) return undefined;
  const text = nextValue(apart, tiedTo(outer.element, field, call), event);
  return text === undefined ? undefined : { field, pair: () => pairOf(field, text, apart.names.values) };
}
