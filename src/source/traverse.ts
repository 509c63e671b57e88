import traverseModule, { NodePath, type Visitor } from '@babel/traverse';
import * as t from '@babel/types';

/** Walks a tree and builds its scopes on the way. The package is CommonJS, so its default stands one level deeper. */
export const traverse = traverseModule.default;

/** All paths of a tree in the order of the text, each with the place of the first one that is not inside of it. */
interface Order {
  paths: NodePath[];
  ends: number[];
  places: Map<NodePath, number>;
}

/** The orders of trees by their tops. A tree is put in order once, however often it is walked. */
const orders = new WeakMap<NodePath, Order>();

/** The path of a node where it stands; its scope is known once the whole tree has been looked at. */
function pathAt(parentPath: NodePath, listKey: string | undefined, key: string | number, container: unknown): NodePath {
  // what kinds of nodes stand at which keys is known to the caller, not to the types
  const at = { parentPath, parent: parentPath.node, container, key, ...(listKey === undefined ? {} : { listKey }) };
  const path = NodePath.get(at as unknown as Parameters<typeof NodePath.get>[0]) as unknown as NodePath;
  if (!path.scope) path.setContext();
  return path;
}

function putInOrder(path: NodePath, order: Order): void {
  const at = order.paths.push(path) - 1;
  order.ends.push(at);
  order.places.set(path, at);
  const node = path.node as unknown as Record<string, unknown>;
  for (const key of t.VISITOR_KEYS[path.node.type] ?? []) {
    const inner = node[key];
    if (Array.isArray(inner)) {
      for (const [index, one] of inner.entries()) if (one) putInOrder(pathAt(path, key, index, inner), order);
    } else if (inner) putInOrder(pathAt(path, undefined, key, node), order);
  }
  order.ends[at] = order.paths.length;
}

function orderAround(path: NodePath): Order {
  let top = path;
  while (top.parentPath) top = top.parentPath;
  let order = orders.get(top);
  if (!order) {
    order = { paths: [], ends: [], places: new Map() };
    putInOrder(top, order);
    orders.set(top, order);
  }
  return order;
}

/** Forgets all trees that were walked. None of them may be walked any more. */
export function forgetTrees(): void {
  traverse.cache.clear();
}

type Visit = (path: NodePath) => void;
const asked = ['Expression', 'ReferencedIdentifier', 'Scope', 'Statement'] as const;
const askedOf: Record<string, readonly string[]> = {
  ReferencedIdentifier: ['Identifier', 'JSXIdentifier'],
  Scope: ['Scopable', 'Pattern'],
};

/** What is done at each kind of node. Names of groups (`Function`) stand for all their kinds. */
function visitsOf(visitor: Visitor): Map<string, Visit[]> {
  const visits = new Map<string, Visit[]>();
  const add = (kind: string, visit: Visit): void => {
    const known = visits.get(kind);
    if (known) known.push(visit);
    else visits.set(kind, [visit]);
  };
  const groups: [string, Visit][] = [];
  for (const [names, given] of Object.entries(visitor)) {
    const visit = (typeof given === 'function' ? given : given.enter) as Visit;
    for (const name of names.split('|'))
      if (t.FLIPPED_ALIAS_KEYS[name] || askedOf[name]) groups.push([name, visit]);
      else add(name, visit);
  }
  for (const [name, visit] of groups) {
    const isAsked = (asked as readonly string[]).includes(name);
    const is = `is${name}` as `is${(typeof asked)[number]}`;
    const minded: Visit = isAsked ? (path) => void (path[is]() && visit(path)) : visit;
    const kinds = (askedOf[name] ?? [name]).flatMap((one) => t.FLIPPED_ALIAS_KEYS[one] ?? [one]);
    for (const kind of new Set(kinds)) add(kind, minded);
  }
  return visits;
}

/**
 * Visits what stands inside of a path, in the order of the text; a visit may skip what is inside of its path, or stop.
 * The path itself is not visited. Nothing may change the tree. An `enter` of its own sees every node.
 * @param path where; nothing is done without one
 * @param visitor what to do, by kinds of nodes, as the parser's package names them; nothing is done on leaving a node
 */
export function walk(path: NodePath | null | undefined, visitor: Visitor): void {
  if (!path) return;
  const { paths, ends, places } = orderAround(path);
  const place = places.get(path);
  if (place === undefined) return path.traverse(visitor);
  const { enter, ...byKind } = visitor;
  const visits = visitsOf(byKind);
  const always = enter as Visit | undefined;
  const last = ends[place] ?? 0;
  for (let at = place + 1; at < last;) {
    const next = paths[at] as NodePath;
    const all = visits.get(next.node.type);
    at += 1;
    if (!all && !always) continue;
    // a walk inside of a visit may come by the same path
    const skipsAround = next.shouldSkip;
    const stopsAround = next.shouldStop;
    next.shouldSkip = next.shouldStop = false;
    always?.(next);
    for (const visit of all ?? []) {
      if (next.shouldSkip || next.shouldStop) break;
      visit(next);
    }
    if (next.shouldSkip) at = ends[at - 1] ?? last;
    if (next.shouldStop) at = last;
    next.shouldSkip = skipsAround;
    next.shouldStop = stopsAround;
  }
}
