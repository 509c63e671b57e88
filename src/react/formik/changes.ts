import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import { keyText, valuesWith } from '../package-leaving/apart.js';
import { isSeenAt, stretch } from '../package-leaving/leaving.js';
import { tiedBy, type Tied } from '../package-leaving/ties.js';
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

/** Says a call that sets one field. */
export function setterText(apart: TakenApart, call: NodePath<t.CallExpression>): string | undefined {
  const { leaving, names, needs } = apart;
  const [name, value, quiet] = call.get('arguments') as (NodePath | undefined)[];
  if (!name || !value || !isSeenAt(leaving, call, names.values)) return undefined;
  const parts = pairOf(apart, name, value);
  if (parts === undefined) return undefined;
  if (quiet?.isBooleanLiteral({ value: false })) {
    needs.add('touched');
    return `${names.setValues}(${valuesWith(apart, parts)})`;
  }
  return quiet ? undefined : changeOf(apart, valuesWith(apart, parts));
}

function pairOf({ leaving, fields }: TakenApart, name: NodePath, value: NodePath): string | undefined {
  const text = stretch(leaving, value.node.start ?? 0, value.node.end ?? 0);
  if (name.isStringLiteral())
    return fields.includes(name.node.value) ? `${keyText(name.node.value)}: ${text}` : undefined;
  return undefined;
}
