import { findTsconfig, parseTsconfig, type Cache, type TsConfigJsonResolved } from 'get-tsconfig';

/** Settings files that were looked for and read before. */
const known: Cache = new Map();

/** The nearest settings file of a folder, the first name before the others; undefined where there is none. */
export function configAbove(folder: string, ...names: string[]): string | undefined {
  for (const name of names) {
    const file = findTsconfig(folder, name, known);
    if (file !== undefined) return file;
  }
  return undefined;
}

/** What a settings file says, with what it extends; undefined where it cannot be read. */
export function configAt(file: string): TsConfigJsonResolved | undefined {
  try {
    return parseTsconfig(file, known);
  } catch {
    return undefined;
  }
}
