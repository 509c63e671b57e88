import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { stays, type Leaving } from './leaving.js';
import { walk } from '../../source/traverse.js';

/** A place that looks at the values of its view, or changes them. */
export interface Turn {
  path: NodePath;
  /** `whole`: it sets all values, made of those of the view; `sets`: it sets some over the latest; `reads`: it looks at them. */
  does: 'whole' | 'sets' | 'reads';
  /** Where in its function it comes, if not where it stands. */
  at?: number;
}

/** Functions that are called at once, in the turn of whoever calls them. */
const atOnce = /^(?:map|filter|some|every|find|findIndex|flatMap|reduce|sort|includes)$/;

/**
 * Leaves by hand what would look at older values than the package gives: behind a change of the same turn, behind a wait, in a
 * loop, or in a function that is called at another time.
 * @param apart spans in which values stand for those that are checked
 */
export function refuseLate(leaving: Leaving, apart: readonly t.Node[]): void {
  const within = (node: t.Node): boolean =>
    apart.some((one) => (node.start ?? 0) >= (one.start ?? 0) && (node.end ?? 0) <= (one.end ?? 0));
  const turns = leaving.turns.filter(({ path }) => !within(path.node));
  for (const { path, does } of turns) {
    if (does === 'sets') continue;
    const fn = turnOf(path);
    const at = path.node.start ?? 0;
    const isBehind = turns.some(
      (other) => other.does !== 'reads' && turnOf(other.path) === fn && (other.at ?? other.path.node.start ?? 0) < at,
    );
    if (isBehind) stays(leaving, path, 'a change before it in the same turn would be lost, or not be seen');
    else if (fn && fn !== leaving.site.component.path && (waits(fn, at) || !isCalledThen(fn)))
      stays(leaving, path, 'it may run when the values are others than those of its view');
    else if (does === 'whole' && isRepeated(path, fn)) stays(leaving, path, 'it may run several times in one turn');
  }
}

/** The function in whose turn a place runs. */
function turnOf(path: NodePath): NodePath | undefined {
  const fn = path.findParent((parent) => parent.isFunction()) ?? undefined;
  const called =
    fn?.parentPath?.isCallExpression() && fn.listKey === 'arguments' ? fn.parentPath.node.callee : undefined;
  const isAtOnce = t.isMemberExpression(called) && t.isIdentifier(called.property) && atOnce.test(called.property.name);
  return fn && isAtOnce ? turnOf(fn) : fn;
}

/** Whether a function waits for something in front of an offset. */
function waits(fn: NodePath, at: number): boolean {
  let found = false;
  walk(fn, {
    Function: (inner) => inner.skip(),
    AwaitExpression: ({ node }) => void (found ||= (node.end ?? 0) <= at),
  });
  return found;
}

/** Whether a function is no argument of a call, or one that runs with the view it was made in. */
function isCalledThen({ parentPath, listKey }: NodePath): boolean {
  if (!parentPath?.isCallExpression() || listKey !== 'arguments') return true;
  const { callee } = parentPath.node;
  const name = t.isMemberExpression(callee) ? callee.property : callee;
  return t.isIdentifier(name) && /^(?:use(?:Layout)?Effect|handleSubmit|useFormik|useForm)$/.test(name.name);
}

function isRepeated(path: NodePath, fn: NodePath | undefined): boolean {
  const inner = path.findParent((parent) => parent.isFunction() || parent.isLoop());
  return inner?.isLoop() === true || (inner !== null && inner !== (fn ?? null));
}

/** The call that a statement makes, and nothing else. */
export function callIn(statement: NodePath): NodePath<t.CallExpression> | undefined {
  const call = statement.isExpressionStatement() ? (statement.get('expression') as NodePath) : undefined;
  return call?.isCallExpression() ? call : undefined;
}

/** A statement that sets one value, and its place in a row of such statements. */
export interface Settled<Set> {
  statement: NodePath;
  set: Set;
}

/**
 * The statements of one block that set one value after the other, around one of them.
 * @param setOf what a statement sets; undefined where it does something else
 */
export function runOf<Set>(statement: NodePath, setOf: (path: NodePath) => Set | undefined): Settled<Set>[] {
  const block = statement.container;
  const own = setOf(statement);
  if (!Array.isArray(block)) return own ? [{ statement, set: own }] : [];
  let first = Number(statement.key);
  while (first > 0 && setOf(statement.getSibling(first - 1))) first -= 1;
  const run: Settled<Set>[] = [];
  for (let at = first; at < block.length; at += 1) {
    const sibling = statement.getSibling(at);
    const set = setOf(sibling);
    if (!set) break;
    run.push({ statement: sibling, set });
  }
  return run;
}
