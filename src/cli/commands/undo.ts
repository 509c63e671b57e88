import path from 'node:path';
import { readEntries, type DamagedEntry, type JournalEntry } from '../../journal/entries.js';
import { undo as takeBack, type Undone } from '../../journal/undo.js';
import { counted } from '../../report/paint.js';
import { columns } from '../../report/table.js';
import { journalsFrom, newestJournal, putRight, rootHere } from '../journals.js';
import { exit, jsonText, outputFor, UsageTrouble, type CommonOptions, type ExitCode, type Output } from '../output.js';

export interface UndoOptions extends CommonOptions {
  entry?: string | undefined;
  list: boolean;
  overwrite: boolean;
}

/** A journal with what it holds. */
interface Journal {
  root: string;
  entries: JournalEntry[];
  damaged: DamagedEntry[];
}

/** Puts the files of a rewrite back as they were, or lists the journals of the project and of packages below it. */
export async function undo(options: UndoOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const roots = await journalsFrom(output.cwd);
  for (const root of roots) putRight(root, output.say);
  const journals = roots.map((root): Journal => ({ root, ...readEntries(root) }));
  if (options.list) {
    list(journals, options, output);
    return exit.done;
  }
  for (const { damaged } of journals)
    for (const { name, why } of damaged) output.say(`the entry ${name} is damaged and left alone: ${why}`);
  const root = journalOf(options.entry, journals) ?? rootHere(output.cwd);
  const result = takeBack(root, options.entry, options.overwrite);
  if (!result.ok) throw new UsageTrouble(result.message, result.next);
  output.give(options.format === 'json' ? jsonText(undoneJson(result)) : undoneText(result, root, output));
  return exit.done;
}

/** The journal of an entry; that of the newest rewrite when none is named. */
function journalOf(name: string | undefined, journals: readonly Journal[]): string | undefined {
  if (name === undefined) return newestJournal(journals.map(({ root }) => root));
  const named = journals.filter(({ entries, damaged }) => [...entries, ...damaged].some((one) => one.name === name));
  const numbered = journals.filter(({ entries, damaged }) =>
    [...entries, ...damaged].some((one) => /^\d+$/.test(name) && Number.parseInt(one.name, 10) === Number(name)),
  );
  const found = named.length ? named : numbered;
  if (found.length > 1)
    throw new UsageTrouble(
      `several journals have an entry ${name}: ${found.map(({ root }) => root).join(', ')}`,
      'run undo in the folder of the package that is meant',
    );
  return found[0]?.root;
}

function undoneJson({ entry, kept }: Undone): object {
  return {
    version: 1,
    entry: entry.name,
    files: entry.files.map(({ file }) => file).filter((file) => !kept.some((one) => one.file === file)),
    kept,
  };
}

function undoneText({ entry, kept }: Undone, root: string, { paint, cwd }: Output): string {
  const lines = entry.files.map(({ file, change }) => {
    const place = path.relative(cwd, path.join(root, file));
    const stays = kept.find((one) => one.file === file);
    return stays
      ? `  stays       ${place}  ${paint.dim(`${stays.neededBy} needs it; it goes with that one`)}`
      : `  ${change === 'create' ? 'taken away' : 'as it was '}  ${place}`;
  });
  return [`${paint.bold(entry.name)} is undone`, ...lines].join('\n');
}

function list(journals: readonly Journal[], options: UndoOptions, output: Output): void {
  const { paint, cwd } = output;
  if (options.format === 'json') {
    output.give(
      jsonText({
        version: 1,
        entries: journals.flatMap(({ entries }) => entries),
        damaged: journals.flatMap(({ damaged }) => damaged),
      }),
    );
    return;
  }
  const rows = journals.flatMap(({ root, entries, damaged }) => [
    ...entries.map((entry) => [
      paint.bold(entry.name),
      `${entry.from} → ${entry.to}`,
      entry.state === 'done' ? counted(entry.files.length, 'file') : entry.state,
      paint.dim(entry.files.map(({ file }) => path.relative(cwd, path.join(root, file))).join(', ')),
    ]),
    ...damaged.map(({ name, why }) => [paint.bold(name), '', paint.red('damaged'), paint.dim(why)]),
  ]);
  output.give(rows.length ? columns(rows) : 'the journal is empty');
}
