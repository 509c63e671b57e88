import path from 'node:path';
import { trialJson, trialText } from '../../report/trial-report.js';
import { diskWorkspace } from '../../source/workspace.js';
import type { Player } from '../../trial/process.js';
import type { TrialResult } from '../../trial/trial.js';
import { exit, jsonText, outputFor, UsageTrouble, type ExitCode } from '../output.js';
import { endBuilds } from '../../trial/bundle.js';
import { playedFile, playVersions, startPlayer, trialOfRewrite, type PlayOptions } from '../play.js';
import { rewriteOf, type RewriteOptions } from './rewrite.js';

export interface TrialOptions extends RewriteOptions, PlayOptions {
  file: string[];
  printSteps: boolean;
}

/** Plays a form before and after a rewrite, or two files as they are, and says whether a person would notice. */
export async function trial(options: TrialOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const [first, second] = options.file;
  if (first === undefined) throw new UsageTrouble('no file is named', 'name a form’s file and --to, or two files');
  const player = startPlayer();
  const { name, result } = await playedBy(player, first, second, options)
    .catch((error: unknown) => {
      player.stop();
      throw error;
    })
    .finally(endBuilds);
  if (result.kind === 'unplayable') throw new UsageTrouble(`this form cannot be played; ${result.reason}`, result.next);
  const { comparison } = result;
  if (options.printSteps) output.give(jsonText(comparison.steps.slice(1).map(({ step }) => step)));
  else
    output.give(
      options.format === 'json'
        ? jsonText(trialJson(comparison))
        : trialText(name, comparison, output.paint, options.verbose),
    );
  return comparison.same ? exit.done : exit.no;
}

async function playedBy(
  player: Player,
  first: string,
  second: string | undefined,
  options: TrialOptions,
): Promise<{ name: string; result: TrialResult }> {
  if (second !== undefined) {
    const [before, after] = [first, second].map((name) => ({ file: playedFile(name), workspace: diskWorkspace }));
    if (!before || !after) throw new UsageTrouble('two files are needed', 'name both');
    return { name: `${first} and ${second}`, result: await playVersions(before, after, options, player) };
  }
  const outcome = await rewriteOf(first, options);
  if (outcome.kind === 'same')
    throw new UsageTrouble(
      `${outcome.form} in ${first} follows ${outcome.approach} already`,
      'choose another approach, or name two files',
    );
  const byHand = outcome.rewrite.ledger.find(({ entry }) => entry === 'by-hand');
  if (byHand)
    throw new UsageTrouble(
      `the rewrite would leave line ${byHand.line} by hand: ${byHand.why}`,
      '`lively-graft preview` shows every such place',
    );
  return {
    name: `${outcome.rewrite.form}, ${outcome.rewrite.route.join(' → ')}`,
    result: await trialOfRewrite(path.resolve(first), outcome.rewrite, options, player),
  };
}
