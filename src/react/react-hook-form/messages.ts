import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { says } from '../package-leaving/leaving.js';
import { isTested } from '../package-leaving/ties.js';
import type { TakenApart } from './form.js';

/** The member that is asked of a path, with its name; the name is undefined where it is worked out. */
export function memberAround(path: NodePath): { key: string | undefined; member: NodePath } | undefined {
  const member = path.parentPath;
  const node = member?.node;
  if (!member || path.key !== 'object' || !(t.isMemberExpression(node) || t.isOptionalMemberExpression(node)))
    return undefined;
  if (node.computed) return { key: t.isStringLiteral(node.property) ? node.property.value : undefined, member };
  return t.isIdentifier(node.property) ? { key: node.property.name, member } : undefined;
}

/**
 * Says the message of an error where it is asked for it, or whether there is one, or for the rule that tells it.
 * @param field whose error it is; an empty name where it is worked out, none for that of the form
 * @returns false where it is asked for more
 */
export function sayMessage(apart: TakenApart, error: NodePath, text: string, field?: string): boolean {
  const asked = memberAround(error);
  if (asked?.key === 'message') {
    if (field !== undefined) apart.worded.add(field);
    says(apart.leaving, asked.member, text);
    return true;
  }
  if (asked?.key === 'type' && field !== undefined && field !== '' && isCompared(asked.member)) {
    apart.typed.add(field);
    says(apart.leaving, asked.member, text);
    return true;
  }
  if (asked || !isTested(error)) return false;
  says(apart.leaving, error, text);
  return true;
}

function isCompared({ node, parent }: NodePath): boolean {
  return t.isBinaryExpression(parent, { operator: '===' }) && parent.left === node && t.isStringLiteral(parent.right);
}
