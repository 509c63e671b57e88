import path from 'node:path';
import { loadSettings, type LoadedSettings } from '../source/settings.js';
import { diskWorkspace, nearestWith } from '../source/workspace.js';
import type { ReadSettings } from '../rewrite/forms.js';
import { UsageTrouble } from './output.js';

/** The settings that hold for a folder, or the trouble with them. */
export async function settingsFor(folder: string, config: string | undefined): Promise<LoadedSettings> {
  const named = config === undefined ? undefined : path.resolve(config);
  const result = await loadSettings(diskWorkspace, folder, named);
  if (!result.ok) throw new UsageTrouble(result.message, result.next);
  return result.loaded;
}

/** The part of the settings that decides how forms are read and written. */
export function readSettings({ settings, folder }: LoadedSettings): ReadSettings {
  const { hook } = settings;
  return {
    ownValueNames: [...new Set(Object.values(settings.components ?? {}).map(({ value }) => value))],
    ...(hook
      ? { hook: { name: hook.name, folder: hook.folder === undefined ? undefined : path.resolve(folder, hook.folder) } }
      : {}),
  };
}

/** The root of the project that a file belongs to. */
export function projectRoot(file: string): string {
  const folder = path.dirname(file);
  return nearestWith(diskWorkspace, folder, ['.lively-graft', 'package.json', '.git']) ?? folder;
}

/** An existing file named on the command line, as an absolute path. */
export function sourceFile(name: string): string {
  const file = path.resolve(name);
  const read = diskWorkspace.read(file);
  if (!read.ok)
    throw new UsageTrouble(
      `cannot read ${name}: ${read.reason}`,
      'check the path; `lively-graft survey` lists the forms of a tree',
    );
  if (!/\.(?:[cm]?[jt]sx?|vue)$/.test(file))
    throw new UsageTrouble(
      `${name} is no TypeScript, JavaScript or Vue file`,
      'name the file that holds the form’s code',
    );
  return file;
}

/** The root of the project whose journal remembers some rewrites: one that holds all of their files. */
export function rootFor(file: string, rewrites: readonly { files: readonly { file: string }[] }[]): string {
  const all = rewrites.flatMap(({ files }) => files.map((change) => change.file));
  for (let root = projectRoot(file); ; root = projectRoot(root)) {
    const inside = all.every((one) => !path.relative(root, one).startsWith('..'));
    if (inside || path.dirname(root) === root) return root;
  }
}
