import { readFileSync } from 'node:fs';
import path from 'node:path';
import { reasonOf } from '../source/workspace.js';
import { put, putSide, saveEntry } from './disk.js';
import {
  digestOf,
  folderOf,
  problem,
  readEntries,
  type EntryFile,
  type JournalEntry,
  type JournalProblem,
} from './entries.js';
import { whileLocked } from './lock.js';
import { recovered } from './recover.js';

/** What an undo did: the entry, and files that stayed because a later rewrite needs them. */
export interface Undone {
  ok: true;
  entry: JournalEntry;
  kept: { file: string; neededBy: string }[];
}

/**
 * Puts the files of an entry back as they were, byte for byte. A file that the rewrite made and that a later one
 * needs stays, and goes with that one.
 * @param name an entry's name or its number; the newest one that is not undone when left out
 * @param overwrite take changes made since into the bargain
 */
export function undo(root: string, name: string | undefined, overwrite: boolean): Undone | JournalProblem {
  return whileLocked(root, (): Undone | JournalProblem => {
    const before = recovered(root);
    if (before.stuck) return before.stuck;
    const { entries, damaged } = readEntries(root);
    const asked = (one: { name: string }): boolean =>
      one.name === name || (/^\d+$/.test(name ?? '') && Number.parseInt(one.name, 10) === Number(name));
    const broken = name === undefined ? undefined : damaged.find(asked);
    if (broken)
      return problem(
        `the entry ${broken.name} is damaged: ${broken.why}`,
        `its texts are in ${folderOf(root, broken.name)}; nothing was changed`,
      );
    const wanted = entries.filter((entry) => (name === undefined ? entry.state === 'done' : asked(entry))).at(-1);
    if (!wanted)
      return name === undefined
        ? problem('there is nothing to undo', '`lively-graft undo --list` shows the journal')
        : problem(`the journal has no entry ${name}`, '`lively-graft undo --list` shows the entries');
    if (wanted.state !== 'done')
      return problem(`${wanted.name} is undone already`, '`lively-graft undo --list` shows the entries');
    return takeBack(root, wanted, entries, overwrite);
  });
}

function takeBack(
  root: string,
  wanted: JournalEntry,
  entries: readonly JournalEntry[],
  overwrite: boolean,
): Undone | JournalProblem {
  const later = entries.slice(entries.indexOf(wanted) + 1).filter(({ state }) => state === 'done');
  const kept = wanted.files.flatMap((one) => {
    const needs = one.change === 'create' ? later.find((entry) => needsFile(root, entry, one.file)) : undefined;
    return needs ? [{ file: one.file, neededBy: needs.name }] : [];
  });
  const changed = wanted.files.filter(
    ({ file, after }) => !kept.some((one) => one.file === file) && digestOf(path.join(root, file)) !== after,
  );
  if (changed.length && !overwrite) {
    const by = later.find(({ files }) => files.some(({ file }) => changed.some((one) => one.file === file)));
    return problem(
      `${changed.map(({ file }) => file).join(', ')} changed since ${wanted.name}`,
      by
        ? `undo ${by.name} first, which changed it; or run undo with --overwrite to lose what came since`
        : 'take your changes elsewhere, or run undo with --overwrite to lose them',
    );
  }
  try {
    for (const { file, neededBy } of kept) adopt(root, wanted, entries, file, neededBy);
    const going = { ...wanted, files: wanted.files };
    saveEntry(root, going, 'undoing');
    for (let index = wanted.files.length - 1; index >= 0; index--) {
      const file = wanted.files[index];
      if (!file || kept.some((one) => one.file === file.file)) continue;
      putSide(root, wanted, index, textOf(root, wanted, index, file));
    }
    return { ok: true, entry: saveEntry(root, wanted, 'undone'), kept };
  } catch (error) {
    return problem(
      `cannot put the files of ${wanted.name} back: ${reasonOf(error)}`,
      `check permissions and the space on the disk; the next command goes on with it. Their old texts are in ${folderOf(root, wanted.name)}`,
    );
  }
}

function textOf(root: string, entry: JournalEntry, index: number, { before }: EntryFile): Buffer | null {
  return before === null ? null : readFileSync(path.join(folderOf(root, entry.name), `${index}.before`));
}

/** Whether a file of an entry, as it is now, imports another file of the project. */
function needsFile(root: string, entry: JournalEntry, file: string): boolean {
  const wanted = path.join(root, file).replace(/\.[cm]?[jt]sx?$/, '');
  return entry.files.some((one) => {
    if (one.file === file) return false;
    const place = path.join(root, one.file);
    let text: string;
    try {
      text = readFileSync(place, 'utf8');
    } catch {
      return false;
    }
    return [...text.matchAll(/from\s+['"](\.[^'"]+)['"]/g)].some(
      ([, specifier]) => path.resolve(path.dirname(place), specifier ?? '').replace(/\.[cm]?[jt]sx?$/, '') === wanted,
    );
  });
}

/** Hands a file that stays over to the entry that needs it: it goes with that one. */
function adopt(root: string, from: JournalEntry, entries: readonly JournalEntry[], file: string, by: string): void {
  const heir = entries.find(({ name }) => name === by);
  const index = from.files.findIndex((one) => one.file === file);
  const own = from.files[index];
  if (!heir || !own || heir.files.some((one) => one.file === file)) return;
  const folder = folderOf(root, heir.name);
  const text = readFileSync(path.join(folderOf(root, from.name), `${index}.after`));
  put(path.join(folder, `${heir.files.length}.after`), text, null, path.join(folder, 'aside'));
  heir.files.push(own);
  saveEntry(root, heir, heir.state);
}
