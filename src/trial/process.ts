import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { readFileSync, realpathSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import type { PlayReply, PlayRequest } from './trace.js';

export type ProcessResult = { ok: true; reply: PlayReply } | { ok: false; version: string; reason: string };

/** Megabytes that a played page may take, buffers included. */
const mostMemory = 1024;

/** A process that waits for forms to play: it starts early, so that it is ready when both versions are built. */
export interface Player {
  /** Plays one request; the process ends with it. */
  play(request: PlayRequest): Promise<ProcessResult>;
  /** Ends the process where nothing is to be played. */
  stop(): void;
}

const running = new Set<ChildProcess>();
let watched = false;

/** However this process ends, no player stays behind. */
function endTogether(): void {
  if (watched) return;
  watched = true;
  const stopAll = (): void => {
    for (const child of running) child.kill('SIGKILL');
  };
  process.on('exit', stopAll);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.once(signal, () => {
      stopAll();
      process.kill(process.pid, signal);
    });
}

/** Folders that the player reads: its own, and those of the packages it loads. */
function readable(program: string): string[] {
  const own = path.dirname(realpathSync(program));
  const packages = createRequire(program).resolve('jsdom');
  const at = packages.indexOf(`${path.sep}node_modules${path.sep}`);
  return [own, packages.slice(0, at + `${path.sep}node_modules`.length)];
}

/**
 * Starts a process that plays forms. It has an empty environment, reads only the tool's own files, writes no files,
 * starts no programs, makes no code out of texts outside of the page, has no network, and ends when its time is up.
 * @param program absolute path of the built player
 * @param seconds processor time after which playing is stopped; a machine that is busy with other work changes nothing
 */
export function openPlayer(program: string, seconds: number): Player {
  endTogether();
  const permission = Number(process.versions.node.split('.')[0]) >= 24 ? '--permission' : '--experimental-permission';
  const flags = [
    '--no-warnings',
    permission,
    ...readable(program).map((folder) => `--allow-fs-read=${folder}${path.sep}*`),
    `--max-old-space-size=${mostMemory}`,
    program,
  ];
  const limited = process.platform !== 'win32';
  const [command, parameters] = limited
    ? ['/bin/sh', ['-c', `ulimit -t ${Math.ceil(seconds)}; exec "$@"`, 'player', process.execPath, ...flags]]
    : [process.execPath, flags];
  // the answer comes over a pipe of its own; what a page prints goes nowhere near it
  const child = spawn(command, parameters as string[], { stdio: ['pipe', 'ignore', 'pipe', 'pipe'], env: {} });
  running.add(child);
  const secret = randomBytes(16).toString('hex');
  let answer = '';
  let errors = '';
  const [input, , complaints, replies] = child.stdio;
  if (replies && 'on' in replies) replies.on('data', (bytes: Buffer) => (answer += bytes.toString('utf8')));
  complaints?.on('data', (bytes: Buffer) => (errors = (errors + bytes.toString('utf8')).slice(-20_000)));
  input?.on('error', () => undefined);
  const closed = new Promise<NodeJS.Signals | null>((resolve) =>
    child.on('close', (_, signal) => {
      running.delete(child);
      resolve(signal);
    }),
  );
  return {
    stop: () => void child.kill('SIGKILL'),
    async play(request) {
      let stopped: 'memory' | 'time' | undefined;
      const end = (why: typeof stopped): void => {
        stopped ??= why;
        child.kill('SIGKILL');
      };
      const memory = setInterval(() => {
        if (residentMegabytes(child.pid) > mostMemory * 1.5) end('memory');
      }, 250);
      // it waits for nothing outside of itself, so that a player that rests for so long hangs
      const hung = setTimeout(() => end('time'), seconds * 20_000);
      // standard input stays open: when it closes, the tool is gone and the player ends
      input?.write(`${JSON.stringify({ secret, request })}\n`);
      const signal = await closed;
      clearInterval(memory);
      clearTimeout(hung);
      if (stopped === 'memory' || /heap out of memory/i.test(errors))
        return failed(errors, `it took more than ${mostMemory} MB of memory`);
      const reply = replyFrom(answer, secret);
      if (reply) return { ok: true, reply };
      if (stopped === 'time' || signal === 'SIGXCPU' || signal === 'SIGKILL')
        return failed(
          errors,
          `it did not come to rest within ${seconds} seconds of processor time: it renders or computes without an end`,
        );
      const lines = errors.trim().split('\n');
      const last = lines.find((line) => /[Ee]rror/.test(line)) ?? lines.at(-1) ?? '';
      return failed(errors, `the process that played it ended early: ${last.trim()}`);
    },
  };
}

/** Memory that a process holds in all; nought where the system does not tell. */
function residentMegabytes(pid: number | undefined): number {
  try {
    const kilobytes = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid ?? 0}/status`, 'utf8'))?.[1];
    return Number(kilobytes ?? 0) / 1024;
  } catch {
    return 0;
  }
}

function failed(errors: string, reason: string): ProcessResult {
  return { ok: false, version: /playing after/.test(errors) ? 'after' : 'before', reason };
}

function replyFrom(answer: string, secret: string): PlayReply | undefined {
  try {
    const told = JSON.parse(answer) as { secret?: string; reply?: PlayReply };
    return told.secret === secret ? told.reply : undefined;
  } catch {
    return undefined;
  }
}
