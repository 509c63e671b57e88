import path from 'node:path';
import { createPathsMatcher } from 'get-tsconfig';
import { configAbove, configAt } from './tsconfig.js';

type Matcher = (specifier: string) => string[];

const matchers = new Map<string, Matcher | undefined>();

/**
 * Where a module of a project's own naming may lead, such as `@/hooks/useEntry`: what `paths` and `baseUrl` of the
 * nearest `tsconfig.json`, of those it refers to, or of `jsconfig.json` say.
 * @param from absolute path of the file that imports
 * @returns absolute paths without a check for being there; empty where no name of the project fits
 */
export function aliasedPaths(from: string, specifier: string): string[] {
  return matcherFor(path.dirname(from))?.(specifier) ?? [];
}

function matcherFor(folder: string): Matcher | undefined {
  if (!matchers.has(folder)) {
    const file = configAbove(folder, 'tsconfig.json', 'jsconfig.json');
    matchers.set(folder, file === undefined ? undefined : matcherOf(file));
  }
  return matchers.get(folder);
}

function matcherOf(file: string): Matcher | undefined {
  const known = matchers.get(file);
  if (known || matchers.has(file)) return known;
  matchers.set(file, undefined);
  const found = parsedMatcher(file);
  matchers.set(file, found);
  return found;
}

function parsedMatcher(file: string): Matcher | undefined {
  const config = configAt(file);
  if (!config) return undefined;
  try {
    const own = createPathsMatcher({ path: file, config });
    if (own) return own;
    // a project may keep its settings in files for its parts
    for (const reference of config.references ?? []) {
      const to = path.resolve(path.dirname(file), reference.path);
      const other = matcherOf(to.endsWith('.json') ? to : path.join(to, 'tsconfig.json'));
      if (other) return other;
    }
  } catch {
    // settings that cannot be read name nothing
  }
  return undefined;
}
