import * as t from '@babel/types';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Span } from '../../form/code.js';
import type { WriteContext } from '../../form/writing.js';
import { editedStretch, type Edit } from '../../source/edits.js';
import type { FormSite } from '../approach.js';
import type { HookCall } from './hook-call.js';

/** What the parts of the move share. */
export interface Move {
  site: FormSite;
  context: WriteContext;
  hook: HookCall;
  /** Edits of the hook's text that say its body in the component's words. */
  edits: Edit[];
  /** Names of the hook's body by the names they get in the component. */
  renamed: Map<string, string>;
  ledger: LedgerEntry[];
}

/** Leaves a place by hand, with the reason. */
export function leave(move: Move, span: Span, what: string, why: string): void {
  move.ledger.push({ entry: 'by-hand', span, what, why });
}

/** Text of the hook with the edits made so far. */
export function moved(move: Move, node: t.Node): string {
  return editedStretch(move.hook.script.text, node.start ?? 0, node.end ?? 0, move.edits);
}

/** The name by which the component calls the hook. */
export function calleeName({ call }: HookCall): string {
  return t.isIdentifier(call.node.callee) ? call.node.callee.name : '';
}
