import path from 'node:path';
import { findTsconfig, parseTsconfig, type Cache } from 'get-tsconfig';

const configs: Cache = new Map();

/**
 * Whether the nearest `tsconfig.json` of a file says that markup needs no import of its own.
 * @param file absolute path of a script
 * @returns false where nothing says so
 */
export function importsMarkupItself(file: string): boolean {
  const config = findTsconfig(path.dirname(file), 'tsconfig.json', configs);
  if (config === undefined) return false;
  try {
    return /^react-jsx/.test(parseTsconfig(config, configs).compilerOptions?.jsx ?? '');
  } catch {
    return false;
  }
}
