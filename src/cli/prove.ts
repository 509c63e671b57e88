import os from 'node:os';
import path from 'node:path';
import type { ProofLevel } from '../proof/proof.js';
import { proverFor, type Proven, type Prover, type ToProve } from '../proof/prove.js';
import type { Rewrite } from '../rewrite/results.js';
import { diskWorkspace } from '../source/workspace.js';
import { endBuilds } from '../trial/bundle.js';
import { frameworkOf } from '../trial/trial.js';
import type { Output } from './output.js';
import { startPlayer, trialOfTexts, type PlayOptions } from './play.js';
import { progressBar } from './progress-bar.js';

/** Forms that are played at one time at most: each takes a process of its own. */
const mostAtOnce = 4;

/**
 * Proves rewrites that are written together, with progress on stderr where there are several; one compiler and
 * one build serve all of them. A rewrite is proven on top of those before it, whose files it may need.
 */
export async function proveAll(
  rewrites: readonly { name: string; rewrite: Rewrite }[],
  level: ProofLevel,
  options: PlayOptions,
  output: Output,
): Promise<Proven[]> {
  const prover = proverFor(level);
  const written = new Map<string, string | null>();
  const waiting = rewrites.map(({ name, rewrite }): ToProve => {
    const file = path.resolve(name);
    const read = diskWorkspace.read(file);
    for (const change of rewrite.files) written.set(change.file, change.after);
    const after = new Map(written);
    return {
      file,
      framework: frameworkOf(file, read.ok ? read.text : ''),
      rewrite,
      after,
      play: () => trialOfTexts(file, after, { ...options, form: options.form ?? rewrite.form }, startPlayer()),
    };
  });
  const bar = rewrites.length > 1 && output.shows ? await progressBar('proving', 'forms') : undefined;
  bar?.show(0, rewrites.length);
  try {
    return await allProven(prover, waiting, (done) => bar?.show(done, rewrites.length));
  } finally {
    bar?.end();
    await endBuilds();
  }
}

/** Proves several at one time; answers come in the order of what was asked. */
async function allProven(prover: Prover, waiting: readonly ToProve[], tell: (done: number) => void): Promise<Proven[]> {
  const proven: Proven[] = [];
  let next = 0;
  let done = 0;
  const work = async (): Promise<void> => {
    for (let one = waiting[next]; one; one = waiting[next]) {
      const index = next;
      next += 1;
      proven[index] = await prover.prove(one);
      done += 1;
      tell(done);
    }
  };
  const workers = Math.min(waiting.length, os.availableParallelism(), mostAtOnce);
  await Promise.all(Array.from({ length: workers }, work));
  return proven;
}
