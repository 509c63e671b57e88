#!/usr/bin/env node
import yargs, { type Argv } from 'yargs';
import { isTooDeep, tooDeep } from '../source/depth.js';
import { putRight, rootHere } from './journals.js';
import { exit, ToolFault, UsageTrouble, type ExitCode } from './output.js';
import { version } from './version.js';

/** What the program answers with; commands set it. */
const answer: { code: ExitCode } = { code: exit.done };

function run<Options>(
  load: () => Promise<(options: Options) => Promise<ExitCode> | ExitCode>,
): (options: Options) => Promise<void> {
  return async (options) => {
    putRight(rootHere(process.cwd()), (text) => process.stderr.write(`${text}\n`));
    const handler = await load();
    answer.code = await handler(options);
  };
}

function oneForm<T>(command: Argv<T>): Argv<T & { form: string | undefined }> {
  return command.option('form', {
    type: 'string',
    describe: 'the form, where the file holds several',
    requiresArg: true,
  });
}

function rewriting<T>(command: Argv<T>) {
  return oneForm(command)
    .option('to', { type: 'string', describe: 'the approach to rewrite to', requiresArg: true })
    .option('rules', {
      type: 'string',
      describe: 'how rules are stated, where the approach allows several',
      requiresArg: true,
    })
    .option('add-dependency', {
      type: 'boolean',
      default: false,
      describe: 'write packages that the result needs into package.json',
    })
    .option('accept-by-hand', {
      type: 'boolean',
      default: false,
      describe: 'mark places the tool cannot rewrite with a comment',
    });
}

function playing<T>(command: Argv<T>) {
  return command
    .option('steps', { type: 'string', describe: 'a file of steps to play', requiresArg: true })
    .option('with', {
      type: 'string',
      array: true,
      nargs: 1,
      describe: 'a JSON file of props and answers, or a mount module; may be given several times',
    });
}

function proving<T>(command: Argv<T>, usual: 'all' | 'none') {
  return playing(command).option('proof', {
    choices: ['all', 'types', 'play', 'none'] as const,
    default: usual,
    describe: 'what is proven: types by the project’s compiler, behaviour by playing',
  });
}

const parser = yargs(process.argv.slice(2))
  .scriptName('lively-graft')
  .usage('$0 <command>\n\nSays how each form handles its state, and rewrites it from one approach to another.')
  .option('format', { choices: ['text', 'json'] as const, default: 'text', describe: 'how the result is written' })
  .option('out', { type: 'string', describe: 'write the result to a file', requiresArg: true })
  .option('config', { type: 'string', describe: 'settings file', requiresArg: true })
  .option('verbose', { type: 'boolean', default: false, describe: 'say more' })
  .option('quiet', { type: 'boolean', default: false, describe: 'say nothing but the result' })
  .option('color', { type: 'boolean', default: true, describe: 'colour on a terminal (--no-color, NO_COLOR)' })
  .command(
    'survey [path..]',
    'the forms in a tree: approach, fields, place',
    (command) =>
      command
        .positional('path', { type: 'string', array: true, describe: 'files and folders; this folder when left out' })
        .option('cache', { type: 'boolean', default: true, describe: 'remember what files held (--no-cache)' })
        .option('include-tests', { type: 'boolean', describe: 'survey stories, specs and tests as well' })
        .option('fail-on', {
          choices: ['note', 'warning', 'error'] as const,
          describe: 'exit with 1 where a finding is at this level or above',
        }),
    run(async () => (await import('./commands/survey.js')).survey),
  )
  .command(
    'inspect <file>',
    'one form in full: fields, controls, uses, rules, life cycle',
    (command) => oneForm(command.positional('file', { type: 'string', demandOption: true })),
    run(async () => (await import('./commands/inspect.js')).inspect),
  )
  .command(
    'preview <file>',
    'diff, ledger, figures before and after; writes nothing',
    (command) => proving(rewriting(command.positional('file', { type: 'string', demandOption: true })), 'none'),
    run(async () => (await import('./commands/rewrite.js')).preview),
  )
  .command(
    'apply <file..>',
    'the same, proven, then written to disk in one step that can be undone',
    (command) =>
      proving(rewriting(command.positional('file', { type: 'string', array: true, demandOption: true })), 'all'),
    run(async () => (await import('./commands/rewrite.js')).apply),
  )
  .command(
    'undo [entry]',
    'puts the files back as they were',
    (command) =>
      command
        .positional('entry', { type: 'string', describe: 'an entry of the journal; the newest when left out' })
        .option('list', { type: 'boolean', default: false, describe: 'list the journal' })
        .option('overwrite', { type: 'boolean', default: false, describe: 'undo even where a file was changed since' }),
    run(async () => (await import('./commands/undo.js')).undo),
  )
  .command(
    'trial <file..>',
    'plays the form before and after the rewrite; also: trial <before> <after>',
    (command) =>
      playing(rewriting(command.positional('file', { type: 'string', array: true, demandOption: true }))).option(
        'print-steps',
        {
          type: 'boolean',
          default: false,
          describe: 'print the steps instead of the answer',
        },
      ),
    run(async () => (await import('./commands/trial.js')).trial),
  )
  .command(
    'rules <file>',
    'the form’s fields and rules as JSON Schema 2020-12',
    (command) => oneForm(command.positional('file', { type: 'string', demandOption: true })),
    run(async () => (await import('./commands/rules.js')).rules),
  )
  .command(
    'approaches',
    'every approach, and which rewrites are covered',
    (command) => command,
    run(async () => (await import('./commands/approaches.js')).approaches),
  )
  .command(
    'demo',
    'a full example on the demo data',
    (command) => command,
    run(async () => (await import('./commands/demo.js')).demo),
  )
  .demandCommand(1, 'name a command')
  .strict()
  .wrap(Math.min(100, process.stdout.columns || 100))
  .version(version)
  .help()
  .exitProcess(false)
  .fail((message, error) => {
    if (error instanceof Error && !message) throw error;
    throw new UsageTrouble(message || String(error), '`lively-graft --help` shows commands and options');
  });

async function main(): Promise<ExitCode> {
  try {
    await parser.parseAsync();
    return answer.code;
  } catch (error) {
    if (error instanceof UsageTrouble) {
      process.stderr.write(`lively-graft: ${error.message}\n  next: ${error.next}\n`);
      return exit.usage;
    }
    if (isTooDeep(error)) {
      process.stderr.write(
        `lively-graft: the form’s code: ${tooDeep}\n  next: name a file that people write and read\n`,
      );
      return exit.usage;
    }
    const text =
      error instanceof ToolFault
        ? error.message
        : error instanceof Error
          ? (error.stack ?? error.message)
          : String(error);
    process.stderr.write(
      `lively-graft: a fault of the tool itself: ${text}\n  next: please report this with the file; lively-graft undo --list shows what was written\n`,
    );
    return exit.fault;
  }
}

process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(exit.done);
  throw error;
});
process.exitCode = await main();
