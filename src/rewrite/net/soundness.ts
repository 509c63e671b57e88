import * as t from '@babel/types';
import type { NodePath } from '@babel/traverse';
import type { Span } from '../../form/code.js';
import { plainComment } from '../../source/comments.js';
import { parseScript, type Script } from '../../source/script.js';
import { scopesOf } from './bindings.js';
import type { Caught, PlannedStep } from './caught.js';
import { walk } from '../../source/traverse.js';

/** A comment with its place in the original. */
interface Comment {
  words: string;
  span: Span;
}

/**
 * Whether the result is sound by itself: its files parse; no name is unresolved, unused or used before its declaration
 * that was not so before; hooks keep their order and stay unconditional; every comment is still there.
 */
export function unsound(step: PlannedStep): Caught[] {
  const { files, sources } = step;
  const caught: Caught[] = [];
  const before: Comment[] = [];
  const after: string[] = [];
  const add = (file: string, name: string | undefined, why: string): void => {
    caught.push({ check: 'soundness', ...placeOf(step, file, name), why });
  };
  for (const change of files) {
    const { file } = change;
    const isScript = /\.[cm]?[jt]sx?$/.test(file);
    const old = change.before === null || !isScript ? undefined : sources.script(file);
    before.push(...(old ? commentsOf(old) : dataOrMarkupComments(file, change.before)));
    if (change.after === null) continue;
    if (!isScript) {
      after.push(...dataOrMarkupComments(file, change.after).map(({ words }) => words));
      continue;
    }
    const parsed = parseScript(file, change.after);
    if (!parsed.ok) {
      const { line, reason } = parsed.problem;
      const text = change.after.split(/\r?\n/)[line - 1]?.trim() ?? '';
      add(file, undefined, `what would be written does not parse: ${reason.replace(/\.$/, '')}: ${text}`);
      continue;
    }
    after.push(...commentsOf(parsed.script).map(({ words }) => words));
    const troubles: [string[], (name: string) => string][] = [
      [newOf(old, parsed.script, unresolvedOf), (name) => `the name ${name} would not be known`],
      [newOf(old, parsed.script, unusedOf), (name) => `the name ${name} would be left unused`],
      [newOf(old, parsed.script, earlyOf), (name) => `the name ${name} would be used before its declaration`],
      [newOf(old, parsed.script, conditionalHooksOf), (name) => `the hook ${name} would be called under a condition`],
    ];
    for (const [names, words] of troubles)
      for (const name of names) if (!wasIdleMember(name, old, step)) add(file, name, words(name));
    if (old && !sameOrder(hooksOf(old), hooksOf(parsed.script))) add(file, undefined, 'hooks would change their order');
  }
  // what does not parse has no comments to look for
  if (caught.length === 0) caught.push(...lostComments(before, after));
  return caught;
}

/** Whether a name was a member of a class that nothing asked for, and so is as unused as it was. */
function wasIdleMember(name: string, old: Script | undefined, { model }: PlannedStep): boolean {
  if (model.approach !== 'class-state' || !old) return false;
  const escaped = name.replaceAll('$', '\\$');
  const isMember = new RegExp(
    `^\\s*(?:(?:private|protected|public|readonly|async)\\s+)*${escaped}\\s*(?:[(=:<]|$)`,
    'm',
  );
  return isMember.test(old.text) && !new RegExp(`\\bthis\\.${escaped}(?![\\w$])`).test(old.text);
}

/** Where to point: the first place of the name in the original, or the form itself. */
function placeOf(
  { model, files, sources }: PlannedStep,
  file: string,
  name: string | undefined,
): Omit<Caught, 'check' | 'why'> {
  const known = files.some((change) => change.file === file && change.before !== null);
  const text = known ? sources.text(file) : '';
  const at = name === undefined ? -1 : text.search(new RegExp(`(?<![\\w$.])${name.replaceAll('$', '\\$')}(?![\\w$])`));
  if (name !== undefined && at >= 0) return { span: { file, start: at, end: at + name.length }, what: name };
  return { span: { ...model.span, end: model.span.start }, what: model.component };
}

