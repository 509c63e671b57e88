import type { Placed } from '../source/behind-names.js';
import { behindName, exportedBy } from '../source/behind-names.js';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import { functionOf, type FunctionPath } from './components.js';

/**
 * What stands behind an import of a file, followed through files that only hand it on.
 * @param from what `importOf` gives of the name
 */
export function importedValue(
  from: { module: string; name: string },
  script: Script,
  load: LoadScript,
): Placed | undefined {
  const other = load(script.file, from.module);
  const found = other && exportedBy(other, from.name === '*' ? 'default' : from.name, load);
  return found && behindName(found, load);
}

/** The function behind an import of a file, with the file that declares it. */
export function importedFunction(
  from: { module: string; name: string },
  script: Script,
  load: LoadScript,
): { fn: FunctionPath; script: Script } | undefined {
  const found = importedValue(from, script, load);
  const fn = found && functionOf(found.path);
  return found && fn ? { fn, script: found.script } : undefined;
}
