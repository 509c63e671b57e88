import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { placeByHand, type WriteContext } from '../../form/writing.js';
import type { LoadScript } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { declarationNamed, typeMembers, type TypeInFile } from '../../source/type-members.js';
import type { AngularComponent } from '../component.js';
import type { AngularSite } from '../form-site.js';
import type { FoundForm, Leaf } from '../signal-model/found-form.js';
import type { FileEdit } from '../writing.js';

/** A list whose rows become groups of controls: the row's keys with their types, and its type's name. */
export interface ListOfRows {
  path: string;
  keys: { key: string; type: string | undefined }[];
  type: string;
  /** The function that makes the controls of a row, and the method that gives the list new rows. */
  make: string;
  change: string;
}

/** A function that states rules, or a part of one. */
export type RuleFunction = t.ArrowFunctionExpression | t.FunctionExpression | t.FunctionDeclaration;

/** A function that states rules, with the call and the declaration it stands in. */
export interface RuleSource {
  fn: RuleFunction;
  script: Script;
  /** `schema(…)` around it. */
  wrap: t.CallExpression | undefined;
  declared: t.Node | undefined;
  name: string | undefined;
}

/** A function of rules that is said with values. */
export interface Stated {
  source: RuleSource;
  /** Whether it states rules of the whole form, or of a part that it is given. */
  role: 'whole' | 'part';
  /** Attributes of its rules, by paths of its own. */
  attributes: [path: string, text: string][];
  /** Its further parameters that are paths, and whether an error is kept under each. */
  others: { name: string; index: number; keeps: boolean }[];
}

/** What the parts of the step share while one form leaves its model signal. */
export interface Leaving {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  site: AngularSite;
  load: LoadScript;
  found: FoundForm;
  leaves: readonly Leaf[];
  lists: ListOfRows[];
  /** Text of the type of all values. */
  type: string;
  /** Where types of other files are declared that the class's file names now. */
  types: Map<string, Script>;
  /** Conditions under which a field does not count, by its path; the text of one for values that are named. */
  hidden: Map<string, (values: string) => string | undefined>;
  disabled: Map<string, (values: string) => string | undefined>;
  /** Functions that state rules, as far as they are said with values by now. */
  stated: Map<RuleFunction, Stated>;
  /** Functions of a field’s context that take the value instead by now. */
  contexts: Set<RuleFunction>;
  /** Methods that are given fields: as which argument, whether it is their state, and how often. */
  given: Map<string, { index: number; state: boolean; count: number }>;
  /** Attributes that the package wrote for rules that always count, by the field's path. */
  attributes: Map<string, string[]>;
  /** Members of the class that the result needs. */
  needs: Set<'errorsOf' | 'submit' | 'restart' | 'unusable'>;
  /** What the class's own helpers are called. */
  names: { errorsOf: string; sender: string; restart: string; send: string };
  /** Names of the form's own file of helpers, by the file that uses them. */
  supports: Map<Script, Set<string>>;
  edits: FileEdit[];
  byHand: LedgerEntry[];
  ledger: LedgerEntry[];
}

/** Text of a node. */
export function textAt(script: Script, node: { start?: number | null; end?: number | null }): string {
  return script.text.slice(node.start ?? 0, node.end ?? 0);
}

/** Leaves a place by hand. */
export function leave(leaving: Leaving, span: Span, why: string): undefined {
  leaving.byHand.push(placeByHand(span, leaving.context, why));
  return undefined;
}

/** Leaves a node by hand; a place of several lines is told by its first one. */
export function leaveNode(leaving: Leaving, script: Script, node: t.Node, why: string): undefined {
  const what = textAt(script, node).split('\n')[0] ?? '';
  leaving.byHand.push({ entry: 'by-hand', span: spanOfNode(script.file, node), what, why });
  return undefined;
}

/** Replaces a stretch of a script. */
export function put({ edits }: Leaving, script: Script, start: number, end: number, text: string): void {
  edits.push({ file: script.file, start, end, text });
}

/** Asks for a name of the file of helpers in a script. */
export function support({ supports }: Leaving, script: Script, name: string): string {
  const names = supports.get(script) ?? new Set<string>();
  supports.set(script, names.add(name));
  return name;
}

/** The names and types of an object type's members. */
export function keysOf(type: TypeInFile | undefined, load: LoadScript): ListOfRows['keys'] {
  return [...typeMembers(type, load)].map(([key, { text, optional }]) => ({
    key,
    type: optional ? undefined : text,
  }));
}

/** Notes a type that the class's file names, where another file declares it. */
export function typeFrom({ types, component, load }: Leaving, name: string, script: Script): void {
  if (!/^\w+$/.test(name) || declarationNamed(name, component.script, load)) return;
  const found = declarationNamed(name, script, load);
  if (found) types.set(name, found.script);
}

/** The static path of a field: indices of rows are left out, as in `party[].nick`. */
export function staticPath(path: string): string {
  return path.replace(/\.(?:\$\{[^}]*\}|\d+)/g, '[]');
}

/** Type of a field's value as source text, by its path without indices; undefined where nothing tells it. */
export function typeAt({ leaves, lists }: Leaving, own: string): string | undefined {
  const [list, key] = own.split('[].');
  if (key !== undefined) return lists.find((one) => one.path === list)?.keys.find((one) => one.key === key)?.type;
  return leaves.find((leaf) => leaf.path === own)?.type;
}
