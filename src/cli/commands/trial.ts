import { statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { counted } from '../../report/paint.js';
import { trialJson, trialText } from '../../report/trial-report.js';
import type { Rewrite } from '../../rewrite/rewrite.js';
import { diskWorkspace, overlaid, type Workspace } from '../../source/workspace.js';
import type { Step } from '../../trial/steps.js';
import { runTrial, type TrialResult } from '../../trial/trial.js';
import { readSettings, settingsFor } from '../files.js';
import { exit, jsonText, outputFor, UsageTrouble, type ExitCode } from '../output.js';
import { givenFrom, stepsFrom } from '../trial-input.js';
import { rewriteOf, type RewriteOptions } from './rewrite.js';

export interface TrialOptions extends RewriteOptions {
  file: string[];
  steps?: string | undefined;
  printSteps: boolean;
  with?: string[] | undefined;
}

const player = fileURLToPath(new URL('./trial-player.js', import.meta.url));

/** A file to play: a file as named, or the file of a folder that corresponds to the other version's. */
function playedFile(name: string): string {
  const file = path.resolve(name);
  try {
    if (!statSync(file).isDirectory()) return file;
  } catch {
    throw new UsageTrouble(`cannot read ${name}: there is no such file`, 'check the path');
  }
  const forms = diskWorkspace.list(file).filter((entry) => /\.(tsx|jsx|vue)$|\.component\.ts$/.test(entry));
  const [only] = forms;
  if (forms.length !== 1 || only === undefined) throw new UsageTrouble(`${name} holds ${counted(forms.length, 'file')} that could be the form`, 'name the file');
  return path.join(file, only);
}

/** Plays a rewrite that is held in memory. */
export function trialOfRewrite(file: string, rewrite: Rewrite, options: Pick<TrialOptions, 'config' | 'form' | 'with' | 'steps'>): Promise<TrialResult> {
  const after = overlaid(diskWorkspace, new Map(rewrite.files.map((change) => [change.file, change.after])));
  return playVersions({ file, workspace: diskWorkspace }, { file, workspace: after }, { ...options, form: options.form ?? rewrite.form });
}

function playVersions(
  before: { file: string; workspace: Workspace },
  after: { file: string; workspace: Workspace },
  options: Pick<TrialOptions, 'config' | 'form' | 'with' | 'steps'>,
): Promise<TrialResult> {
  const { given, mount } = givenFrom(options.with ?? []);
  const steps: Step[] | undefined = options.steps === undefined ? undefined : stepsFrom(options.steps);
  const settings = readSettings(settingsFor(path.dirname(before.file), options.config));
  return runTrial({ before, after, form: options.form, steps, given, mount, player, settings });
}

/** Plays a form before and after a rewrite, or two files as they are, and says whether a person would notice. */
export async function trial(options: TrialOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const [first, second] = options.file;
  if (first === undefined) throw new UsageTrouble('no file is named', 'name a form’s file and --to, or two files');
  let name = second === undefined ? first : `${first} and ${second}`;
  let result: TrialResult;
  if (second !== undefined) {
    result = await playVersions({ file: playedFile(first), workspace: diskWorkspace }, { file: playedFile(second), workspace: diskWorkspace }, options);
  } else {
    const outcome = rewriteOf(first, options);
    if (outcome.kind === 'same') throw new UsageTrouble(`${outcome.form} in ${first} follows ${outcome.approach} already`, 'choose another approach, or name two files');
    const byHand = outcome.rewrite.ledger.find(({ entry }) => entry === 'by-hand');
    if (byHand) throw new UsageTrouble(`the rewrite would leave line ${byHand.line} by hand: ${byHand.why}`, '`lively-graft preview` shows every such place');
    name = `${outcome.rewrite.form}, ${outcome.rewrite.route.join(' → ')}`;
    result = await trialOfRewrite(path.resolve(first), outcome.rewrite, options);
  }
  if (result.kind === 'unplayable') throw new UsageTrouble(`this form cannot be played; ${result.reason}`, result.next);
  const { comparison } = result;
  if (options.printSteps) output.give(jsonText(comparison.steps.slice(1).map(({ step }) => step)));
  else output.give(options.format === 'json' ? jsonText(trialJson(comparison)) : trialText(name, comparison, output.paint, options.verbose));
  return comparison.same ? exit.done : exit.no;
}
