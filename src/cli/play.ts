import { statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { counted } from '../report/paint.js';
import type { Rewrite } from '../rewrite/results.js';
import { diskWorkspace, overlaid, type Workspace } from '../source/workspace.js';
import type { Step } from '../trial/steps.js';
import { openPlayer, type Player } from '../trial/process.js';
import { runTrial, type TrialResult } from '../trial/trial.js';
import { readSettings, settingsFor } from './files.js';
import { UsageTrouble } from './output.js';
import { givenFrom, stepsFrom } from './trial-input.js';

/** Options of commands that play forms. */
export interface PlayOptions {
  config?: string | undefined;
  form?: string | undefined;
  with?: string[] | undefined;
  steps?: string | undefined;
}

/** Seconds that a form is played at most; LIVELY_GRAFT_PLAY_SECONDS says another number. */
function playSeconds(): number {
  const asked = Number(process.env['LIVELY_GRAFT_PLAY_SECONDS']);
  return asked > 0 ? asked : 60;
}

/** Starts the process that plays; it gets ready while the versions are made. */
export function startPlayer(): Player {
  return openPlayer(fileURLToPath(new URL('./trial-player.js', import.meta.url)), playSeconds());
}

/** A file to play: a file as named, or the file of a folder that corresponds to the other version's. */
export function playedFile(name: string): string {
  const file = path.resolve(name);
  try {
    if (!statSync(file).isDirectory()) return file;
  } catch {
    throw new UsageTrouble(`cannot read ${name}: there is no such file`, 'check the path');
  }
  const forms = diskWorkspace.list(file).filter((entry) => /\.(tsx|jsx|vue)$|\.component\.ts$/.test(entry));
  const [only] = forms;
  if (forms.length !== 1 || only === undefined)
    throw new UsageTrouble(`${name} holds ${counted(forms.length, 'file')} that could be the form`, 'name the file');
  return path.join(file, only);
}

/** Plays a rewrite that is held in memory. */
export function trialOfRewrite(
  file: string,
  rewrite: Rewrite,
  options: PlayOptions,
  player: Player,
): Promise<TrialResult> {
  const texts = new Map(rewrite.files.map((change) => [change.file, change.after]));
  return trialOfTexts(file, texts, { ...options, form: options.form ?? rewrite.form }, player);
}

/** Plays a form as it is, and as it is with other texts of files; null where one is gone. */
export function trialOfTexts(
  file: string,
  texts: ReadonlyMap<string, string | null>,
  options: PlayOptions,
  player: Player,
): Promise<TrialResult> {
  const after = overlaid(diskWorkspace, texts);
  return playVersions({ file, workspace: diskWorkspace }, { file, workspace: after }, options, player);
}

/** Plays two versions with what the options give them. */
export async function playVersions(
  before: { file: string; workspace: Workspace },
  after: { file: string; workspace: Workspace },
  options: PlayOptions,
  player: Player,
): Promise<TrialResult> {
  const { given, mount } = await givenFrom(options.with ?? []);
  const steps: Step[] | undefined = options.steps === undefined ? undefined : await stepsFrom(options.steps);
  const settings = readSettings(await settingsFor(path.dirname(before.file), options.config));
  return runTrial({ before, after, form: options.form, steps, given, mount, player, settings });
}
