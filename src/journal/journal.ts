import { createHash } from 'node:crypto';
import {
  accessSync,
  chmodSync,
  constants,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { reasonOf } from '../source/workspace.js';

/** A file of an entry. Paths are relative to the project's root, with forward slashes. */
interface EntryFile {
  file: string;
  change: 'edit' | 'create' | 'delete';
  /** File mode before, as a number; null where there was no file. */
  mode: number | null;
  /** SHA-256 of the file after the change; null where it was taken away. */
  after: string | null;
}

/** One rewrite as the journal remembers it. */
export interface JournalEntry {
  version: 1;
  name: string;
  form: string;
  from: string;
  to: string;
  undone: boolean;
  files: EntryFile[];
}

/** A change to write: absolute path and whole texts. */
export interface JournalChange {
  file: string;
  change: 'edit' | 'create' | 'delete';
  before: string | null;
  after: string | null;
}

/** Trouble that a person can mend; nothing stays half done. */
export interface JournalProblem {
  ok: false;
  message: string;
  next: string;
}

const folderName = '.lively-graft';

function digest(bytes: Buffer | string): string {
  return createHash('sha256').update(bytes).digest('hex');
}

function problem(message: string, next: string): JournalProblem {
  return { ok: false, message, next };
}

/** Every entry of a project, oldest first. Entries that cannot be read are left out. */
export function listEntries(root: string): JournalEntry[] {
  let names: string[];
  try {
    names = readdirSync(path.join(root, folderName)).sort();
  } catch {
    return [];
  }
  return names.flatMap((name) => {
    try {
      return [JSON.parse(readFileSync(path.join(root, folderName, name, 'entry.json'), 'utf8')) as JournalEntry];
    } catch {
      return [];
    }
  });
}

function newName(root: string, form: string, to: string): string {
  const numbers = listEntries(root)
    .map(({ name }) => Number.parseInt(name, 10))
    .filter((number) => !Number.isNaN(number));
  const next = Math.max(0, ...numbers) + 1;
  return `${String(next).padStart(4, '0')}-${form.replace(/[^\w-]+/g, '-')}-${to}`;
}

function writable(change: JournalChange): string | undefined {
  try {
    accessSync(change.change === 'create' ? nearestFolder(path.dirname(change.file)) : change.file, constants.W_OK);
    if (change.change !== 'create') {
      const now = readFileSync(change.file, 'utf8');
      if (now !== change.before) return 'it changed while the rewrite was made';
    }
    return undefined;
  } catch (error) {
    return reasonOf(error);
  }
}

function nearestFolder(folder: string): string {
  try {
    statSync(folder);
    return folder;
  } catch {
    return path.dirname(folder) === folder ? folder : nearestFolder(path.dirname(folder));
  }
}

function put(file: string, text: string | Buffer | null, mode: number | null): void {
  if (text === null) {
    rmSync(file, { force: true });
    return;
  }
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileAtomic.sync(file, text);
  if (mode !== null) chmodSync(file, mode & 0o7777);
}

/**
 * Writes every change of a rewrite or none, and remembers how to take it back.
 * @param root absolute path of the project's root; the journal lives in it
 * @returns the entry's name
 */
export function record(
  root: string,
  rewrite: { form: string; from: string; to: string; files: readonly JournalChange[] },
): { ok: true; entry: string } | JournalProblem {
  for (const change of rewrite.files) {
    const trouble = writable(change);
    if (trouble !== undefined)
      return problem(
        `cannot write ${change.file}: ${trouble}`,
        'check the file and its permissions, then run again; nothing was written',
      );
  }
  const name = newName(root, rewrite.form, rewrite.to);
  const folder = path.join(root, folderName, name);
  const modes = rewrite.files.map(({ file, before }) => (before === null ? null : statSync(file).mode));
  const entry: JournalEntry = {
    version: 1,
    name,
    form: rewrite.form,
    from: rewrite.from,
    to: rewrite.to,
    undone: false,
    files: rewrite.files.map(({ file, change, after }, index) => ({
      file: path.relative(root, file).split(path.sep).join('/'),
      change,
      mode: modes[index] ?? null,
      after: after === null ? null : digest(after),
    })),
  };
  try {
    mkdirSync(folder, { recursive: true });
    writeFileSync(path.join(root, folderName, '.gitignore'), '*\n');
    for (const [index, { file, before }] of rewrite.files.entries()) {
      if (before !== null) writeFileSync(path.join(folder, `${index}.before`), readFileSync(file));
    }
    writeFileAtomic.sync(path.join(folder, 'entry.json'), `${JSON.stringify(entry, null, 2)}\n`);
  } catch (error) {
    rmSync(folder, { recursive: true, force: true });
    return problem(
      `cannot write the journal in ${path.join(root, folderName)}: ${reasonOf(error)}`,
      'check the folder and its permissions; nothing was written',
    );
  }
  const done: number[] = [];
  try {
    for (const [index, change] of rewrite.files.entries()) {
      done.push(index);
      put(change.file, change.after, modes[index] ?? null);
    }
  } catch (error) {
    for (const index of done) {
      const change = rewrite.files[index];
      if (change)
        put(
          change.file,
          change.before === null ? null : readFileSync(path.join(folder, `${index}.before`)),
          modes[index] ?? null,
        );
    }
    rmSync(folder, { recursive: true, force: true });
    return problem(
      `cannot write: ${reasonOf(error)}`,
      'check the files and their permissions; everything is as it was',
    );
  }
  return { ok: true, entry: name };
}

function current(file: string): string | null {
  try {
    return digest(readFileSync(file));
  } catch {
    return null;
  }
}

/**
 * Puts the files of an entry back as they were, byte for byte.
 * @param name an entry's name or its number; the newest one that is not undone when left out
 * @param overwrite take changes made since into the bargain
 */
export function undo(
  root: string,
  name: string | undefined,
  overwrite: boolean,
): { ok: true; entry: JournalEntry } | JournalProblem {
  const entries = listEntries(root);
  const wanted = entries
    .filter((entry) =>
      name === undefined ? !entry.undone : entry.name === name || Number.parseInt(entry.name, 10) === Number(name),
    )
    .at(-1);
  if (!wanted) {
    return name === undefined
      ? problem('there is nothing to undo', '`lively-graft undo --list` shows the journal')
      : problem(`the journal has no entry ${name}`, '`lively-graft undo --list` shows the entries');
  }
  if (wanted.undone) return problem(`${wanted.name} is undone already`, '`lively-graft undo --list` shows the entries');
  const changed = wanted.files
    .filter(({ file, after }) => current(path.join(root, file)) !== after)
    .map(({ file }) => file);
  if (changed.length && !overwrite) {
    return problem(
      `${changed.join(', ')} changed since ${wanted.name}`,
      'take your changes elsewhere, or run undo with --overwrite to lose them',
    );
  }
  const folder = path.join(root, folderName, wanted.name);
  try {
    const before = wanted.files.map(({ change }, index) =>
      change === 'create' ? null : readFileSync(path.join(folder, `${index}.before`)),
    );
    for (const [index, { file, mode }] of wanted.files.entries())
      put(path.join(root, file), before[index] ?? null, mode);
    writeFileAtomic.sync(path.join(folder, 'entry.json'), `${JSON.stringify({ ...wanted, undone: true }, null, 2)}\n`);
  } catch (error) {
    return problem(
      `cannot put the files of ${wanted.name} back: ${reasonOf(error)}`,
      `their old texts are in ${folder}`,
    );
  }
  return { ok: true, entry: wanted };
}
