import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { reasonOf } from '../source/workspace.js';
import { folderName, problem, type JournalProblem } from './entries.js';

/** Tries to get the journal for oneself, a tenth of a second each. */
const tries = 100;

function wait(milliseconds: number): void {
  Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, milliseconds);
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error instanceof Error && 'code' in error && error.code === 'EPERM';
  }
}

/**
 * Does something while nobody else writes to the same journal: whoever comes second waits, and is refused in the end.
 * A lock whose owner is gone is taken over.
 */
export function whileLocked<Result>(root: string, work: () => Result): Result | JournalProblem {
  const lock = path.join(root, folderName, 'lock');
  try {
    mkdirSync(path.dirname(lock), { recursive: true });
    writeFileSync(path.join(root, folderName, '.gitignore'), '*\n');
  } catch (error) {
    return cannotWrite(root, error);
  }
  for (let left = tries; ; left--) {
    try {
      writeFileSync(lock, String(process.pid), { flag: 'wx' });
      break;
    } catch (error) {
      if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) return cannotWrite(root, error);
    }
    const owner = ownerOf(lock);
    if (owner !== undefined && !isAlive(owner)) takeOver(lock);
    else if (left <= 0)
      return problem(
        `another lively-graft is writing in ${root}`,
        `wait until it ends; nothing was written. If none runs, remove ${lock}`,
      );
    else wait(100);
  }
  try {
    return work();
  } finally {
    rmSync(lock, { force: true });
  }
}

function cannotWrite(root: string, error: unknown): JournalProblem {
  return problem(
    `cannot write the journal in ${path.join(root, folderName)}: ${reasonOf(error)}`,
    'check the folder, its permissions and the space on the disk; nothing was written',
  );
}

/** The process that holds a lock; undefined where that cannot be told yet. */
function ownerOf(lock: string): number | undefined {
  try {
    const pid = Number(readFileSync(lock, 'utf8'));
    return Number.isInteger(pid) && pid > 0 ? pid : undefined;
  } catch {
    return undefined;
  }
}

/** Takes away the lock of a process that is gone; of several that try one succeeds. */
function takeOver(lock: string): void {
  const aside = `${lock}.${process.pid}`;
  try {
    renameSync(lock, aside);
    rmSync(aside, { force: true });
  } catch {
    // somebody else was faster
  }
}
