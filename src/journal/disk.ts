import { chmodSync, closeSync, fsyncSync, mkdirSync, openSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { digest, digestOf, folderOf, type EntryState, type JournalEntry } from './entries.js';

/**
 * Puts a text in the place of a file in one step, or takes the file away.
 * @param aside a file on the same disk that the text is written to first; what is left of it does not matter
 * @throws Error of the file system
 */
export function put(file: string, text: string | Buffer | null, mode: number | null, aside: string): void {
  if (text === null) {
    rmSync(file, { force: true });
    return;
  }
  mkdirSync(path.dirname(file), { recursive: true });
  const handle = openSync(aside, 'w', mode === null ? 0o666 : mode & 0o7777);
  try {
    writeFileSync(handle, text);
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
  if (mode !== null) chmodSync(aside, mode & 0o7777);
  try {
    renameSync(aside, file);
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'EXDEV')) throw error;
    // the journal stands on another disk
    writeFileAtomic.sync(file, text, mode === null ? {} : { mode: mode & 0o7777 });
    rmSync(aside, { force: true });
  }
}

/**
 * Puts a file of an entry into one of its two states, unless it is in it already.
 * @throws Error of the file system
 */
export function putSide(root: string, entry: JournalEntry, index: number, text: string | Buffer | null): void {
  const file = entry.files[index];
  if (!file) return;
  const place = path.join(root, file.file);
  const wanted = text === null ? null : digest(text);
  if (digestOf(place) === wanted) return;
  put(place, text, file.mode, path.join(folderOf(root, entry.name), 'aside'));
}

/**
 * Writes an entry's account, in one step.
 * @throws Error of the file system
 */
export function saveEntry(root: string, entry: JournalEntry, state: EntryState): JournalEntry {
  const saved = { ...entry, state };
  const folder = folderOf(root, entry.name);
  put(path.join(folder, 'entry.json'), `${JSON.stringify(saved, null, 2)}\n`, null, path.join(folder, 'entry.aside'));
  return saved;
}
