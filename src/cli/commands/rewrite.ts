import path from 'node:path';
import { record } from '../../journal/journal.js';
import { dependenciesText, rewriteJson, rewriteText, figuresText, ledgerText } from '../../report/rewrite-report.js';
import { counted } from '../../report/paint.js';
import { trialJson, trialText } from '../../report/trial-report.js';
import type { PlayOptions } from '../play.js';
import { allApproaches } from '../../rewrite/catalogue.js';
import { rewriteForm } from '../../rewrite/rewrite.js';
import { type Rewrite } from '../../rewrite/results.js';
import { diskWorkspace, overlaid } from '../../source/workspace.js';
import { projectRoot, readSettings, settingsFor, sourceFile } from '../files.js';
import {
  exit,
  jsonText,
  outputFor,
  ToolFault,
  UsageTrouble,
  type CommonOptions,
  type ExitCode,
  type Output,
} from '../output.js';

export interface RewriteOptions extends CommonOptions {
  to?: string | undefined;
  form?: string | undefined;
  acceptByHand: boolean;
  rules?: string | undefined;
  addDependency: boolean;
}

/** The approach asked for, from the command line or the settings. */
function target(options: RewriteOptions, preferred: string | undefined): string {
  const to = options.to ?? preferred;
  const ids = allApproaches().map(({ id }) => id);
  if (to === undefined)
    throw new UsageTrouble('no approach is given', 'say --to ID; `lively-graft approaches` lists the ids');
  if (!ids.includes(to)) {
    const near = ids.find((id) => id.startsWith(to.slice(0, 3)));
    throw new UsageTrouble(
      `there is no approach ${to}`,
      `${near === undefined ? '' : `did you mean ${near}? `}\`lively-graft approaches\` lists the ids`,
    );
  }
  return to;
}

/** Every way of stating rules that the design knows. */
const waysOfRules = ['native', 'code', 'json-schema', 'yup', 'zod', 'angular-validators', 'signal-rules'];

/** The way of stating rules that was asked for, where the target allows it. */
function wayOfRules(asked: string | undefined, preferred: string | undefined, to: string): string | undefined {
  const allowed = allApproaches().find(({ id }) => id === to)?.rules ?? [];
  if (asked === undefined) return preferred !== undefined && allowed.includes(preferred) ? preferred : undefined;
  if (!waysOfRules.includes(asked))
    throw new UsageTrouble(`there is no way of stating rules ${asked}`, `say one of ${allowed.join(', ')}`);
  if (!allowed.includes(asked))
    throw new UsageTrouble(
      `${to} does not state rules as ${asked}`,
      `say --rules ${allowed.join(' or ')}, or leave it out`,
    );
  return asked;
}

type Outcome = { kind: 'rewrite'; rewrite: Rewrite } | { kind: 'same'; form: string; approach: string };

/** Rewrites a form in memory, or says why that cannot be. */
export async function rewriteOf(name: string, options: RewriteOptions, workspace = diskWorkspace): Promise<Outcome> {
  const file = sourceFile(name);
  const loaded = await settingsFor(path.dirname(file), options.config);
  const to = target(options, loaded.settings.prefer?.approach);
  const result = await rewriteForm(
    {
      file,
      to,
      form: options.form,
      acceptByHand: options.acceptByHand,
      rules: wayOfRules(options.rules, loaded.settings.prefer?.rules, to),
      addDependency: options.addDependency,
    },
    workspace,
    readSettings(loaded),
  );
  if (result.kind === 'refusal') throw new UsageTrouble(result.message.replaceAll(`${file}`, name), result.next);
  if (result.kind === 'fault')
    throw new ToolFault(`the rewrite of ${name} failed its own checks: ${result.failed.join('; ')}`);
  return result;
}

function saySame(
  outcome: Extract<Outcome, { kind: 'same' }>,
  name: string,
  options: RewriteOptions,
  output: Output,
): void {
  const words = `${outcome.form} in ${name} follows ${outcome.approach} already; nothing changes`;
  if (options.format === 'json') {
    output.give(
      jsonText({
        version: 1,
        form: outcome.form,
        from: outcome.approach,
        to: outcome.approach,
        route: [outcome.approach],
        files: [],
        ledger: [],
        figures: null,
        dependencies: [],
        entry: null,
      }),
    );
  } else output.give(words);
}

/** Shows a rewrite and writes nothing. */
export async function preview(options: RewriteOptions & { file: string }): Promise<ExitCode> {
  const output = outputFor(options);
  const outcome = await rewriteOf(options.file, options);
  if (outcome.kind === 'same') throw sameTrouble(outcome, options.file);
  const { rewrite } = outcome;
  output.give(
    options.format === 'json'
      ? jsonText(rewriteJson(rewrite, output.cwd, null))
      : rewriteText(rewrite, output.cwd, output.paint, options.verbose),
  );
  if (options.format === 'text' && !options.verbose && rewrite.ledger.length)
    output.say('--verbose lists every entry of the ledger');
  return rewrite.ledger.some(({ entry }) => entry === 'by-hand') ? exit.no : exit.done;
}

