import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { placeByHand, type WriteContext } from '../../form/writing.js';
import type { Script } from '../../source/script.js';
import type { StateVariable } from '../state-variables.js';
import type { IsHeld } from './fill-tests.js';

/** What the parts of the step share. */
export interface Filling {
  model: FormModel;
  context: WriteContext;
  script: Script;
  variable: StateVariable;
  /** Name of the object, and of what sets it. */
  held: string;
  setter: string;
  /** Name of the flag that tells whether it is filled, and of what sets that. */
  flag: string;
  raise: string;
  isHeld: IsHeld;
  /** What each field begins as. */
  starts: Map<string, string>;
  edits: RewritePlan['edits'];
  byHand: LedgerEntry[];
}

/** Puts a text in the place of a stretch of the form's file. */
export function put(
  { edits, script }: Filling,
  { start, end }: { start?: number | null | undefined; end?: number | null | undefined },
  text: string,
): void {
  edits.push({ file: script.file, start: start ?? 0, end: end ?? 0, text });
}

/** Leaves a place by hand. */
export function leave({ byHand, context, script }: Filling, path: NodePath, why: string): void {
  byHand.push(placeByHand(spanOfNode(script.file, path.node), context, why));
}

/** The name of what a call calls: `useEffect`, `React.useEffect`, `load().then`. */
export function calleeName(callee: t.Node): string {
  if (t.isIdentifier(callee)) return callee.name;
  return t.isMemberExpression(callee) && t.isIdentifier(callee.property) ? callee.property.name : '';
}
