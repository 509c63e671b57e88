import { spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, symlinkSync } from 'node:fs';
import { createRequire } from 'node:module';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { columns } from '../../report/table.js';
import { exit, outputFor, type CommonOptions, type ExitCode } from '../output.js';

const here = path.dirname(fileURLToPath(import.meta.url));
const program = path.join(here, 'cli.js');
const source = path.join(here, '..', 'demo');

/** Where the frameworks that the demo's forms import are installed, if they are. */
function installedFrameworks(): string | undefined {
  for (const from of [path.join(process.cwd(), 'here.js'), path.join(here, 'here.js')]) {
    try {
      const entry = createRequire(from).resolve('react-dom/package.json');
      return path.dirname(path.dirname(entry));
    } catch {
      // look in the next place
    }
  }
  return undefined;
}

/** The bytes of every file below a folder, to see that undo brought all of them back. */
function filesOf(folder: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    const file = path.join(entry.parentPath, entry.name);
    if (entry.isFile()) found.set(path.relative(folder, file), readFileSync(file, 'base64'));
  }
  return found;
}

const compared = [
  'dom-values',
  'field-state',
  'object-state',
  'reducer',
  'own-hook',
  'declared-schema',
  'formik',
  'react-hook-form',
  'tanstack-form',
];

interface Compared {
  figures?: Record<'before' | 'after', { lines: number; stateVariables: number; handlers: number }>;
  renders?: { before: number | null; after: number | null };
  ledger?: { entry: string }[];
}

/** One form in each of the approaches, side by side: the figures people choose by. */
function compareApproaches(folder: string, output: ReturnType<typeof outputFor>, plays: boolean): void {
  const { paint } = output;
  const file = 'src/plots/PlotBooking.jsx';
  const ask = (...parameters: string[]): Compared => {
    const run = spawnSync(process.execPath, [program, ...parameters, '--quiet', '--format', 'json'], {
      cwd: folder,
      encoding: 'utf8',
      maxBuffer: 1 << 26,
    });
    try {
      return JSON.parse(run.stdout) as Compared;
    } catch {
      return {};
    }
  };
  output.give(`${paint.bold('# What would the booking of plots look like in each approach?')}\n\n`);
  const own = 'field-state';
  const rows = compared.map((to): string[] => {
    const preview = ask('preview', file, '--to', to === own ? 'reducer' : to);
    const figures = preview.figures?.[to === own ? 'before' : 'after'];
    const byHand = preview.ledger?.filter(({ entry }) => entry === 'by-hand').length ?? 0;
    const blanks = plays ? ['', '', ''] : ['', ''];
    if (byHand) return [paint.cyan(to), `${byHand} ${byHand === 1 ? 'place' : 'places'} by hand`, ...blanks];
    if (!figures) return [paint.cyan(to), 'not covered', ...blanks];
    const trial = plays ? ask('trial', file, '--to', to === own ? 'reducer' : to) : {};
    const renders = trial.renders?.[to === own ? 'before' : 'after'];
    const counts = [figures.lines, figures.stateVariables, figures.handlers].map(String);
    if (!plays) return [paint.cyan(to), ...counts];
    return [paint.cyan(to), ...counts, typeof renders === 'number' ? renders.toFixed(1) : ''];
  });
  const head = ['APPROACH', 'LINES', 'STATE VARIABLES', 'HANDLERS', ...(plays ? ['RENDERS A KEYSTROKE'] : [])];
  output.give(`${columns([head.map((title) => paint.dim(title)), ...rows])}\n\n`);
}

