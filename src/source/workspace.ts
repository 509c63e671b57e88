import { readFileSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';

/** What reading a file gave: its text, or why it could not be read, in words a person understands. */
export type ReadResult = { ok: true; text: string } | { ok: false; reason: string };

/**
 * The files the core may see. Paths are absolute.
 * The disk is one workspace; texts held in memory laid over it are another.
 */
export interface Workspace {
  read(file: string): ReadResult;
  exists(file: string): boolean;
  /** Names of the entries of a folder; empty where the folder cannot be read. */
  list(folder: string): string[];
  /** Whether templates that stand in scripts are given without the escapes of their literal. */
  hasPlainTemplates?: boolean;
}

/** Files that hold more bytes than this are not read: nobody writes such by hand. */
const largestRead = 2_000_000;

/** Names the trouble of a file system call the way a person would. */
export function reasonOf(error: unknown): string {
  const code = error instanceof Error && 'code' in error ? String(error.code) : '';
  switch (code) {
    case 'ENOENT':
      return 'there is no such file';
    case 'EACCES':
    case 'EPERM':
      return 'permission denied';
    case 'EISDIR':
      return 'it is a folder, not a file';
    case 'ENOTDIR':
      return 'a part of its path is not a folder';
    default:
      return error instanceof Error ? error.message : String(error);
  }
}

function isFile(file: string): boolean {
  try {
    return statSync(file).isFile();
  } catch {
    return false;
  }
}

/** The files on this machine's disk. */
export const diskWorkspace: Workspace = {
  read(file) {
    try {
      const found = statSync(file);
      // a pipe would be waited for without an end
      if (!found.isFile() && !found.isDirectory()) return { ok: false, reason: 'it is no plain file' };
      if (found.isFile() && found.size > largestRead)
        return {
          ok: false,
          reason: `it holds ${(found.size / 1e6).toFixed(1)} MB; files above ${largestRead / 1e6} MB are not read`,
        };
      const bytes = readFileSync(file);
      const text = bytes.toString('utf8');
      if (text.includes('\uFFFD') && !Buffer.from(text).equals(bytes))
        return { ok: false, reason: 'it is not UTF-8 text' };
      return { ok: true, text };
    } catch (error) {
      return { ok: false, reason: reasonOf(error) };
    }
  },
  exists: isFile,
  list(folder) {
    try {
      return readdirSync(folder);
    } catch {
      return [];
    }
  },
};

/**
 * A workspace in which some files have another text than below.
 * @param below the workspace that answers for every other file
 * @param texts absolute path to text; null means the file is gone
 */
export function overlaid(below: Workspace, texts: ReadonlyMap<string, string | null>): Workspace {
  return {
    ...(below.hasPlainTemplates && { hasPlainTemplates: true }),
    read(file) {
      const text = texts.get(file);
      if (text === null) return { ok: false, reason: 'there is no such file' };
      return text === undefined ? below.read(file) : { ok: true, text };
    },
    exists(file) {
      const text = texts.get(file);
      return text === undefined ? below.exists(file) : text !== null;
    },
    list(folder) {
      const names = new Set(below.list(folder));
      for (const [file, text] of texts) {
        if (path.dirname(file) !== folder) continue;
        if (text === null) names.delete(path.basename(file));
        else names.add(path.basename(file));
      }
      return [...names];
    },
  };
}

/**
 * The nearest folder at or above a place that holds one of the named entries.
 * @returns its absolute path, or undefined at the top of the disk
 */
export function nearestWith(workspace: Workspace, from: string, names: readonly string[]): string | undefined {
  for (let folder = from; ; folder = path.dirname(folder)) {
    const entries = workspace.list(folder);
    if (names.some((name) => entries.includes(name))) return folder;
    if (path.dirname(folder) === folder) return undefined;
  }
}
