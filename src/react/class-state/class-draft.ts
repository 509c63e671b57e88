import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Edit } from '../../source/edits.js';
import type { Script } from '../../source/script.js';
import type { TextStyle } from '../../source/style.js';
import type { Later } from './later.js';

/** A class component that becomes a function, while it is taken apart. */
export interface ClassDraft {
  script: Script;
  path: NodePath<t.Class>;
  style: TextStyle;
  name: string;
  /** Names of the function's own state and parameter. */
  names: Record<'state' | 'setState' | 'props' | 'latest' | 'latestProps' | 'afterShown' | 'showAgain', string>;
  ledger: LedgerEntry[];
  edits: Edit[];
  /** Members of the instance that are neither methods nor state: each becomes a ref. */
  refs: Map<string, { text: string; isRefObject: boolean }>;
  hooks: Set<string>;
  /** What of the class runs later than the view it was made in. */
  later: Later;
  /** How often a function works out what it sets in a statement of its own. */
  workedOut: Map<t.Node | undefined, number>;
  /** Refs that the function needs for that. */
  needs: Set<'latest' | 'latestProps' | 'afterShown'>;
  /** Reads of the state that stand for values which were just set. */
  known: Map<t.Node, string>;
  /** Methods whose name a variable of some method bears as well, and what they are called in the function. */
  renamed: ReadonlyMap<string, string>;
}

export type ClassMember = t.ClassMethod | t.ClassProperty;

/** A member's name, where it is a plain one. */
export function memberName(member: t.Node): string | undefined {
  if (!t.isClassMethod(member) && !t.isClassProperty(member)) return undefined;
  return t.isIdentifier(member.key) && !member.computed ? member.key.name : undefined;
}
