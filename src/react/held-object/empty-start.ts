import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import type { Slot } from './held-starts.js';

/** What an object begins as that is there only later: `useState<Crate | null>(null)`. */
export interface EmptyStart {
  /** The values that its type names; none where no type is written. */
  slots: Slot[];
  /** The object's type without null. */
  type: TypeInFile | undefined;
  untold: NodePath;
  empty: true;
}

/**
 * Tells an object that begins as null.
 * @param start the expression it begins as
 * @param type what is written of its type, null included
 * @param call the call of the hook, which may be given no start at all
 */
export function emptyStart(
  start: NodePath | undefined,
  type: TypeInFile | undefined,
  { load }: FormSite,
  call?: NodePath,
): EmptyStart | undefined {
  const none = start === undefined ? call : undefined;
  const untold = start?.isNullLiteral() || start?.isIdentifier({ name: 'undefined' }) ? start : none;
  if (!untold) return undefined;
  const parts = t.isTSUnionType(type?.node) ? type.node.types : type ? [type.node] : [];
  const [own, ...others] = parts.filter((part) => !t.isTSNullKeyword(part) && !t.isTSUndefinedKeyword(part));
  if (others.length) return undefined;
  const whole = own && type ? { node: own, script: type.script } : undefined;
  const members = [...typeMembers(whole, load)];
  if (whole && !members.length) return undefined;
  return {
    slots: members.map(([name, { optional }]) => ({
      name,
      alias: undefined,
      initial: undefined,
      untold: true,
      ...(optional ? { absent: true } : {}),
    })),
    type: whole,
    untold,
    empty: true,
  };
}
