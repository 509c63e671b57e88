import { readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { reasonOf } from '../source/workspace.js';
import { putSide, saveEntry } from './disk.js';
import {
  digestOf,
  folderOf,
  problem,
  readEntries,
  type DamagedEntry,
  type JournalEntry,
  type JournalProblem,
} from './entries.js';
import { whileLocked } from './lock.js';

/** What became of calls that were cut off. */
export interface Recovered {
  /** Sentences about what was put right. */
  said: string[];
  /** Why something could not be put right. */
  stuck: JournalProblem | undefined;
  damaged: DamagedEntry[];
}

/** Whether a journal holds something that was cut off: a look that costs little. */
export function needsRecovery(root: string): boolean {
  const { entries, begun } = readEntries(root);
  return begun.length > 0 || entries.some(({ state }) => state === 'intent' || state === 'undoing');
}

/** Puts right what earlier calls left half written. */
export function recover(root: string): Recovered | JournalProblem {
  return whileLocked(root, () => recovered(root));
}

/**
 * The same for somebody who holds the lock: rewrites that were cut off are taken back, all of one call together;
 * an undo that was cut off is finished.
 */
export function recovered(root: string): Recovered {
  const { entries, damaged, begun } = readEntries(root);
  const said: string[] = [];
  // without an entry nothing was written
  for (const name of begun) rmSync(folderOf(root, name), { recursive: true, force: true });
  const open = entries.filter(({ state }) => state === 'intent');
  // of one call some entries may say done already
  const calls = new Set(open.map(({ call }) => call));
  const back = entries.filter(
    ({ call, state }) => state === 'undoing' || (calls.has(call) && (state === 'intent' || state === 'done')),
  );
  const foreign = back.flatMap((entry) => foreignFiles(root, entry, back));
  if (foreign.length)
    return {
      said,
      damaged,
      stuck: problem(
        `${back.map(({ name }) => name).join(', ')} was cut off, and ${[...new Set(foreign)].join(', ')} changed since`,
        `the texts before and after are in ${back.map(({ name }) => folderOf(root, name)).join(' and ')}; put them right by hand and remove that folder`,
      ),
    };
  try {
    for (const entry of [...back].reverse()) putBack(root, entry);
  } catch (error) {
    return {
      said,
      damaged,
      stuck: problem(
        `a call that was cut off cannot be put right: ${reasonOf(error)}`,
        'check permissions and the space on the disk, and run any command again',
      ),
    };
  }
  for (const entry of back)
    said.push(
      entry.state === 'undoing'
        ? `${entry.name}: its undo was cut off; it is finished now`
        : `${entry.name} was cut off while it was written; its files are as they were before`,
    );
  return { said, damaged, stuck: undefined };
}

function putBack(root: string, entry: JournalEntry): void {
  for (let index = entry.files.length - 1; index >= 0; index--) {
    const before = entry.files[index]?.before ?? null;
    const text = before === null ? null : readFileSync(path.join(folderOf(root, entry.name), `${index}.before`));
    putSide(root, entry, index, text);
  }
  if (entry.state === 'undoing') saveEntry(root, entry, 'undone');
  else rmSync(folderOf(root, entry.name), { recursive: true, force: true });
}

/** Files that are in none of the states that the entries know. */
function foreignFiles(root: string, entry: JournalEntry, all: readonly JournalEntry[]): string[] {
  return entry.files.flatMap(({ file }) => {
    const known = all.flatMap(({ files }) =>
      files.flatMap((one) => (one.file === file ? [one.before, one.after] : [])),
    );
    return known.includes(digestOf(path.join(root, file))) ? [] : [file];
  });
}
