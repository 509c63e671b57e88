import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode } from '../form/code.js';
import type { LedgerEntry } from '../form/ledger.js';
import { placeByHand } from '../form/writing.js';
import type { ClassDraft } from './spare-code.js';
import type { FileEdit } from './writing.js';

/** A computed member that follows values which are no signals any more. */
export interface Follower {
  name: string;
  /** The call of `computed`, and the function in it. */
  place: { file: string; start: number; end: number; open: number; close: number };
}

/**
 * Computed members that follow the values, directly or through other members: they are worked out anew each time.
 * @param roots members that hold the values
 * @param kept functions whose code may go on following, because a signal of all values takes their place
 * @returns these members, and what else follows the values, which is left by hand
 */
export function followersOf(
  roots: Iterable<string>,
  { component, context, model }: ClassDraft,
  kept: readonly string[] = [],
): { found: Follower[]; byHand: LedgerEntry[] } {
  const { script, members } = component;
  const names = new Set(roots);
  const found: Follower[] = [];
  const byHand: LedgerEntry[] = [];
  for (let grown = true; grown;) {
    grown = false;
    for (const { name, node } of members.values()) {
      const text = script.text.slice(node.start ?? 0, node.end ?? 0);
      const asks = [...names].some((one) => new RegExp(`\\bthis\\.${one}(?![\\w$])`).test(text));
      if (names.has(name) || !asks) continue;
      names.add(name);
      grown = true;
      const value = t.isClassProperty(node) || t.isClassPrivateProperty(node) ? node.value : undefined;
      if (!t.isCallExpression(value) || !t.isIdentifier(value.callee, { name: 'computed' })) continue;
      const [fn, ...more] = value.arguments;
      if (!t.isArrowFunctionExpression(fn) || more.length) {
        const span = { ...model.span, end: model.span.start };
        byHand.push(placeByHand(span, context, `${name} is computed in another way`));
        continue;
      }
      const { start, end } = spanOfNode(script.file, value);
      found.push({ name, place: { file: script.file, start, end, open: fn.start ?? 0, close: fn.end ?? 0 } });
    }
  }
  for (const name of names)
    for (const path of members.get(name)?.references ?? []) {
      const around = reactiveAround(path);
      if (around === undefined || kept.includes(around) || isChange(path)) continue;
      const why = `${around} follows ${name}, which would no longer be a signal`;
      byHand.push(placeByHand(spanOfNode(script.file, path.node), context, why));
    }
  return { found, byHand };
}

/** Whether a place only gives a signal a new value, which follows nothing of it. */
function isChange({ parentPath: member, key }: NodePath): boolean {
  return (
    member?.isMemberExpression() === true && key === 'object' && t.isIdentifier(member.node.property, { name: 'set' })
  );
}

/** What else than a computed member follows a signal at a place. */
function reactiveAround(path: NodePath): string | undefined {
  const around = path.findParent(
    (parent) =>
      parent.isCallExpression() &&
      t.isIdentifier(parent.node.callee) &&
      /^(effect|afterRenderEffect|linkedSignal|resource|rxResource|httpResource|toObservable|toSignal)$/.test(
        parent.node.callee.name,
      ),
  );
  return around?.isCallExpression() && t.isIdentifier(around.node.callee) ? around.node.callee.name : undefined;
}

/** The edits by which followers are worked out when they are asked for: the function stays, the call around it goes. */
export function followerEdits(found: readonly Follower[], ledger: LedgerEntry[]): FileEdit[] {
  return found.flatMap(({ name, place: { file, start, end, open, close } }) => {
    ledger.push({
      entry: 'carried',
      span: { file, start, end },
      what: `member ${name}`,
      why: 'it is worked out when it is asked for',
    });
    return [
      { file, start, end: open, text: '' },
      { file, start: close, end, text: '' },
    ];
  });
}
