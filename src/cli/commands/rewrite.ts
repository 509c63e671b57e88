import path from 'node:path';
import { record } from '../../journal/record.js';
import type { Proof, ProofLevel } from '../../proof/proof.js';
import type { Proven } from '../../proof/prove.js';
import { proofText } from '../../report/proof-report.js';
import { dependenciesText, rewriteJson, rewriteText, figuresText, ledgerText } from '../../report/rewrite-report.js';
import { counted } from '../../report/paint.js';
import { trialText } from '../../report/trial-report.js';
import type { PlayOptions } from '../play.js';
import { allApproaches } from '../../rewrite/catalogue.js';
import { rewriteForm } from '../../rewrite/rewrite.js';
import { type Rewrite } from '../../rewrite/results.js';
import { diskWorkspace, overlaid } from '../../source/workspace.js';
import { readSettings, rootFor, settingsFor, sourceFile } from '../files.js';
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
  proof?: ProofLevel | undefined;
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

function sameJson(outcome: Extract<Outcome, { kind: 'same' }>): object {
  return {
    version: 1,
    form: outcome.form,
    from: outcome.approach,
    to: outcome.approach,
    route: [outcome.approach],
    proof: null,
    files: [],
    ledger: [],
    figures: null,
    dependencies: [],
    entry: null,
  };
}

/** Shows a rewrite and writes nothing; proves it where that is asked for. */
export async function preview(options: RewriteOptions & PlayOptions & { file: string }): Promise<ExitCode> {
  const output = outputFor(options);
  const outcome = await rewriteOf(options.file, options);
  if (outcome.kind === 'same') throw sameTrouble(outcome, options.file);
  const { rewrite } = outcome;
  const level = options.proof ?? 'none';
  const proof = level === 'none' ? null : await proofFor(options.file, rewrite, level, options, output);
  output.give(
    options.format === 'json'
      ? jsonText(rewriteJson(rewrite, output.cwd, null, proof))
      : [
          rewriteText(rewrite, output.cwd, output.paint, options.verbose),
          ...(proof ? ['', proofText(proof, output.cwd, output.paint)] : []),
        ].join('\n'),
  );
  if (options.format === 'text' && !options.verbose && rewrite.ledger.length)
    output.say('--verbose lists every entry of the ledger');
  return isOpen(rewrite) || (proof && isRefuted(proof)) ? exit.no : exit.done;
}

async function proofFor(
  name: string,
  rewrite: Rewrite,
  level: ProofLevel,
  options: PlayOptions,
  output: Output,
): Promise<Proof | null> {
  if (isOpen(rewrite)) return null;
  const { proveAll } = await import('../prove.js');
  const [proven] = await proveAll([{ name, rewrite }], level, options, output);
  return proven?.proof ?? null;
}

function isOpen(rewrite: Rewrite): boolean {
  return rewrite.ledger.some(({ entry }) => entry === 'by-hand');
}

function isRefuted({ types, play }: Proof): boolean {
  return types === 'worse' || play === 'different';
}

function sameTrouble(outcome: Extract<Outcome, { kind: 'same' }>, name: string): UsageTrouble {
  return new UsageTrouble(
    `${outcome.form} in ${name} follows ${outcome.approach} already`,
    'choose another approach; `lively-graft approaches` lists them',
  );
}

export interface ApplyOptions extends RewriteOptions, PlayOptions {
  file: string[];
}

interface Named {
  name: string;
  outcome: Outcome;
  proven?: Proven | undefined;
}

/** Writes rewrites to disk, all of them or none, once they are proven. */
export async function apply(options: ApplyOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const outcomes: Named[] = [];
  let workspace = diskWorkspace;
  for (const name of options.file) {
    const outcome = await rewriteOf(name, options, workspace);
    outcomes.push({ name, outcome });
    if (outcome.kind === 'rewrite')
      workspace = overlaid(workspace, new Map(outcome.rewrite.files.map((change) => [change.file, change.after])));
  }
  const open = outcomes.filter(({ outcome }) => outcome.kind === 'rewrite' && isOpen(outcome.rewrite));
  if (open.length && !options.acceptByHand) {
    show(open, output, options);
    return exit.no;
  }
  await prove(outcomes, options, output);
  const refuted = outcomes.filter(({ proven }) => proven && isRefuted(proven.proof));
  if (refuted.length) {
    show(refuted, output, options);
    return exit.no;
  }
  const rewrites = outcomes.flatMap(({ outcome }) => (outcome.kind === 'rewrite' ? [outcome.rewrite] : []));
  // what would hide the result is found before anything is written
  output.check(rewrites.flatMap(({ files }) => files.map(({ file }) => file)));
  const [first] = options.file;
  const root = rootFor(path.resolve(first ?? '.'), rewrites);
  const done = rewrites.length ? record(root, rewrites) : { ok: true as const, entries: [] };
  if (!done.ok) throw new UsageTrouble(done.message, done.next);
  const entries = new Map(rewrites.map((rewrite, index) => [rewrite, done.entries[index] ?? '']));
  giveApplied(outcomes, entries, options, output);
  return exit.done;
}

