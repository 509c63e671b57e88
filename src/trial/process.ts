import { spawn } from 'node:child_process';
import type { PlayReply, PlayRequest } from './trace.js';

export type ProcessResult = { ok: true; reply: PlayReply } | { ok: false; version: string; reason: string };

/** Megabytes of memory that a played page may take. */
const mostMemory = 768;

/** A process that waits for forms to play: it starts early, so that it is ready when both versions are built. */
export interface Player {
  /** Plays one request; the process ends with it. */
  play(request: PlayRequest): Promise<ProcessResult>;
  /** Ends the process where nothing is to be played. */
  stop(): void;
}

/**
 * Starts a process that plays forms: it cannot write files or start programs, its network is closed,
 * and it ends when its time is up.
 * @param program absolute path of the built player
 * @param seconds real time after which playing is stopped
 */
export function openPlayer(program: string, seconds: number): Player {
  const permission = Number(process.versions.node.split('.')[0]) >= 24 ? '--permission' : '--experimental-permission';
  const child = spawn(
    process.execPath,
    ['--no-warnings', permission, '--allow-fs-read=*', `--max-old-space-size=${mostMemory}`, program],
    {
      stdio: ['pipe', 'pipe', 'pipe'],
      env: { PATH: process.env['PATH'] ?? '', TZ: process.env['TZ'] ?? 'UTC' },
    },
  );
  let out = '';
  let errors = '';
  child.stdout.setEncoding('utf8').on('data', (text: string) => (out += text));
  child.stderr.setEncoding('utf8').on('data', (text: string) => (errors += text));
  child.stdin.on('error', () => undefined);
  const closed = new Promise<void>((resolve) => child.on('close', () => resolve()));
  return {
    stop: () => void child.kill('SIGKILL'),
    async play(request) {
      let timedOut = false;
      const timer = setTimeout(() => {
        timedOut = true;
        child.kill('SIGKILL');
      }, seconds * 1000);
      child.stdin.end(JSON.stringify(request));
      await closed;
      clearTimeout(timer);
      return timedOut
        ? failed(errors, `it did not come to rest within ${seconds} seconds: it renders or computes without an end`)
        : answerFrom(out, errors);
    },
  };
}

function failed(errors: string, reason: string): ProcessResult {
  return { ok: false, version: /playing after/.test(errors) ? 'after' : 'before', reason };
}

function answerFrom(out: string, errors: string): ProcessResult {
  try {
    return { ok: true, reply: JSON.parse(out) as PlayReply };
  } catch {
    if (/heap out of memory/i.test(errors)) return failed(errors, `it took more than ${mostMemory} MB of memory`);
    const lines = errors.trim().split('\n');
    const last = lines.find((line) => /[Ee]rror/.test(line)) ?? lines.at(-1) ?? '';
    return failed(errors, `the process that played it ended early: ${last.trim()}`);
  }
}