/** Names that are in trouble now and were not before. */
function newOf(before: Script | undefined, after: Script, look: (script: Script) => ReadonlySet<string>): string[] {
  const known = before ? look(before) : new Set<string>();
  return [...look(after)].filter((name) => !known.has(name));
}

const common =
  /^(undefined|Object|Partial|Date|Math|Number|String|Boolean|Array|Set|Map|NaN|Infinity|Promise|Error|JSON|RegExp|Function|FormData|RadioNodeList|console|HTML\w*Element)$/;

/** Names that values refer to and that no scope of the file declares. Types are the compiler's business. */
export function unresolvedOf(script: Script): Set<string> {
  const names = new Set<string>();
  walk(script.program, {
    ReferencedIdentifier(path) {
      const { name } = path.node as t.Identifier | t.JSXIdentifier;
      if (path.isJSXIdentifier() && /^[a-z]/.test(name)) return;
      const inType =
        path.parent.type.startsWith('TS') &&
        !/^TS(As|NonNull|Satisfies|TypeAssertion|ExportAssignment|EnumMember)/.test(path.parent.type);
      if (common.test(name) || inType || path.scope.hasBinding(name, true)) return;
      if (!path.findParent((parent) => parent.isTSType())) names.add(name);
    },
  });
  return names;
}

/** Names declared in a file that nothing refers to; types and values alike. */
function unusedOf(script: Script): Set<string> {
  const typeNames = new Set<string>();
  const addType = (name: t.Node): void => {
    let root = name;
    while (t.isTSQualifiedName(root)) root = root.left;
    if (t.isIdentifier(root)) typeNames.add(root.name);
  };
  walk(script.program, {
    TSTypeReference: (path) => addType(path.node.typeName),
    TSTypeQuery: (path) => addType(path.node.exprName),
    TSExpressionWithTypeArguments: (path) => addType(path.node.expression),
    ExportSpecifier: (path) => addType(path.node.local),
    ExportDefaultDeclaration: (path) => addType(path.node.declaration),
  });
  const unused = new Set<string>();
  for (const scope of scopesOf(script)) {
    for (const [name, binding] of Object.entries(scope.bindings)) {
      const exported =
        scope.path.isProgram() && binding.path.findParent((parent) => parent.isExportDeclaration()) !== null;
      const parameter = binding.kind === 'param' || t.isFunctionExpression(binding.path.node);
      if (!binding.referenced && !exported && !parameter && !typeNames.has(name) && name !== 'React') unused.add(name);
    }
  }
  return unused;
}

/** Constants that the function that declares them uses before they are there. */
function earlyOf(script: Script): Set<string> {
  const early = new Set<string>();
  for (const scope of scopesOf(script)) {
    for (const [name, binding] of Object.entries(scope.bindings)) {
      if (!binding.path.isVariableDeclarator() && !binding.path.isClassDeclaration()) continue;
      if (binding.kind === 'var') continue;
      const home = binding.path.getFunctionParent()?.node ?? null;
      const { node: whole } = binding.path;
      // a class may speak of itself
      const declared = (t.isClass(whole) ? whole.start : whole.end) ?? 0;
      for (const reference of binding.referencePaths)
        if (runsAt(reference, home, new Set()) < declared) early.add(name);
    }
  }
  return early;
}

/** Functions that are called where they are given. */
const atOnce = /^(?:map|filter|some|every|find|findIndex|flatMap|forEach|reduce|useState|useMemo)$/;

/**
 * Where a place runs first while a function does: where it stands, or where the functions are called that it stands in.
 * @returns the end of that place; infinite where it runs later, or at times that are not told
 */
function runsAt(place: NodePath, home: t.Node | null, seen: Set<t.Node>): number {
  const fn = place.getFunctionParent();
  if ((fn?.node ?? null) === home) return place.node.end ?? 0;
  if (!fn || seen.has(fn.node)) return Infinity;
  seen.add(fn.node);
  const { parentPath: around } = fn;
  if (fn.listKey === 'arguments' && around?.isCallExpression()) {
    const { callee } = around.node;
    const name = t.isMemberExpression(callee) ? callee.property : callee;
    return t.isIdentifier(name) && atOnce.test(name.name)
      ? runsAt(around.get('callee') as NodePath, home, seen)
      : Infinity;
  }
  const id = fn.isFunctionDeclaration() ? fn.node.id : around?.isVariableDeclarator() ? around.node.id : undefined;
  const calls = t.isIdentifier(id) ? (around?.scope.getBinding(id.name)?.referencePaths ?? []) : [];
  return Math.min(...calls.map((one) => (one.key === 'callee' ? runsAt(one, home, seen) : Infinity)));
}

