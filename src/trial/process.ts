import { spawn } from 'node:child_process';
import type { PlayReply, PlayRequest } from './trace.js';

export type ProcessResult = { ok: true; reply: PlayReply } | { ok: false; version: string; reason: string };

/** Milliseconds of real time after which a trial is stopped. */
const mostTime = 60_000;
/** Megabytes of memory that a played page may take. */
const mostMemory = 768;

/**
 * Plays a request in a process of its own: it cannot write files or start programs, its network is closed,
 * and it ends after a minute at the latest.
 * @param player absolute path of the built player
 */
export function playInProcess(player: string, request: PlayRequest): Promise<ProcessResult> {
  return new Promise((resolve) => {
    const permission = Number(process.versions.node.split('.')[0]) >= 24 ? '--permission' : '--experimental-permission';
    const child = spawn(
      process.execPath,
      ['--no-warnings', permission, '--allow-fs-read=*', `--max-old-space-size=${mostMemory}`, player],
      {
        stdio: ['pipe', 'pipe', 'pipe'],
        env: { PATH: process.env['PATH'] ?? '', TZ: process.env['TZ'] ?? 'UTC' },
      },
    );
    let out = '';
    let errors = '';
    let timedOut = false;
    const timer = setTimeout(() => {
      timedOut = true;
      child.kill('SIGKILL');
    }, mostTime);
    child.stdout.setEncoding('utf8').on('data', (text: string) => (out += text));
    child.stderr.setEncoding('utf8').on('data', (text: string) => (errors += text));
    child.stdin.on('error', () => undefined);
    child.on('close', () => {
      clearTimeout(timer);
      const version = /playing after/.test(errors) ? 'after' : 'before';
      if (timedOut)
        return resolve({
          ok: false,
          version,
          reason: `it did not come to rest within ${mostTime / 1000} seconds: it renders or computes without an end`,
        });
      try {
        resolve({ ok: true, reply: JSON.parse(out) as PlayReply });
      } catch {
        const memory = /heap out of memory/i.test(errors);
        const last =
          errors.split('\n').filter((line) => /Error|error/.test(line))[0] ?? errors.trim().split('\n').at(-1) ?? '';
        resolve({
          ok: false,
          version,
          reason: memory
            ? `it took more than ${mostMemory} MB of memory`
            : `the process that played it ended early: ${last.trim()}`,
        });
      }
      return undefined;
    });
    child.stdin.end(JSON.stringify(request));
  });
}
