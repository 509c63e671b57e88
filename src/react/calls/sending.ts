import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { calledImport } from '../hook-calls.js';
import { callTables, type CallTable } from './table.js';

/** The call of a package's hook, and what its members mean. */
interface TableCall {
  table: CallTable;
  call: NodePath<t.CallExpression>;
}

/** The table of the package's hook that a call asks. */
export function tableOf(call: NodePath<t.CallExpression>): CallTable | undefined {
  const from = calledImport(call);
  return callTables.find(({ hook, from: known }) => hook === from?.name && known?.name === from.module);
}

/** The members of a hook by which a form is sent. */
export function sendersOf(table: CallTable | undefined): string[] {
  const sends = table?.sends;
  if (!sends) return [];
  return [sends.member, ...(sends.by === 'option' && sends.byClick !== undefined ? [sends.byClick] : [])];
}

/** The hook of a package that gives the member by which a form is sent, where a name stands for that member. */
function senderBehind(path: NodePath): TableCall | undefined {
  if (!path.isIdentifier()) return undefined;
  const declared = path.scope.getBinding(path.node.name)?.path;
  if (!declared?.isVariableDeclarator()) return undefined;
  const pattern = declared.node.id;
  const call = declared.get('init') as NodePath;
  if (!t.isObjectPattern(pattern) || !call.isCallExpression()) return undefined;
  const table = tableOf(call);
  const isSender = pattern.properties.some(
    (one) =>
      t.isObjectProperty(one) &&
      t.isIdentifier(one.key) &&
      sendersOf(table).includes(one.key.name) &&
      t.isIdentifier(one.value, { name: path.node.name }),
  );
  return table && isSender ? { table, call } : undefined;
}

/**
 * What sends a form by way of a package’s hook: `send` of `handleSubmit(send)`, or what the hook’s own option is given
 * where `handleSubmit` alone stands there.
 */
export function sentThrough(path: NodePath): NodePath | undefined {
  if (path.isCallExpression()) {
    const found = senderBehind(path.get('callee') as NodePath);
    return found?.table.sends?.by === 'member' ? path.get('arguments')[0] : undefined;
  }
  const found = senderBehind(path);
  const sends = found?.table.sends;
  if (!found || sends?.by !== 'option') return undefined;
  const [options] = found.call.get('arguments');
  return options && memberNamed(options, sends.option);
}
