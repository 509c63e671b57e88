import { statSync } from 'node:fs';
import path from 'node:path';
import { folderName, readEntries } from '../journal/entries.js';
import { needsRecovery, recover } from '../journal/recover.js';
import { projectRoot } from './files.js';
import { UsageTrouble } from './output.js';

/** The project of the working folder, whose journal commands look at. */
export function rootHere(cwd: string): string {
  return projectRoot(path.join(cwd, 'here'));
}

/**
 * Puts right what earlier calls left half written in a project.
 * @param say takes sentences about what was put right
 * @throws UsageTrouble where it cannot be put right
 */
export function putRight(root: string, say: (text: string) => void): void {
  if (!needsRecovery(root)) return;
  const result = recover(root);
  if ('ok' in result) throw new UsageTrouble(result.message, result.next);
  for (const sentence of result.said) say(sentence);
  if (result.stuck) throw new UsageTrouble(result.stuck.message, result.stuck.next);
}

/** Roots of projects at, above and below a folder that have a journal: packages of a workspace have one each. */
export async function journalsFrom(cwd: string): Promise<string[]> {
  const here = rootHere(cwd);
  const { globby } = await import('globby');
  const below = await globby(`**/${folderName}`, {
    cwd,
    dot: true,
    onlyDirectories: true,
    deep: 8,
    ignore: ['**/node_modules/**'],
    suppressErrors: true,
  });
  return [...new Set([here, ...below.map((folder) => path.dirname(path.resolve(cwd, folder)))])];
}

/** The journal whose newest rewrite that is not undone is the newest of all. */
export function newestJournal(roots: readonly string[]): string | undefined {
  const latest = roots.flatMap((root) => {
    const entry = readEntries(root)
      .entries.filter(({ state }) => state === 'done')
      .at(-1);
    return entry ? [{ root, at: statSync(path.join(root, folderName, entry.name, 'entry.json')).mtimeMs }] : [];
  });
  return latest.sort((a, b) => b.at - a.at)[0]?.root;
}
