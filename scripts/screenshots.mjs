// Takes the pictures in docs/screenshots: each command runs in a terminal window on a virtual display.
// Names behind the command take only those pictures. Needs Debian's packages xvfb, xterm, imagemagick and fonts-dejavu-core.
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const pictures = path.join(root, 'docs', 'screenshots');
mkdirSync(pictures, { recursive: true });
const orchard = mkdtempSync(path.join(os.tmpdir(), 'orchard-'));
cpSync(path.join(root, 'demo'), orchard, { recursive: true });
symlinkSync(path.join(root, 'node_modules'), path.join(orchard, 'node_modules'), 'dir');
/** A rewrite gone wrong, for the picture of a trial that differs. */
function writeForgetful() {
  const cuttings = path.join(orchard, 'src', 'cuttings');
  const right = readFileSync(path.join(cuttings, 'CuttingRequest.tsx'), 'utf8');
  const wrong = right.replace('    setGrafted(false);', '').replace('Name the variety', 'Which one?');
  writeFileSync(path.join(cuttings, 'Forgetful.tsx'), wrong);
}

const shots = {
  survey: ['survey'],
  inspect: ['inspect', 'src/cuttings/CuttingRequest.tsx'],
  preview: ['preview', 'src/cuttings/CuttingRequest.tsx', '--to', 'reducer'],
  'trial-different': ['trial', 'src/cuttings/CuttingRequest.tsx', 'src/cuttings/Forgetful.tsx'],
  angular: ['preview', 'src/angular/pest-patrol.component.ts', '--to', 'model-driven'],
  'signal-leaving': ['preview', 'src/angular/cider-tasting.component.ts', '--to', 'model-driven'],
  signals: ['preview', 'src/angular/press-booking.component.ts', '--to', 'signal-model'],
  route: ['preview', 'src/gate/WeighingSlip.jsx', '--to', 'own-hook'],
  'inspect-rules': ['inspect', 'src/harvest/HarvestLog.tsx'],
  rules: ['rules', 'src/harvest/HarvestLog.tsx'],
  schema: ['preview', 'src/harvest/HarvestLog.tsx', '--to', 'declared-schema'],
  proof: ['apply', 'src/cuttings/CuttingRequest.tsx', '--to', 'reducer'],
  refusal: ['apply', 'windfall/WindfallCount.jsx', '--to', 'reducer'],
  formik: ['preview', 'src/pests/PestSighting.tsx', '--to', 'formik'],
  'hook-form': ['preview', 'src/grading/GradingSlip.jsx', '--to', 'react-hook-form'],
  tanstack: ['preview', 'src/stores/ToolLoan.tsx', '--to', 'tanstack-form'],
  leaving: ['preview', 'src/nursery/ScionOrder.tsx', '--to', 'object-state'],
  approaches: ['approaches'],
  demo: ['demo'],
};
/** Pictures that begin further down, at the line that holds these words. */
const begins = {
  formik: 'export function PestSighting',
  'inspect-rules': 'Rules',
  schema: '+++ src/harvest/HarvestLog.schema.json',
  leaving: 'const [values, setValues]',
  'signal-leaving': 'export class CiderTastingComponent',
};
const display = ':97';
const server = spawn('Xvfb', [display, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
const wait = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));
await wait(1500);
const wanted = process.argv.slice(2);
for (const [name, parameters] of Object.entries(shots)) {
  if (wanted.length && !wanted.includes(name)) continue;
  if (name === 'trial-different') writeForgetful();
  const run = spawnSync(process.execPath, [path.join(root, 'dist', 'cli.js'), ...parameters], {
    cwd: orchard,
    encoding: 'utf8',
    env: { ...process.env, FORCE_COLOR: '1', NO_COLOR: '' },
  });
  const text = path.join(orchard, 'shown.txt');
  // what does not fit into the window is cut at the end, as a pager would show it first
  const all = run.stdout
    .replaceAll(orchard, '~/orchard')
    .replace(/\S*\/orchard-\w+/g, '~/orchard')
    .split('\n');
  const first = all.findIndex((line) => begins[name] !== undefined && line.includes(begins[name]));
  const lines = all.slice(Math.max(0, first)).slice(0, 46);
  writeFileSync(text, `$ lively-graft ${parameters.join(' ')}\n\n${lines.join('\n')}`);
  const terminal = spawn(
    'xterm',
    [
      '-geometry',
      '160x48+0+0',
      '-fa',
      'DejaVu Sans Mono',
      '-fs',
      '10',
      '-bg',
      '#fbfaf5',
      '-fg',
      '#2a2a28',
      '-e',
      'sh',
      '-c',
      `cat ${text}; sleep 20`,
    ],
    { env: { ...process.env, DISPLAY: display }, stdio: 'ignore' },
  );
  await wait(2500);
  spawnSync('import', ['-display', display, '-window', 'root', path.join(pictures, `${name}.png`)], {
    stdio: 'inherit',
  });
  terminal.kill();
  await wait(300);
}
server.kill();
rmSync(orchard, { recursive: true, force: true });