function sameTrouble(outcome: Extract<Outcome, { kind: 'same' }>, name: string): UsageTrouble {
  return new UsageTrouble(
    `${outcome.form} in ${name} follows ${outcome.approach} already`,
    'choose another approach; `lively-graft approaches` lists them',
  );
}

export interface ApplyOptions extends RewriteOptions, PlayOptions {
  file: string[];
  trial: boolean;
}

/** Writes a rewrite to disk, in one step for each file named. */
export async function apply(options: ApplyOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const outcomes: { name: string; outcome: Outcome }[] = [];
  let workspace = diskWorkspace;
  for (const name of options.file) {
    const outcome = await rewriteOf(name, options, workspace);
    outcomes.push({ name, outcome });
    if (outcome.kind === 'rewrite')
      workspace = overlaid(workspace, new Map(outcome.rewrite.files.map((change) => [change.file, change.after])));
  }
  const open = outcomes.filter(
    ({ outcome }) => outcome.kind === 'rewrite' && outcome.rewrite.ledger.some(({ entry }) => entry === 'by-hand'),
  );
  if (open.length && !options.acceptByHand) {
    for (const { outcome } of open) {
      if (outcome.kind !== 'rewrite') continue;
      output.give(
        options.format === 'json'
          ? jsonText(rewriteJson(outcome.rewrite, output.cwd, null))
          : rewriteText(outcome.rewrite, output.cwd, output.paint, options.verbose),
      );
    }
    return exit.no;
  }
  if (options.trial && !(await allPlayTheSame(outcomes, options, output))) return exit.no;
  const results: object[] = [];
  for (const { name, outcome } of outcomes) {
    if (outcome.kind === 'same') {
      saySame(outcome, name, options, output);
      continue;
    }
    const { rewrite } = outcome;
    const done = record(projectRoot(path.resolve(name)), rewrite);
    if (!done.ok) throw new UsageTrouble(done.message, done.next);
    results.push(rewriteJson(rewrite, output.cwd, done.entry));
    if (options.format === 'text') output.give(appliedText(rewrite, done.entry, output, options.verbose));
  }
  if (options.format === 'json') for (const result of results) output.give(jsonText(result));
  return exit.done;
}

/** Plays every rewrite before anything is written. */
async function allPlayTheSame(
  outcomes: { name: string; outcome: Outcome }[],
  options: ApplyOptions,
  output: Output,
): Promise<boolean> {
  const { startPlayer, trialOfRewrite } = await import('../play.js');
  for (const { name, outcome } of outcomes) {
    if (outcome.kind === 'same') continue;
    const result = await trialOfRewrite(path.resolve(name), outcome.rewrite, options, startPlayer());
    if (result.kind === 'unplayable')
      throw new UsageTrouble(`${name} cannot be played; ${result.reason}`, `${result.next}; nothing was written`);
    const { comparison } = result;
    const answer = trialText(outcome.rewrite.form, comparison, output.paint, options.verbose);
    if (!comparison.same) {
      output.give(options.format === 'json' ? jsonText(trialJson(comparison)) : `${answer}\n\nnothing was written`);
      return false;
    }
    output.say(answer);
  }
  return true;
}

/** The packages that the result needs, and how they get there. */
function needsLines(rewrite: Rewrite, paint: Output['paint']): string[] {
  if (!rewrite.dependencies.length) return [];
  const written = rewrite.files.some(({ file }) => path.basename(file) === 'package.json');
  const next = written
    ? 'package.json asks for them now; install them'
    : 'install them, or say --add-dependency to have package.json ask for them';
  return [dependenciesText(rewrite, paint), `  ${paint.dim(next)}`, ''];
}

function appliedText(rewrite: Rewrite, entry: string, output: Output, verbose: boolean): string {
  const { paint, cwd } = output;
  const files = rewrite.files.map(
    ({ file, change }) =>
      `  ${{ edit: 'changed', create: 'new', delete: 'gone' }[change]}  ${path.relative(cwd, file)}`,
  );
  return [
    `${paint.bold(rewrite.form)}  ${rewrite.route.map((id) => paint.cyan(id)).join(' → ')}`,
    '',
    ...files,
    '',
    ledgerText(rewrite, cwd, paint, verbose),
    '',
    figuresText(rewrite, paint),
    '',
    ...needsLines(rewrite, paint),
    `${counted(rewrite.files.length, 'file')} written; \`lively-graft undo ${entry}\` puts ${rewrite.files.length === 1 ? 'it' : 'them'} back`,
  ].join('\n');
}
