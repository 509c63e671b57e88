import path from 'node:path';
import { createTwoFilesPatch } from 'diff';
import type { Proof } from '../proof/proof.js';
import type { Rewrite } from '../rewrite/results.js';
import { counted, type Paint } from './paint.js';
import { columns } from './table.js';

function relativeTo(cwd: string): (file: string) => string {
  return (file) => path.relative(cwd, file).split(path.sep).join('/');
}

/** A rewrite as JSON, paths relative to the working folder. */
export function rewriteJson(rewrite: Rewrite, cwd: string, entry: string | null, proof: Proof | null): object {
  const relative = relativeTo(cwd);
  return {
    version: 1,
    form: rewrite.form,
    from: rewrite.from,
    to: rewrite.to,
    route: rewrite.route,
    proof: proof && {
      types: proof.types,
      play: proof.play,
      why: proof.why,
      complaints: proof.complaints.map((one) => ({ ...one, file: relative(one.file) })),
    },
    files: rewrite.files.map((change) => ({ ...change, file: relative(change.file) })),
    ledger: rewrite.ledger.map((line) => ({ ...line, file: relative(line.file) })),
    figures: rewrite.figures,
    dependencies: rewrite.dependencies,
    entry,
  };
}

function paintedPatch(patch: string, paint: Paint): string {
  return patch
    .split('\n')
    .filter((line) => !line.startsWith('====') && !line.startsWith('Index: ') && !line.startsWith('\\ No newline'))
    .map((line) => {
      if (line.startsWith('+++') || line.startsWith('---')) return paint.bold(line.replace(/\t.*$/, ''));
      if (line.startsWith('@@')) return paint.cyan(line);
      if (line.startsWith('+')) return paint.green(line);
      if (line.startsWith('-')) return paint.red(line);
      return line;
    })
    .join('\n')
    .trimEnd();
}

function diffText(rewrite: Rewrite, cwd: string, paint: Paint): string {
  const relative = relativeTo(cwd);
  return rewrite.files
    .map(({ file, before, after }) => {
      const name = relative(file);
      const patch = createTwoFilesPatch(
        before === null ? '/dev/null' : name,
        after === null ? '/dev/null' : name,
        (before ?? '').replace(/\r\n/g, '\n'),
        (after ?? '').replace(/\r\n/g, '\n'),
        '',
        '',
        { context: 3 },
      );
      return paintedPatch(patch, paint);
    })
    .join('\n');
}

const fates = ['carried', 'kept', 'retired', 'by-hand'] as const;

/** The ledger: a line for each kind of entry, or every entry. */
export function ledgerText(rewrite: Rewrite, cwd: string, paint: Paint, full: boolean): string {
  const relative = relativeTo(cwd);
  const several = new Set(rewrite.ledger.map((line) => line.file)).size > 1;
  const colour = { carried: paint.green, kept: paint.dim, retired: paint.yellow, 'by-hand': paint.red };
  const rows = rewrite.ledger
    .filter((line) => full || line.entry === 'by-hand')
    .map((line) => [
      colour[line.entry](line.entry),
      `${several ? relative(line.file) : 'line'}${several ? ':' : ' '}${line.line}`,
      line.what.length > 44 ? `${line.what.slice(0, 43)}…` : line.what,
      paint.dim(line.why),
    ]);
  const counts = fates
    .map((fate) => ({ fate, count: rewrite.ledger.filter((line) => line.entry === fate).length }))
    .filter(({ count }) => count > 0)
    .map(({ fate, count }) => `${count} ${fate}`)
    .join(', ');
  return [`${paint.bold('Ledger')}  ${counts}`, ...(rows.length ? [columns(rows, { indent: '  ' })] : [])].join('\n');
}

/** Lines, state variables and handlers before and after. */
export function figuresText(rewrite: Rewrite, paint: Paint): string {
  const { before, after } = rewrite.figures;
  const row = (name: string, a: number, b: number): string[] => [name, String(a), '→', String(b)];
  const rows = [
    row('lines', before.lines, after.lines),
    row('state variables', before.stateVariables, after.stateVariables),
    row('handlers that change fields', before.handlers, after.handlers),
  ];
  return [paint.bold('Figures'), columns(rows, { indent: '  ', right: [1, 3] })].join('\n');
}

/** The packages that a result needs and the project does not ask for. */
export function dependenciesText({ dependencies }: Rewrite, paint: Paint): string {
  const rows = dependencies.map(({ name, range }) => [name, range]);
  return `${paint.bold('Needs packages that package.json does not ask for')}\n${columns(rows, { indent: '  ' })}`;
}

/** A rewrite for people: diff, ledger, figures. `full` lists every entry of the ledger. */
export function rewriteText(rewrite: Rewrite, cwd: string, paint: Paint, full: boolean): string {
  const out = [`${paint.bold(rewrite.form)}  ${rewrite.route.map((id) => paint.cyan(id)).join(' → ')}`];
  if (rewrite.files.length) out.push('', diffText(rewrite, cwd, paint));
  out.push('', ledgerText(rewrite, cwd, paint, full), '', figuresText(rewrite, paint));
  if (rewrite.dependencies.length) out.push('', dependenciesText(rewrite, paint));
  const byHand = rewrite.ledger.filter((line) => line.entry === 'by-hand').length;
  if (byHand)
    out.push(
      '',
      paint.yellow(
        `${counted(byHand, 'place')} would be left by hand: nothing is written unless --accept-by-hand is given`,
      ),
    );
  return out.join('\n');
}
