import { accessSync, constants, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';
import { reasonOf } from '../source/workspace.js';
import { put, putSide, saveEntry } from './disk.js';
import {
  digest,
  folderOf,
  problem,
  readEntries,
  type JournalChange,
  type JournalEntry,
  type JournalProblem,
} from './entries.js';
import { whileLocked } from './lock.js';
import { recovered } from './recover.js';

/** A rewrite that is to be written. */
export interface ToRecord {
  form: string;
  from: string;
  to: string;
  files: readonly JournalChange[];
}

/**
 * Writes every change of some rewrites or none, and remembers how to take each back. What is meant to be written is in
 * the journal, with all texts before and after, before the first file changes.
 * @param root absolute path of the project's root; the journal lives in it
 * @returns the names of the entries, in the order of the rewrites
 */
export function record(root: string, rewrites: readonly ToRecord[]): { ok: true; entries: string[] } | JournalProblem {
  return whileLocked(root, () => {
    // what an earlier call left half written is put right first
    const before = recovered(root);
    if (before.stuck) return before.stuck;
    const trouble = unwritable(rewrites);
    if (trouble) return trouble;
    const intents: JournalEntry[] = [];
    try {
      for (const rewrite of rewrites) intents.push(intend(root, rewrite, intents[0]?.name));
    } catch (error) {
      for (const { name } of intents) rmSync(folderOf(root, name), { recursive: true, force: true });
      discardBegun(root);
      return problem(
        `cannot write the journal in ${root}: ${reasonOf(error)}`,
        'check its permissions and the space on the disk; nothing was written',
      );
    }
    try {
      for (const [index, entry] of intents.entries())
        for (const [at, { after }] of (rewrites[index]?.files ?? []).entries()) putSide(root, entry, at, after);
      for (const entry of intents) saveEntry(root, entry, 'done');
    } catch (error) {
      const back = recovered(root);
      return problem(
        `cannot write: ${reasonOf(error)}`,
        back.stuck
          ? `${back.stuck.message}; ${back.stuck.next}`
          : 'check the files, their permissions and the space on the disk; everything is as it was',
      );
    }
    return { ok: true, entries: intents.map(({ name }) => name) };
  });
}

/** What keeps the changes from being written; each file counts as the changes before it leave it. */
function unwritable(rewrites: readonly ToRecord[]): JournalProblem | undefined {
  const texts = new Map<string, string | null>();
  for (const { file, before, after } of rewrites.flatMap(({ files }) => files)) {
    const why = troubleWith(file, before, texts);
    texts.set(file, after);
    if (why !== undefined)
      return problem(
        `cannot write ${file}: ${why}`,
        'check the file and its permissions, then run again; nothing was written',
      );
  }
  return undefined;
}

function troubleWith(
  file: string,
  before: string | null,
  texts: ReadonlyMap<string, string | null>,
): string | undefined {
  const known = texts.get(file);
  if (known !== undefined) return known === before ? undefined : 'two rewrites of one call change it differently';
  try {
    const folder = nearestFolder(path.dirname(file));
    if (!statSync(folder).isDirectory()) return 'a part of its path is not a folder';
    accessSync(folder, constants.W_OK);
    if (before === null) {
      if (exists(file)) return 'it is there already';
      return undefined;
    }
    if (!statSync(file).isFile()) return 'it is no plain file';
    accessSync(file, constants.W_OK);
    return readFileSync(file, 'utf8') === before ? undefined : 'it changed while the rewrite was made';
  } catch (error) {
    return reasonOf(error);
  }
}

function exists(file: string): boolean {
  try {
    statSync(file);
    return true;
  } catch {
    return false;
  }
}

function nearestFolder(folder: string): string {
  return exists(folder) || path.dirname(folder) === folder ? folder : nearestFolder(path.dirname(folder));
}

function newName(root: string, form: string, to: string): string {
  const { entries, damaged, begun } = readEntries(root);
  const names = [...entries.map(({ name }) => name), ...damaged.map(({ name }) => name), ...begun];
  const next = Math.max(0, ...names.map((name) => Number.parseInt(name, 10) || 0)) + 1;
  return `${String(next).padStart(4, '0')}-${form.replace(/[^\w-]+/g, '-')}-${to}`;
}

/** Says in the journal what is going to be written. */
function intend(root: string, rewrite: ToRecord, call: string | undefined): JournalEntry {
  const name = newName(root, rewrite.form, rewrite.to);
  const folder = folderOf(root, name);
  mkdirSync(folder, { recursive: true });
  const aside = path.join(folder, 'aside');
  const files = rewrite.files.map(({ file, change, before, after }, index) => {
    if (before !== null) put(path.join(folder, `${index}.before`), before, null, aside);
    if (after !== null) put(path.join(folder, `${index}.after`), after, null, aside);
    return {
      file: path.relative(root, file).split(path.sep).join('/'),
      change,
      mode: exists(file) ? statSync(file).mode : null,
      before: before === null ? null : digest(before),
      after: after === null ? null : digest(after),
    };
  });
  const { form, from, to } = rewrite;
  return saveEntry(root, { version: 2, name, form, from, to, state: 'intent', call: call ?? name, files }, 'intent');
}

/** Takes away folders of entries that were never finished: nothing was written for them. */
function discardBegun(root: string): void {
  for (const name of readEntries(root).begun) rmSync(folderOf(root, name), { recursive: true, force: true });
}
