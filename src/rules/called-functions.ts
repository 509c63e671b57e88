import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, behindName, memberNamed } from '../source/behind-names.js';
import { keyAt, meaningOf, memberHanded, namesOfCall, type Asked, type RuleLens } from './meanings.js';

/** A function, with what the names of its surroundings mean. */
export interface FunctionAsked extends Asked {
  path: NodePath<t.Function>;
  /** The function itself, or the call that made it. */
  origin: t.Node;
}

/** The function that another one gives back, where it gives nothing else. */
function givenBack(fn: NodePath<t.Function>): NodePath<t.Function> | undefined {
  const body = fn.get('body') as NodePath;
  const last = body.isBlockStatement() ? body.get('body').at(-1) : undefined;
  const value = last?.isReturnStatement() ? (last.get('argument') as NodePath) : body;
  if (!value.node) return undefined;
  const made = bare(value);
  return made.isFunction() ? made : undefined;
}

/**
 * The function that an expression stands for: by its name, as a member of a table, or made by a call of another one.
 * @returns undefined where it cannot be followed, or where it is asynchronous
 */
export function functionAsked(asked: Asked, lens: RuleLens, depth = 0): FunctionAsked | undefined {
  const path = bare(asked.path);
  if (depth > 6) return undefined;
  const again = (next: Asked): FunctionAsked | undefined => functionAsked(next, lens, depth + 1);
  const meaning = meaningOf({ ...asked, path });
  if (meaning?.kind === 'code') return again(meaning.at);
  if (path.isFunction()) return path.node.async ? undefined : { ...asked, path, origin: path.node };
  if (path.isMemberExpression() || path.isOptionalMemberExpression()) {
    const object = path.get('object') as NodePath;
    const { property, computed } = path.node;
    const key = computed ? keyAt({ ...asked, path: path.get('property') as NodePath })?.name : undefined;
    const name = computed ? key : t.isIdentifier(property) ? property.name : undefined;
    const member = name === undefined ? undefined : memberHanded({ ...asked, path: object }, name);
    if (member) return again(member);
    const table = behindName({ path: object, script: asked.script }, lens.load);
    const own = name === undefined ? undefined : memberNamed(table.path, name);
    return own ? again({ ...asked, path: own, script: table.script }) : undefined;
  }
  if (path.isCallExpression()) {
    const maker = again({ ...asked, path: path.get('callee') as NodePath });
    const made = maker && givenBack(maker.path);
    if (!maker || !made || made.node.async) return undefined;
    const names = namesOfCall(maker.path, path, asked, lens, maker.names);
    return { path: made, script: maker.script, names, origin: path.node };
  }
  const behind = behindName({ path, script: asked.script }, lens.load);
  return behind.path.node === path.node ? undefined : again({ ...asked, ...behind });
}