/** Walks through the commands on a copy of the demo project. */
export function demo(options: CommonOptions): ExitCode {
  const output = outputFor(options);
  const { paint } = output;
  const folder = mkdtempSync(path.join(os.tmpdir(), 'orchard-'));
  cpSync(source, folder, { recursive: true });
  const frameworks = installedFrameworks();
  if (frameworks !== undefined) symlinkSync(frameworks, path.join(folder, 'node_modules'), 'dir');
  const before = filesOf(path.join(folder, 'src'));
  let worst: ExitCode = exit.done;
  const colour = output.paint.isColorSupported ? { FORCE_COLOR: '1' } : {};

  const step = (words: string, ...parameters: string[]): void => {
    output.give(`${paint.bold(`# ${words}`)}\n${paint.green('$')} lively-graft ${parameters.join(' ')}\n\n`);
    const run = spawnSync(process.execPath, [program, ...parameters, '--quiet'], {
      cwd: folder,
      encoding: 'utf8',
      env: { ...process.env, ...colour },
    });
    output.give(`${(run.stdout + run.stderr).trimEnd()}\n\n`);
    if (run.status === exit.fault || run.status === null) worst = exit.fault;
  };

  output.give(`An orchard co-operative keeps its forms in ${folder}.\n\n`);
  step('Which forms are there, and how does each hold its values?', 'survey');
  step('What is known of the request for cuttings?', 'inspect', 'src/cuttings/CuttingRequest.tsx');
  step(
    'What would it look like with a reducer? Nothing is written yet.',
    'preview',
    'src/cuttings/CuttingRequest.tsx',
    '--to',
    'reducer',
  );
  if (frameworks === undefined) {
    output.give(
      `(A trial plays the form in React itself, which is not installed here. Run npm install in ${folder}, then:\n  lively-graft trial src/cuttings/CuttingRequest.tsx --to reducer)\n\n`,
    );
  } else {
    step(
      'Would a person who fills it in notice anything?',
      'trial',
      'src/cuttings/CuttingRequest.tsx',
      '--to',
      'reducer',
    );
  }
  compareApproaches(folder, output, frameworks !== undefined);
  step(
    'A slip of three fields in the hook of a package: plain controls are registered.',
    'preview',
    'src/grading/GradingSlip.jsx',
    '--to',
    'react-hook-form',
  );
  step('Which rules does the harvest log have, and when does each one speak?', 'inspect', 'src/harvest/HarvestLog.tsx');
  step('The same rules as data:', 'rules', 'src/harvest/HarvestLog.tsx');
  step('And the form on top of that data.', 'preview', 'src/harvest/HarvestLog.tsx', '--to', 'declared-schema');
  step(
    'What cannot be right is never written: one count is set while the other is worked out.',
    'apply',
    'windfall/WindfallCount.jsx',
    '--to',
    'reducer',
  );
  step(
    'Write the reducer, once the compiler and a play have proven it.',
    'apply',
    'src/cuttings/CuttingRequest.tsx',
    '--to',
    'reducer',
  );
  step(
    'The other way round: the sighting of pests without its reducer.',
    'apply',
    'src/pests/PestSighting.tsx',
    '--to',
    'field-state',
  );
  step(
    'In Angular, a form of the template becomes one of the class.',
    'apply',
    'src/angular/pest-patrol.component.ts',
    '--to',
    'model-driven',
  );
  step('What was done so far?', 'undo', '--list');
  step('Take the last one back,', 'undo');
  step('the one before,', 'undo');
  step('and the first.', 'undo');
  const after = filesOf(path.join(folder, 'src'));
  const same = before.size === after.size && [...before].every(([file, bytes]) => after.get(file) === bytes);
  output.give(same ? 'Every file is as it was, byte for byte.\n\n' : paint.red('Some file is not as it was.\n'));
  if (!same) worst = exit.fault;
  output.give(
    [
      paint.bold('Now try it yourself'),
      `  cd ${folder}`,
      ...(existsSync(path.join(folder, 'src', 'harvest'))
        ? [
            '  lively-graft preview src/harvest/HarvestLog.tsx --to reducer --verbose',
            '  lively-graft apply src/harvest/HarvestLog.tsx --to declared-schema',
            '  lively-graft preview src/angular/press-booking.component.ts --to template-driven',
          ]
        : []),
      '  lively-graft survey <your own project>',
    ].join('\n'),
  );
  return worst;
}