interface HookCall {
  name: string;
  path: NodePath<t.CallExpression>;
}

function hookCalls(script: Script): HookCall[] {
  const found: HookCall[] = [];
  walk(script.program, {
    CallExpression(path) {
      const { callee } = path.node;
      const called = t.isMemberExpression(callee) ? callee.property : callee;
      if (t.isIdentifier(called) && /^use[A-Z]/.test(called.name)) found.push({ name: called.name, path });
    },
  });
  return found;
}

/** Hooks that do not run at every call of their component: under a condition, in a loop, behind an early return. */
function conditionalHooksOf(script: Script): Set<string> {
  const names = new Set<string>();
  for (const { name, path } of hookCalls(script)) {
    const fn = path.getFunctionParent();
    if (!fn) continue;
    const statement = path.getStatementParent();
    const body = fn.node.body;
    const under = path.findParent(
      (parent) =>
        parent === fn ||
        parent.isIfStatement() ||
        parent.isConditionalExpression() ||
        parent.isLoop() ||
        parent.isSwitchStatement() ||
        parent.isTryStatement(),
    );
    const late =
      t.isBlockStatement(body) &&
      body.body.some((one) => t.isIfStatement(one) && (one.end ?? 0) <= (statement?.node.start ?? 0) && returns(one));
    if (under !== fn || late) names.add(name);
  }
  return names;
}

function returns(node: t.IfStatement): boolean {
  const ends = (one: t.Statement | null | undefined): boolean =>
    t.isReturnStatement(one) || (t.isBlockStatement(one) && one.body.some((inner) => t.isReturnStatement(inner)));
  return ends(node.consequent) || ends(node.alternate);
}

/** Hooks of a file that hold no values of a form, in order. */
function hooksOf(script: Script): string[] {
  const state = /^use(?:State|Reducer|Callback|Ref|Memo)$/;
  return hookCalls(script)
    .map(({ name }) => name)
    .filter((name) => !state.test(name));
}

/** Whether what both lists have stands in the same order in both. */
function sameOrder(before: readonly string[], after: readonly string[]): boolean {
  const one = before.filter((name) => after.includes(name));
  const other = after.filter((name) => before.includes(name));
  return one.length !== other.length || one.every((name, index) => name === other[index]);
}

function commentsOf(script: Script): Comment[] {
  return (script.ast.comments ?? []).map(({ value, start, end }) => ({
    words: plainComment(value),
    span: { file: script.file, start: start ?? 0, end: end ?? 0 },
  }));
}

function dataOrMarkupComments(file: string, text: string | null): Comment[] {
  return file.endsWith('.json') ? dataComments(file, text ?? '{}') : markupComments(file, text ?? '');
}

function markupComments(file: string, text: string): Comment[] {
  return [...text.matchAll(/<!--([\s\S]*?)-->/g)].map((match) => ({
    words: (match[1] ?? '').replace(/\s+/g, ' ').trim(),
    span: { file, start: match.index, end: match.index + match[0].length },
  }));
}

/** Comments that a schema holds, a line each. */
function dataComments(file: string, text: string): Comment[] {
  const found: Comment[] = [];
  JSON.parse(text, (key, value: unknown) => {
    if (key === '$comment' && typeof value === 'string')
      found.push(...value.split('\n').map((line) => ({ words: plainComment(line), span: { file, start: 0, end: 0 } })));
    return value;
  });
  return found;
}

/** Comments that stood in some file before and stand in none after. */
function lostComments(before: readonly Comment[], after: readonly string[]): Caught[] {
  const left = [...after];
  return before.flatMap(({ words, span }): Caught[] => {
    const index = left.indexOf(words);
    if (index >= 0) left.splice(index, 1);
    return index >= 0 ? [] : [{ check: 'soundness', span, what: words, why: 'this comment would be lost' }];
  });
}
