import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
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

/** Computed members that follow the values, directly or through one another: they are worked out anew each time. */
export function followersOf(
  roots: Iterable<string>,
  { component, context, model }: ClassDraft,
): { found: Follower[]; byHand: LedgerEntry[] } {
  const { script, members } = component;
  const names = new Set(roots);
  const found = new Map<string, t.CallExpression>();
  for (let grown = true; grown;) {
    grown = false;
    for (const { name, path } of members.values()) {
      const value = path.isClassProperty() ? path.node.value : undefined;
      if (!t.isCallExpression(value) || !t.isIdentifier(value.callee, { name: 'computed' }) || found.has(name))
        continue;
      const text = script.text.slice(value.start ?? 0, value.end ?? 0);
      if (![...names].some((one) => new RegExp(`\\bthis\\.${one}\\(\\)`).test(text))) continue;
      found.set(name, value);
      names.add(name);
      grown = true;
    }
  }
  const byHand: LedgerEntry[] = [];
  for (const name of names)
    for (const path of members.get(name)?.references ?? []) {
      const around = reactiveAround(path);
      if (around === undefined) continue;
      const span = { file: script.file, start: path.node.start ?? 0, end: path.node.end ?? 0 };
      byHand.push(placeByHand(span, context, `${around} follows ${name}, which would no longer be a signal`));
    }
  const places = [...found].flatMap(([name, call]) => {
    const [fn, ...more] = call.arguments;
    if (!t.isArrowFunctionExpression(fn) || more.length) {
      byHand.push(placeByHand({ ...model.span, end: model.span.start }, context, `${name} is computed in another way`));
      return [];
    }
    const place = {
      file: script.file,
      start: call.start ?? 0,
      end: call.end ?? 0,
      open: fn.start ?? 0,
      close: fn.end ?? 0,
    };
    return [{ name, place }];
  });
  return { found: places, byHand };
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
