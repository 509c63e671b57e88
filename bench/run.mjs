// Measures speed and memory as ratios within this one run; prints medians. Tree sizes: LIVELY_GRAFT_BENCH=5000,20000.
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const cli = path.join(root, 'dist', 'cli.js');
const sizes = (process.env.LIVELY_GRAFT_BENCH ?? '5000,20000').split(',').map(Number);
const runs = Number(process.env.LIVELY_GRAFT_BENCH_RUNS ?? 3);
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const form = readFileSync(path.join(root, 'demo/src/cuttings/CuttingRequest.tsx'), 'utf8');
const work = mkdtempSync(path.join(os.tmpdir(), 'graft-bench-'));

function plain(index) {
  const rows = Array.from(
    { length: 40 },
    (_, row) =>
      `export function weigh${index}x${row}(crates: number[], tare = ${row}): number {\n  return crates.reduce((sum, crate) => sum + Math.max(0, crate - tare), 0);\n}\n`,
  );
  return rows.join('\n');
}

function tree(size) {
  const folder = path.join(work, `tree-${size}`);
  for (let index = 0; index < size; index++) {
    const place = path.join(folder, `rows-${Math.floor(index / 100)}`);
    mkdirSync(place, { recursive: true });
    const text = index % 7 === 0 ? form.replaceAll('CuttingRequest', `Cutting${index}`) : plain(index);
    writeFileSync(path.join(place, `f${index}.tsx`), text);
  }
  writeFileSync(path.join(folder, 'package.json'), '{}');
  return folder;
}

function timed(parameters, cwd) {
  const start = performance.now();
  const run = spawnSync('/usr/bin/time', ['-f', '%M', process.execPath, ...parameters], {
    cwd,
    encoding: 'utf8',
    maxBuffer: 1 << 30,
  });
  if (run.status !== 0) throw new Error(`${parameters.join(' ')}: ${run.stderr}`);
  return { milliseconds: performance.now() - start, megabytes: Number(run.stderr.trim().split('\n').at(-1)) / 1024 };
}

const baseline = path.join(work, 'parse-all.mjs');
writeFileSync(
  baseline,
  `import { readdirSync, readFileSync, statSync } from 'node:fs';
import { parse } from ${JSON.stringify(path.join(root, 'node_modules/@babel/parser/lib/index.js'))};
const visit = (place) => {
  if (statSync(place).isDirectory()) for (const name of readdirSync(place)) visit(place + '/' + name);
  else if (place.endsWith('.tsx')) parse(readFileSync(place, 'utf8'), { sourceType: 'module', plugins: ['typescript', 'jsx'] });
};
visit(process.argv[2]);
`,
);
const bare = path.join(work, 'bare-trial.mjs');
writeFileSync(
  bare,
  `import { build } from ${JSON.stringify(path.join(root, 'node_modules/esbuild/lib/main.js'))};
import jsdom from ${JSON.stringify(path.join(root, 'node_modules/jsdom/lib/api.js'))};
for (const version of [1, 2]) {
  const { outputFiles } = await build({ stdin: { contents: "import { createRoot } from 'react-dom/client'; import { createElement } from 'react'; import { CuttingRequest } from './CuttingRequest'; createRoot(document.getElementById('root')).render(createElement(CuttingRequest, { rootstocks: ['a'], onRequest() {} }));", resolveDir: process.argv[2], loader: 'js' }, bundle: true, write: false, jsx: 'automatic', define: { 'process.env.NODE_ENV': '"development"' } });
  const dom = new jsdom.JSDOM('<div id="root"></div>', { runScripts: 'outside-only', pretendToBeVisual: true });
  dom.window.eval(outputFiles[0].text);
  await new Promise((resolve) => setTimeout(resolve, 20));
  dom.window.close();
}
process.exit(0);
`,
);

const rows = [];
const report = (what, value, wanted) => rows.push(`${what.padEnd(66)} ${value.padStart(9)}   wanted ${wanted}`);
try {
  const cold = new Map();
  for (const size of sizes) {
    const folder = tree(size);
    const parse = [];
    const first = [];
    const second = [];
    const memory = [];
    for (let run = 0; run < runs; run++) {
      parse.push(timed([baseline, folder]).milliseconds);
      rmSync(path.join(os.homedir(), '.cache', 'lively-graft'), { recursive: true, force: true });
      const survey = timed([cli, 'survey', folder, '--format', 'json', '--quiet']);
      first.push(survey.milliseconds);
      memory.push(survey.megabytes);
      second.push(timed([cli, 'survey', folder, '--format', 'json', '--quiet']).milliseconds);
    }
    cold.set(size, median(first));
    report(`survey of ${size} files : parsing every file`, (median(first) / median(parse)).toFixed(2), 'at most 0.5');
    report(
      `survey of ${size} files with the cache : parsing every file`,
      (median(second) / median(parse)).toFixed(2),
      'at most 0.15',
    );
    report(`survey of ${size} files: peak memory`, `${Math.round(median(memory))} MB`, 'at most 300 MB at 20000');
    rmSync(folder, { recursive: true, force: true });
  }
  if (sizes.length > 1)
    report(
      `survey: growth from ${sizes[0]} to ${sizes.at(-1)} files`,
      (cold.get(sizes.at(-1)) / cold.get(sizes[0])).toFixed(2),
      'at most 4.4',
    );

  const project = path.join(work, 'project');
  mkdirSync(project);
  symlinkSync(path.join(root, 'node_modules'), path.join(project, 'node_modules'), 'dir');
  writeFileSync(path.join(project, 'CuttingRequest.tsx'), form);
  writeFileSync(path.join(project, 'package.json'), '{}');
  const pairs = { preview: [], parse: [], trial: [], bare: [] };
  for (let run = 0; run < Math.max(5, runs); run++) {
    pairs.parse.push(timed([baseline, path.join(project, 'CuttingRequest.tsx')]).milliseconds);
    pairs.preview.push(
      timed([cli, 'preview', 'CuttingRequest.tsx', '--to', 'reducer', '--quiet'], project).milliseconds,
    );
    pairs.bare.push(timed([bare, project]).milliseconds);
    pairs.trial.push(timed([cli, 'trial', 'CuttingRequest.tsx', '--to', 'reducer', '--quiet'], project).milliseconds);
  }
  report(
    'preview of one form : loading the parser and parsing the file',
    (median(pairs.preview) / median(pairs.parse)).toFixed(2),
    'at most 2.5',
  );
  report(
    'trial of one form : building and loading both versions',
    (median(pairs.trial) / median(pairs.bare)).toFixed(2),
    'at most 2.0',
  );
  const names = Array.from({ length: 10 }, (_, index) => `Cutting${index}.tsx`);
  for (const [index, name] of names.entries())
    writeFileSync(path.join(project, name), form.replaceAll('CuttingRequest', `Cutting${index}`));
  const applied = (files) => {
    const { milliseconds } = timed([cli, 'apply', ...files, '--to', 'reducer', '--quiet'], project);
    for (const _file of files) timed([cli, 'undo', '--quiet'], project);
    return milliseconds;
  };
  const counts = { one: [], ten: [] };
  for (let run = 0; run < runs; run++) {
    counts.one.push(applied(names.slice(0, 1)));
    counts.ten.push(applied(names));
  }
  report(
    'apply of ten forms with proof : apply of one',
    (median(counts.ten) / median(counts.one)).toFixed(2),
    'at most 4',
  );
  console.log(rows.join('\n'));
} finally {
  rmSync(work, { recursive: true, force: true });
}
