import type { NodePath } from '@babel/traverse';

/** What is asked of a path, in words that spare the compiler weighing every kind of node. */
interface Parent {
  get(key: string): NodePath | NodePath[];
}

/** One child of a path whose kind of node is not told; its node is missing where the path has none by that key. */
export function childOf(path: NodePath, key: string): NodePath {
  return (path as Parent).get(key) as NodePath;
}

/** The children of a path by a key that may hold several, as a list. */
export function childrenOf(path: NodePath, key: string): NodePath[] {
  const found = (path as Parent).get(key);
  return Array.isArray(found) ? found : [found];
}
