import path from 'node:path';
import type { ProofLevel } from '../proof/proof.js';
import { proverFor, type Proven } from '../proof/prove.js';
import type { Rewrite } from '../rewrite/results.js';
import { diskWorkspace } from '../source/workspace.js';
import { frameworkOf } from '../trial/trial.js';
import type { Output } from './output.js';
import { startPlayer, trialOfRewrite, type PlayOptions } from './play.js';

/** Proves rewrites, with progress on stderr where there are several; one compiler serves all of them. */
export async function proveAll(
  rewrites: readonly { name: string; rewrite: Rewrite }[],
  level: ProofLevel,
  options: PlayOptions,
  output: Output,
): Promise<Proven[]> {
  const prover = proverFor(level);
  const proven: Proven[] = [];
  for (const [index, { name, rewrite }] of rewrites.entries()) {
    if (rewrites.length > 1) output.progress(`proving ${index + 1} of ${rewrites.length}: ${name}`);
    const file = path.resolve(name);
    const read = diskWorkspace.read(file);
    proven.push(
      await prover.prove({
        file,
        framework: frameworkOf(file, read.ok ? read.text : ''),
        rewrite,
        play: () => trialOfRewrite(file, rewrite, options, startPlayer()),
      }),
    );
  }
  return proven;
}
