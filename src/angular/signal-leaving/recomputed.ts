import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import { followerEdits, type Follower } from '../followers.js';
import { leaveNode, textAt, type Leaving } from './leaving.js';

const follows = /^(effect|afterRenderEffect|linkedSignal|resource|rxResource|httpResource|toObservable|toSignal)$/;

/** Computed members that followed the form are worked out when they are asked for; what else followed it is left by hand. */
export function recomputed(leaving: Leaving): void {
  const { component, found, ledger } = leaving;
  const { script, members } = component;
  const names = new Set([found.form.name, found.model.name]);
  const followers: Follower[] = [];
  for (let grown = true; grown;) {
    grown = false;
    for (const { name, node } of members.values()) {
      if (names.has(name)) continue;
      const text = textAt(script, node);
      if (![...names].some((one) => new RegExp(`\\bthis\\.${one}\\b`).test(text))) continue;
      names.add(name);
      grown = true;
      const value = t.isClassProperty(node) || t.isClassPrivateProperty(node) ? node.value : undefined;
      if (!t.isCallExpression(value) || !t.isIdentifier(value.callee, { name: 'computed' })) continue;
      const [fn, ...more] = value.arguments;
      if (!t.isArrowFunctionExpression(fn) || more.length) {
        leaveNode(leaving, script, node, 'it is computed in another way');
        continue;
      }
      const { file } = script;
      const { start, end } = spanOfNode(file, value);
      followers.push({ name, place: { file, start, end, open: fn.start ?? 0, close: fn.end ?? 0 } });
    }
  }
  for (const name of names)
    for (const path of members.get(name)?.references ?? []) {
      const around = followerAround(path);
      if (around !== undefined)
        leaveNode(leaving, script, path.node, `${around} follows ${name}, which would no longer be a signal`);
    }
  leaving.edits.push(...followerEdits(followers, ledger));
}

function followerAround(path: NodePath): string | undefined {
  const around = path.findParent(
    (parent) =>
      parent.isCallExpression() && t.isIdentifier(parent.node.callee) && follows.test(parent.node.callee.name),
  );
  return around?.isCallExpression() && t.isIdentifier(around.node.callee) ? around.node.callee.name : undefined;
}
