import path from 'node:path';
import { aliasedPaths } from './path-aliases.js';
import { parseData, parseScript, type Script } from './script.js';
import { forgetTrees } from './traverse.js';
import type { Workspace } from './workspace.js';

const endings = ['', '.tsx', '.ts', '.jsx', '.js', '.mjs', '/index.tsx', '/index.ts', '/index.jsx', '/index.js'];

/** Parses another file of the project; undefined where there is none or it does not parse. */
export type LoadScript = (from: string, specifier: string) => Script | undefined;

/** The paths of the project that an import may mean, endings left out; none for a package. */
export function importedPaths(from: string, specifier: string): string[] {
  return specifier.startsWith('.')
    ? [path.resolve(path.dirname(from), specifier)]
    : aliasedPaths(from, specifier).filter((one) => !one.includes(`${path.sep}node_modules${path.sep}`));
}

/** The file of the project that an import leads to; an ending `.js` may stand for a TypeScript file. */
export function importedFile(workspace: Workspace, from: string, specifier: string): string | undefined {
  const bases = importedPaths(from, specifier).flatMap((base) => [base, base.replace(/\.jsx?$/, '')]);
  for (const candidate of bases.flatMap((one) => endings.map((ending) => one + ending))) {
    if (/\.([cm]?[jt]sx?|json)$/.test(candidate) && workspace.exists(candidate)) return candidate;
  }
  return undefined;
}

/** A file or module as another place names it: relative to a folder, with slashes, and a dot in front. */
export function relativePath(folder: string, to: string): string {
  const relative = path.relative(folder, to).split(path.sep).join('/');
  return relative.startsWith('.') ? relative : `./${relative}`;
}

/** The module by which one file imports from another, relative and without its ending. */
export function relativeModule(from: string, to: string): string {
  return relativePath(path.dirname(from), to).replace(/\.[jt]sx?$/, '');
}

/**
 * The module by which a file imports from another one.
 * @param named the module by which it does so already; a file that only hands things on is none
 */
export function moduleFor(from: Script, to: Script, named: string | undefined, load: LoadScript): string {
  return named !== undefined && load(from.file, named)?.file === to.file ? named : relativeModule(from.file, to.file);
}

/** Files that were imported by any other, as they were parsed. */
const parsed = new Map<string, Script>();

/** A file as it was parsed before, if its text is the same, or parsed now. */
function parsedOnce(file: string, text: string): Script | undefined {
  const before = parsed.get(file);
  if (before?.text === text) return before;
  const result = (file.endsWith('.json') ? parseData : parseScript)(file, text);
  if (!result.ok) return undefined;
  parsed.set(file, result.script);
  return result.script;
}

/** Forgets the files that were parsed, with all that is known of their trees. None of them may be looked at any more. */
export function forgetFiles(): void {
  parsed.clear();
  forgetTrees();
}

/** Loads files of a workspace, each once. */
export function loadingFrom(workspace: Workspace): LoadScript {
  const loaded = new Map<string, Script | undefined>();
  return (from, specifier) => {
    const file = importedFile(workspace, from, specifier);
    if (file === undefined) return undefined;
    if (!loaded.has(file)) {
      const read = workspace.read(file);
      loaded.set(file, read.ok ? parsedOnce(file, read.text) : undefined);
    }
    return loaded.get(file);
  };
}
