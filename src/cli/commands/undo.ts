import path from 'node:path';
import { listEntries, undo as takeBack } from '../../journal/journal.js';
import { counted } from '../../report/paint.js';
import { columns } from '../../report/table.js';
import { projectRoot } from '../files.js';
import { exit, jsonText, outputFor, UsageTrouble, type CommonOptions, type ExitCode } from '../output.js';

export interface UndoOptions extends CommonOptions {
  entry?: string | undefined;
  list: boolean;
  overwrite: boolean;
}

/** Puts the files of a rewrite back as they were, or lists the journal. */
export function undo(options: UndoOptions): ExitCode {
  const output = outputFor(options);
  const { paint } = output;
  const root = projectRoot(path.join(output.cwd, 'here'));
  if (options.list) {
    const entries = listEntries(root);
    if (options.format === 'json') output.give(jsonText({ version: 1, entries }));
    else if (!entries.length) output.give('the journal is empty');
    else {
      const rows = entries.map((entry) => [
        paint.bold(entry.name),
        `${entry.from} → ${entry.to}`,
        entry.undone ? 'undone' : counted(entry.files.length, 'file'),
        paint.dim(entry.files.map(({ file }) => file).join(', ')),
      ]);
      output.give(columns(rows));
    }
    return exit.done;
  }
  const result = takeBack(root, options.entry, options.overwrite);
  if (!result.ok) throw new UsageTrouble(result.message, result.next);
  const { entry } = result;
  if (options.format === 'json')
    output.give(jsonText({ version: 1, entry: entry.name, files: entry.files.map(({ file }) => file) }));
  else
    output.give(
      [
        `${paint.bold(entry.name)} is undone`,
        ...entry.files.map(
          ({ file, change }) =>
            `  ${change === 'create' ? 'taken away' : 'as it was'}  ${path.relative(output.cwd, path.join(root, file))}`,
        ),
      ].join('\n'),
    );
  return exit.done;
}