/** Plays and type-checks what nothing was left by hand of. */
async function prove(outcomes: readonly Named[], options: ApplyOptions, output: Output): Promise<void> {
  const level = options.proof ?? 'all';
  const waiting = outcomes.flatMap((one) =>
    one.outcome.kind === 'rewrite' && !isOpen(one.outcome.rewrite) && one.outcome.rewrite.files.length
      ? [{ ...one, rewrite: one.outcome.rewrite, one }]
      : [],
  );
  if (!waiting.length || level === 'none') return;
  const { proveAll } = await import('../prove.js');
  const proven = await proveAll(waiting, level, options, output);
  for (const [index, { one }] of waiting.entries()) one.proven = proven[index];
}

/** Rewrites that are not written: what is left by hand, or what the proof found. */
function show(outcomes: readonly Named[], output: Output, options: ApplyOptions): void {
  const shown = outcomes.flatMap(({ outcome, proven }) =>
    outcome.kind === 'rewrite' ? [{ rewrite: outcome.rewrite, proven }] : [],
  );
  if (options.format === 'json') {
    giveJson(
      shown.map(({ rewrite, proven }) => rewriteJson(rewrite, output.cwd, null, proven?.proof ?? null)),
      options.file.length,
      output,
    );
    return;
  }
  for (const { rewrite, proven } of shown) {
    if (!proven) {
      output.give(rewriteText(rewrite, output.cwd, output.paint, options.verbose));
      continue;
    }
    const played = proven.trial
      ? ['', trialText(rewrite.form, proven.trial.comparison, output.paint, options.verbose)]
      : [];
    output.give(
      [
        `${output.paint.bold(rewrite.form)}  ${rewrite.route.map((id) => output.paint.cyan(id)).join(' → ')}`,
        '',
        proofText(proven.proof, output.cwd, output.paint),
        ...(proven.proof.play === 'different' ? played : []),
        '',
        output.paint.yellow('nothing was written'),
      ].join('\n'),
    );
  }
}

/** One value for one file; one value that lists them for several. */
function giveJson(results: readonly object[], asked: number, output: Output): void {
  const [only] = results;
  output.give(jsonText(asked === 1 && only ? only : { version: 1, rewrites: results }));
}

function giveApplied(
  outcomes: readonly Named[],
  entries: ReadonlyMap<Rewrite, string>,
  options: ApplyOptions,
  output: Output,
): void {
  const results: object[] = [];
  for (const { name, outcome, proven } of outcomes) {
    if (outcome.kind === 'same') {
      if (options.format === 'json') results.push(sameJson(outcome));
      else output.give(`${outcome.form} in ${name} follows ${outcome.approach} already; nothing changes`);
      continue;
    }
    const { rewrite } = outcome;
    const entry = entries.get(rewrite) ?? '';
    const proof = proven?.proof ?? null;
    results.push(rewriteJson(rewrite, output.cwd, entry, proof));
    if (options.format === 'text') output.give(appliedText(rewrite, entry, proof, output, options.verbose));
  }
  if (options.format === 'json') giveJson(results, options.file.length, output);
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

function appliedText(rewrite: Rewrite, entry: string, proof: Proof | null, output: Output, verbose: boolean): string {
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
    ...(proof ? [proofText(proof, cwd, paint), ''] : []),
    ...needsLines(rewrite, paint),
    `${counted(rewrite.files.length, 'file')} written; \`lively-graft undo ${entry}\` puts ${rewrite.files.length === 1 ? 'it' : 'them'} back`,
  ].join('\n');
}
