import path from 'node:path';

/** A package that code needs, with the versions that do. */
export interface Dependency {
  name: string;
  range: string;
}

/** What is asked to find a project's package.json. */
interface Files {
  exists(file: string): boolean;
  text(file: string): string;
}

/** The nearest package.json at or above a file; undefined where there is none. */
export function packageFile(from: string, exists: (file: string) => boolean): string | undefined {
  for (let folder = path.dirname(from); ; folder = path.dirname(folder)) {
    const file = path.join(folder, 'package.json');
    if (exists(file)) return file;
    if (path.dirname(folder) === folder) return undefined;
  }
}

/** Names of the packages that a package.json asks for; empty where it cannot be read. */
function askedFor(text: string): Set<string> {
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value !== 'object' || value === null) return new Set();
    const groups = ['dependencies', 'devDependencies', 'peerDependencies', 'optionalDependencies'];
    return new Set(
      Object.entries(value).flatMap(([key, group]: [string, unknown]) =>
        groups.includes(key) && typeof group === 'object' && group !== null ? Object.keys(group) : [],
      ),
    );
  } catch {
    return new Set();
  }
}

/** The packages among some that the project of a file does not ask for. */
export function missingDependencies(wanted: readonly Dependency[], from: string, files: Files): Dependency[] {
  const file = packageFile(from, (one) => files.exists(one));
  const known = file === undefined ? new Set<string>() : askedFor(files.text(file));
  return wanted.filter(({ name }) => !known.has(name));
}
