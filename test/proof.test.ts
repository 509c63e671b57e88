import { rmSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { proverFor } from '../src/proof/prove.js';
import { paintFor } from '../src/report/paint.js';
import { proofText } from '../src/report/proof-report.js';
import { rewriteForm } from '../src/rewrite/rewrite.js';
import { diskWorkspace } from '../src/source/workspace.js';
import { openPlayer } from '../src/trial/process.js';
import type { TrialResult } from '../src/trial/trial.js';
import { typescriptChecker } from '../src/proof/typescript-checker.js';
import { project, root, type TestProject } from './tools/project.js';

const slip = `import { useState } from 'react';

type Slip = { row: string; kilos: number };

export function WeighingSlip({ weigh }: { weigh: (slip: Slip) => Promise<void> }) {
  const [row, setRow] = useState('');
  const [kilos, setKilos] = useState(0);
  const [busy, setBusy] = useState(false);
  async function send(event: React.FormEvent) {
    event.preventDefault();
    setBusy(true);
    try {
      await weigh({ row: row.trim(), kilos });
      setRow('');
    } finally {
      setBusy(false);
    }
  }
  return (
    <form onSubmit={send}>
      <input aria-label="Row" value={row} onChange={(e) => setRow(e.target.value)} />
      <input aria-label="Kilos" type="number" value={kilos} onChange={(e) => setKilos(Number(e.target.value))} />
      <button disabled={busy}>{busy ? 'Weighing' : 'Weigh'}</button>
    </form>
  );
}
`;

const settings = JSON.stringify({
  compilerOptions: {
    strict: true,
    jsx: 'react-jsx',
    target: 'es2022',
    module: 'esnext',
    moduleResolution: 'bundler',
    lib: ['es2022', 'dom', 'dom.iterable'],
    types: ['react'],
  },
});

const homes: TestProject[] = [];
afterAll(() => homes.forEach((home) => home.remove()));
function orchard(files: Record<string, string>): TestProject {
  const home = project({ 'tsconfig.json': settings, ...files });
  homes.push(home);
  return home;
}

describe('apply', () => {
  it('proves types and behaviour before it writes, and says so', async () => {
    const home = orchard({ 'WeighingSlip.tsx': slip });
    const run = await home.run('apply', 'WeighingSlip.tsx', '--to', 'reducer', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const { proof } = JSON.parse(run.stdout) as { proof: object };
    expect(proof).toEqual({ types: 'same', play: 'same', why: '', complaints: [] });
  });

  it('proves forms that are written together on top of one another, each as the one it is', async () => {
    const home = orchard({ 'A.tsx': slip, 'B.tsx': slip.replaceAll('WeighingSlip', 'SecondSlip') });
    const run = await home.run('apply', 'A.tsx', 'B.tsx', '--to', 'own-hook', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const { rewrites } = JSON.parse(run.stdout) as { rewrites: { form: string; proof: unknown; files: unknown[] }[] };
    const told = rewrites.map(({ form, proof, files }) => [form, proof, files.length]);
    const proven = { types: 'same', play: 'same', why: '', complaints: [] };
    // the hook is made with the first form, and the second one needs it
    expect(told).toEqual([
      ['WeighingSlip', proven, 2],
      ['SecondSlip', proven, 1],
    ]);
  });

  it('says in plain words what could not be proven where nothing is installed', async () => {
    const home = orchard({ 'WeighingSlip.tsx': slip });
    rmSync(path.join(home.folder, 'node_modules'), { recursive: true });
    const run = await home.run('apply', 'WeighingSlip.tsx', '--to', 'reducer');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    expect(run.stdout).toMatch(/not proven +types +typescript is not installed here/);
    expect(run.stdout).toMatch(/not proven +behaviour +react is not installed here/);
    expect(home.read('WeighingSlip.tsx')).toContain('useReducer');
  });

  it('writes nothing where the compiler has a new complaint', async () => {
    // what the values are given is typed by a field of another name, which a reducer's actions do not tell
    const typed = slip
      .replace("useState('')", "useState<Row>('A')")
      .replace('type Slip = { row: string;', "type Row = 'A' | 'B';\ntype Slip = { row: string;")
      .replace('setRow(e.target.value)', 'setRow(e.target.value as Row)')
      .replace("setRow('')", "setRow('C' as never)");
    const home = orchard({ 'WeighingSlip.tsx': typed });
    const checker = typescriptChecker();
    const file = path.join(home.folder, 'WeighingSlip.tsx');
    const same = await checker.compare([file], new Map([[file, typed]]));
    expect(same).toEqual({ kind: 'same' });
    const worse = await checker.compare([file], new Map([[file, typed.replace("'C' as never", "'C'")]]));
    expect(worse).toMatchObject({ kind: 'worse', complaints: [{ line: expect.any(Number) as number }] });
  });

  it('refutes a result that cannot be shown where the form could, and says why', async () => {
    const home = orchard({ 'WeighingSlip.tsx': slip });
    const file = path.join(home.folder, 'WeighingSlip.tsx');
    const result = await rewriteForm({ file, to: 'reducer' }, diskWorkspace, { ownValueNames: [] });
    if (result.kind !== 'rewrite') throw new Error(JSON.stringify(result));
    const play = (): Promise<TrialResult> =>
      Promise.resolve({ kind: 'unplayable', reason: 'after: row is not defined', next: '', broken: true });
    const one = { file, framework: 'react', rewrite: result.rewrite, after: new Map<string, string>(), play } as const;
    const { proof } = await proverFor('play').prove(one);
    expect(proof).toMatchObject({ types: 'none', play: 'different' });
    expect(proofText(proof, home.folder, paintFor(false))).toMatch(
      /refuted +behaviour +the result behaves differently: after: row is not defined$/,
    );
  });

  it('compares what Angular’s own compiler says of a template', async () => {
    const component = `import { Component } from '@angular/core';
import { FormsModule } from '@angular/forms';
@Component({
  selector: 'orchard-note',
  imports: [FormsModule],
  template: \`<form (ngSubmit)="store()"><input name="row" aria-label="Row" [(ngModel)]="row"><button>Note</button></form>\`,
})
export class NoteComponent {
  row = '';
  store(): void {
    this.row = '';
  }
}
`;
    const { angularChecker } = await import('../src/proof/angular-checker.js');
    const home = orchard({ 'note.component.ts': component });
    const file = path.join(home.folder, 'note.component.ts');
    const checker = angularChecker();
    expect(await checker.compare([file], new Map([[file, component]]))).toEqual({ kind: 'same' });
    const wrong = component.replace('[(ngModel)]="row"', '[(ngModel)]="rows"');
    expect(await checker.compare([file], new Map([[file, wrong]]))).toMatchObject({ kind: 'worse' });
  });
});

/** A player with a script in the place of a bundle. */
async function played(
  bundle: string,
  seconds = 20,
): Promise<Awaited<ReturnType<ReturnType<typeof openPlayer>['play']>>> {
  const player = openPlayer(path.join(root, 'dist', 'trial-player.js'), seconds);
  const hints = { right: {}, wrong: {}, submit: [] };
  return player.play({ versions: [{ name: 'before', bundle }], steps: [], hints, answers: {}, requests: [] });
}

const button = "document.getElementById('root').innerHTML = '<button>' + text + '</button>';";

describe('the process that plays', () => {
  it('gives a page what browsers have, and the same numbers every time', async () => {
    const names = ['structuredClone', 'MessageChannel', 'matchMedia', 'ResizeObserver', 'IntersectionObserver'];
    const script = `const text = ${JSON.stringify(names)}.filter((name) => typeof window[name] !== 'function').join() + crypto.randomUUID(); ${button}`;
    const [one, two] = [await played(script), await played(script)];
    expect(one).toMatchObject({ ok: true, reply: { ok: true } });
    expect(JSON.stringify(one)).toBe(JSON.stringify(two));
    expect(JSON.stringify(one)).toMatch(/"label":"[0-9a-f]{8}-/);
  });

  it.each([
    ['the constructor of a function it was handed', "fetch.constructor('return process.env.HOME')()"],
    ['the constructor of that', "spy.constructor.constructor('return process')()"],
    [
      'asynchronous code',
      "(async () => {}).constructor === Object.getPrototypeOf(fetch).constructor ? 'same' : fetch.constructor('return 1')()",
    ],
    [
      'modules',
      "window.eval('import(\"node:fs\")').then(() => (document.title = 'out'), () => {}), require('node:fs')",
    ],
  ])('keeps a page from reaching it by %s', async (_what, code) => {
    const result = await played(
      `let text = 'nothing'; try { text = 'reached ' + String(${code}); } catch { text = 'refused'; } ${button}`,
    );
    expect(JSON.stringify(result)).toContain('refused');
    expect(JSON.stringify(result)).not.toContain('reached');
  });

  it('takes no answer from a page', async () => {
    const result = await played(`const text = 'own'; ${button} console.log(JSON.stringify({ reply: { ok: false } }));`);
    expect(result).toMatchObject({ ok: true, reply: { ok: true } });
  });

  it('ends what computes without an end, by the work it took', async () => {
    const result = await played('for (;;) {}', 2);
    expect(result).toMatchObject({ ok: false, reason: expect.stringMatching(/processor time/) as string });
  });
});
