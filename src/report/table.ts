import Table from 'cli-table3';

const bare = {
  top: '',
  'top-mid': '',
  'top-left': '',
  'top-right': '',
  bottom: '',
  'bottom-mid': '',
  'bottom-left': '',
  'bottom-right': '',
  left: '',
  'left-mid': '',
  mid: '',
  'mid-mid': '',
  right: '',
  'right-mid': '',
  middle: '  ',
};

/** Columns without rules between them, each line indented. Cells may hold colour. */
export function columns(
  rows: readonly (readonly string[])[],
  options: { indent?: string; right?: readonly number[] } = {},
): string {
  if (!rows.length) return '';
  const width = Math.max(...rows.map((row) => row.length));
  const table = new Table({
    chars: bare,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    colAligns: Array.from({ length: width }, (_, index) =>
      options.right?.includes(index) ? ('right' as const) : ('left' as const),
    ),
  });
  for (const row of rows) table.push([...row]);
  const indent = options.indent ?? '';
  return table
    .toString()
    .split('\n')
    .map((line) => (indent + line).replace(/\s+$/, ''))
    .join('\n');
}
