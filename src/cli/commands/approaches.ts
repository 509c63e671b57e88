import { columns } from '../../report/table.js';
import { allApproaches, coveredRewrites } from '../../rewrite/catalogue.js';
import { exit, jsonText, outputFor, type CommonOptions, type ExitCode } from '../output.js';

/** Lists every approach and the rewrites that are covered. */
export function approaches(options: CommonOptions): ExitCode {
  const output = outputFor(options);
  const { paint } = output;
  const all = allApproaches();
  const covered = coveredRewrites();
  if (options.format === 'json') {
    output.give(jsonText({ version: 1, approaches: all, rewrites: covered }));
    return exit.done;
  }
  const rows = all.map(({ id, framework, title, reads, writes }) => [
    paint.cyan(id),
    framework,
    reads,
    writes ? 'yes' : 'no',
    title,
  ]);
  const [head = '', ...shown] = columns([
    ['ID', 'FRAMEWORK', 'READ', 'WRITTEN', 'HOW IT HOLDS THE VALUES'].map((title) => paint.dim(title)),
    ...rows,
  ]).split('\n');
  // what it is good for stands below: beside the title it would not fit into a terminal
  const told = shown.flatMap((line, index) => [line, paint.dim(`  for ${all[index]?.goodFor ?? ''}`)]);
  const lines = [
    head,
    ...told,
    '',
    paint.bold('Rewrites covered'),
    columns(
      [...new Set(covered.map(({ from }) => from))].map((from) => [
        paint.cyan(from),
        '→',
        covered
          .filter((one) => one.from === from)
          .map(({ to }) => paint.cyan(to))
          .join(', '),
      ]),
      { indent: '  ' },
    ),
  ];
  output.give(lines.join('\n'));
  return exit.done;
}
