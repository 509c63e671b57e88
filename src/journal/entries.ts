import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, realpathSync, statSync } from 'node:fs';
import path from 'node:path';
import { reasonOf } from '../source/workspace.js';

/** A file of an entry. Paths are relative to the project's root, with forward slashes. */
export interface EntryFile {
  file: string;
  change: 'edit' | 'create' | 'delete';
  /** File mode before, as a number; null where there was no file. */
  mode: number | null;
  /** SHA-256 of the file before the change; null where there was none. */
  before: string | null;
  /** SHA-256 of the file after it; null where it was taken away. */
  after: string | null;
}

/**
 * What became of an entry. `intent`: its files may be half written; `done`; `undoing`: they may be half put back;
 * `undone`.
 */
export type EntryState = 'intent' | 'done' | 'undoing' | 'undone';

/** One rewrite as the journal remembers it. */
export interface JournalEntry {
  version: 2;
  name: string;
  form: string;
  from: string;
  to: string;
  state: EntryState;
  /** Rewrites of one call are written together or not at all: the name of the first of them. */
  call: string;
  files: EntryFile[];
}

/** A change to write: absolute path and whole texts. */
export interface JournalChange {
  file: string;
  change: 'edit' | 'create' | 'delete';
  before: string | null;
  after: string | null;
}

/** Trouble that a person can mend. */
export interface JournalProblem {
  ok: false;
  message: string;
  next: string;
}

/** An entry that cannot be relied on, and why. */
export interface DamagedEntry {
  name: string;
  why: string;
}

/** Name of the folder of a journal, in the project's root. */
export const folderName = '.lively-graft';

/** The folder of an entry. */
export function folderOf(root: string, name: string): string {
  return path.join(root, folderName, name);
}

/** SHA-256 of some bytes. */
export function digest(bytes: Buffer | string): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** SHA-256 of a file as it is now; null where there is none. */
export function digestOf(file: string): string | null {
  try {
    return digest(readFileSync(file));
  } catch {
    return null;
  }
}

/** Trouble in words, with what to do next. */
export function problem(message: string, next: string): JournalProblem {
  return { ok: false, message, next };
}

/** Every entry of a project, oldest first, and those that are damaged. */
export function readEntries(root: string): { entries: JournalEntry[]; damaged: DamagedEntry[]; begun: string[] } {
  const entries: JournalEntry[] = [];
  const damaged: DamagedEntry[] = [];
  // folders without an entry: nothing was written for them
  const begun: string[] = [];
  for (const name of namesIn(root)) {
    let text: string;
    try {
      text = readFileSync(path.join(folderOf(root, name), 'entry.json'), 'utf8');
    } catch (error) {
      if (error instanceof Error && 'code' in error && error.code === 'ENOENT') begun.push(name);
      else damaged.push({ name, why: `its entry.json cannot be read: ${reasonOf(error)}` });
      continue;
    }
    const entry = entryFrom(text);
    if (typeof entry === 'string') damaged.push({ name, why: entry });
    else if (entry.name !== name) damaged.push({ name, why: `it says that it is ${entry.name}` });
    else {
      const why = troubleOf(root, entry);
      if (why === undefined) entries.push(entry);
      else damaged.push({ name, why });
    }
  }
  return { entries, damaged, begun };
}

function namesIn(root: string): string[] {
  try {
    return readdirSync(path.join(root, folderName), { withFileTypes: true })
      .filter((entry) => entry.isDirectory() && /^\d{4,}-/.test(entry.name))
      .map(({ name }) => name)
      .sort((a, b) => Number.parseInt(a, 10) - Number.parseInt(b, 10));
  } catch {
    return [];
  }
}

function entryFrom(text: string): JournalEntry | string {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return 'its entry.json is no JSON';
  }
  if (!isRecord(value) || value['version'] !== 2) return 'its entry.json is none of this version';
  const { name, form, from, to, state, call, files } = value;
  const words = [name, form, from, to, call];
  const known = ['intent', 'done', 'undoing', 'undone'].includes(String(state));
  if (!words.every((word) => typeof word === 'string') || !known || !Array.isArray(files) || !files.every(isEntryFile))
    return 'its entry.json lacks what an entry says';
  return value as unknown as JournalEntry;
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null;
}

function isEntryFile(value: unknown): value is EntryFile {
  const isDigest = (one: unknown): boolean => one === null || (typeof one === 'string' && /^[0-9a-f]{64}$/.test(one));
  return (
    isRecord(value) &&
    typeof value['file'] === 'string' &&
    ['edit', 'create', 'delete'].includes(String(value['change'])) &&
    (value['mode'] === null || typeof value['mode'] === 'number') &&
    isDigest(value['before']) &&
    isDigest(value['after'])
  );
}

/** Why an entry cannot be relied on: a path that leads out of the project, a text that is missing or another one. */
function troubleOf(root: string, entry: JournalEntry): string | undefined {
  for (const [index, { file, before, after }] of entry.files.entries()) {
    if (!staysInside(root, file)) return `its file ${file} leads out of the project`;
    for (const [side, wanted] of [
      ['before', before],
      ['after', after],
    ] as const)
      if (wanted !== null && digestOf(path.join(folderOf(root, entry.name), `${index}.${side}`)) !== wanted)
        return `the text of ${file} ${side} the rewrite is missing or damaged`;
  }
  return undefined;
}

/** Whether a relative path stays inside of a project, links included. */
function staysInside(root: string, file: string): boolean {
  if (path.isAbsolute(file) || file.split('/').includes('..')) return false;
  let folder = path.dirname(path.join(root, file));
  for (; ; folder = path.dirname(folder)) {
    try {
      statSync(folder);
      break;
    } catch {
      if (path.dirname(folder) === folder) return false;
    }
  }
  const relative = path.relative(realpathSync(root), realpathSync(folder));
  return relative === '' || (!relative.startsWith('..') && !path.isAbsolute(relative));
}
