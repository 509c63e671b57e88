import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { existsSync } from 'node:fs';
import { surveyJson, surveyText } from '../../report/survey-report.js';
import { surveyTree, type SurveyResult } from '../../survey/tree.js';
import { readSettings, settingsFor } from '../files.js';
import { exit, jsonText, outputFor, UsageTrouble, type CommonOptions, type ExitCode } from '../output.js';
import { progressBar } from '../progress-bar.js';
import { version } from '../version.js';

export interface SurveyOptions extends CommonOptions {
  path?: string[] | undefined;
  cache: boolean;
  failOn?: string | undefined;
  includeTests?: boolean | undefined;
}

/** Lists the forms below some paths. */
export async function survey(options: SurveyOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const named = options.path?.length ? options.path : ['.'];
  const paths = named.map((name) => path.resolve(name));
  for (const [index, place] of paths.entries()) {
    if (!existsSync(place))
      throw new UsageTrouble(
        `cannot survey ${named[index] ?? place}: there is no such file or folder`,
        'check the path',
      );
  }
  const first = paths[0] ?? output.cwd;
  const folder = existsSync(path.join(first, '.')) ? first : path.dirname(first);
  const loaded = await settingsFor(folder, options.config);
  const worker = fileURLToPath(new URL('./survey-worker.js', import.meta.url));
  const bar = output.shows ? await progressBar('reading', 'files') : undefined;
  const result = await surveyTree({
    root: paths.length === 1 ? folder : output.cwd,
    paths,
    include: loaded.settings.include,
    exclude: loaded.settings.exclude ?? [],
    includeTests: options.includeTests ?? false,
    settings: { ...readSettings(loaded), findings: loaded.settings.findings ?? {} },
    cache: options.cache,
    version,
    worker: existsSync(worker) ? worker : undefined,
    ...(bar ? { onProgress: bar.show } : {}),
  });
  bar?.end();
  output.give(
    options.format === 'json'
      ? jsonText(surveyJson(result, output.cwd))
      : surveyText(result, output.cwd, { ...output, verbose: options.verbose }),
  );
  return answers(result, options.failOn) ? exit.no : exit.done;
}

const levels = ['note', 'warning', 'error'];

/** Whether a finding is as grave as what was asked for. */
function answers({ forms }: SurveyResult, failOn: string | undefined): boolean {
  if (failOn === undefined) return false;
  return forms.some(({ findings }) => findings.some(({ level }) => levels.indexOf(level) >= levels.indexOf(failOn)));
}
