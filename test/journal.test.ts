import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { project, root, runProgram, type Run, type TestProject } from './tools/project.js';

const form = (name: string): string => `import { useState } from 'react';
export function ${name}({ book }) {
  const [plot, setPlot] = useState('');
  const [hours, setHours] = useState('2');
  return (
    <form onSubmit={(e) => { e.preventDefault(); book({ plot, hours }); }}>
      <input aria-label="Plot" value={plot} onChange={(e) => setPlot(e.target.value)} />
      <input aria-label="Hours" value={hours} onChange={(e) => setHours(e.target.value)} />
      <button>Book</button>
    </form>
  );
}
`;
const files = { 'src/PlotBooking.jsx': form('PlotBooking'), 'src/ToolBooking.jsx': form('ToolBooking') };
const homes: TestProject[] = [];
afterAll(() => homes.forEach((home) => home.remove()));

function orchard(more: Record<string, string> = {}): TestProject {
  const home = project({ ...files, ...more });
  homes.push(home);
  return home;
}

const broken = path.join(root, 'test', 'tools', 'broken-disk.mjs');

/** Runs the program on a disk that breaks at a write. */
function breaking(home: TestProject, at: number, how: 'kill' | 'full', ...parameters: string[]): Promise<Run> {
  const env = { NODE_OPTIONS: `--import ${broken}`, BREAK_AT: String(at), BREAK_HOW: how };
  return runProgram(home.folder, parameters, env);
}

function textsOf(home: TestProject): Record<string, string> {
  const names = readdirSync(path.join(home.folder, 'src')).sort();
  return Object.fromEntries(names.map((name) => [`src/${name}`, home.read(`src/${name}`)]));
}

const both = ['apply', ...Object.keys(files), '--to', 'own-hook', '--proof', 'none'];

describe('a call that is cut off', () => {
  it.each([4, 9, 14, 17, 20])('at write %i leaves no mixture once the next command ran', async (at) => {
    const home = orchard();
    const cut = await breaking(home, at, 'kill', ...both);
    expect(cut.code).not.toBe(0);
    const next = await home.run('undo', '--list');
    expect(next.code, next.stderr).toBe(0);
    const now = textsOf(home);
    const isOld = JSON.stringify(now) === JSON.stringify(files);
    const isNew = Object.keys(now).length === 3 && /useFormValues/.test(now['src/ToolBooking.jsx'] ?? '');
    expect([isOld, isNew]).toContain(true);
    if (isOld && /cut off/.test(next.stderr)) expect(next.stderr).toContain('its files are as they were before');
  });

  it('by a full disk says so, writes nothing, and leaves nothing behind', async () => {
    const home = orchard();
    for (const at of [3, 8, 15, 18]) {
      const run = await breaking(home, at, 'full', ...both);
      expect(run.code).toBe(2);
      expect(run.stderr).toMatch(/no space left.*|cannot write/s);
      expect(textsOf(home)).toEqual(files);
    }
    const again = await home.run(...both);
    expect(again.code, again.stderr).toBe(0);
  });

  it('while it undid is finished by the next command', async () => {
    const home = orchard();
    await home.run('apply', 'src/PlotBooking.jsx', '--to', 'own-hook', '--proof', 'none');
    await breaking(home, 7, 'kill', 'undo');
    const next = await home.run('undo', '--list');
    expect(next.stderr).toContain('its undo was cut off; it is finished now');
    expect(textsOf(home)).toEqual(files);
  });
});

describe('undo', () => {
  it('keeps what a later rewrite needs, and takes it away with that one', async () => {
    const home = orchard();
    const first = await home.run('apply', 'src/PlotBooking.jsx', '--to', 'own-hook', '--proof', 'none');
    expect(first.code, first.stderr).toBe(0);
    await home.run('apply', 'src/ToolBooking.jsx', '--to', 'own-hook', '--proof', 'none');
    const run = await home.run('undo', '1');
    expect(run.stdout).toMatch(/stays +src\/useFormValues\.js +0002-ToolBooking-own-hook needs it/);
    expect(textsOf(home)['src/useFormValues.js']).toContain('export function useFormValues');
    await home.run('undo');
    expect(textsOf(home)).toEqual(files);
  });

  it('names damaged entries, follows none out of the project, and still undoes the others', async () => {
    const home = orchard();
    for (const file of Object.keys(files)) await home.run('apply', file, '--to', 'reducer', '--proof', 'none');
    const second = path.join(home.folder, '.lively-graft', '0002-ToolBooking-reducer', 'entry.json');
    writeFileSync(second, readFileSync(second, 'utf8').replace('src/ToolBooking.jsx', '../away.jsx'));
    const named = await home.run('undo', '2');
    expect(named.code).toBe(2);
    expect(named.stderr).toMatch(
      /0002-ToolBooking-reducer is damaged: its file \.\.\/away\.jsx leads out of the project/,
    );
    const run = await home.run('undo');
    expect(run.code, run.stderr).toBe(0);
    expect(run.stderr).toContain('0002-ToolBooking-reducer is damaged and left alone');
    expect(home.read('src/PlotBooking.jsx')).toBe(files['src/PlotBooking.jsx']);
  });

  it('finds the journals of packages from the top of a workspace', async () => {
    const home = orchard({
      'packages/stall/package.json': '{ "name": "stall" }',
      'packages/stall/StallNote.jsx': form('StallNote'),
    });
    const inside = path.join(home.folder, 'packages', 'stall');
    await runProgram(inside, ['apply', 'StallNote.jsx', '--to', 'reducer', '--proof', 'none']);
    const run = await home.run('undo');
    expect(run.stdout).toContain('packages/stall/StallNote.jsx');
    expect(home.read('packages/stall/StallNote.jsx')).toBe(form('StallNote'));
  });
});

describe('several at once', () => {
  it('wait for one another', async () => {
    const home = orchard();
    const runs = await Promise.all(
      Object.keys(files).map((file) => home.run('apply', file, '--to', 'reducer', '--proof', 'none')),
    );
    expect(runs.map(({ code }) => code)).toEqual([0, 0]);
    const list = await home.run('undo', '--list', '--format', 'json');
    expect((JSON.parse(list.stdout) as { entries: object[] }).entries).toHaveLength(2);
  });

  it('give one JSON value, and write all or none', async () => {
    const home = orchard({ 'src/Broken.jsx': form('Broken').replace("useState('2')", 'useState(') });
    const none = await home.run('apply', ...Object.keys(files), 'src/Broken.jsx', '--to', 'reducer', '--proof', 'none');
    expect(none.code).toBe(2);
    expect(home.read('src/PlotBooking.jsx')).toBe(files['src/PlotBooking.jsx']);
    const run = await home.run(...both, '--format', 'json');
    const { rewrites } = JSON.parse(run.stdout) as { rewrites: { form: string; entry: string }[] };
    expect(rewrites.map((one) => one.form)).toEqual(['PlotBooking', 'ToolBooking']);
  });
});

describe('bad places', () => {
  it('are told before anything is written', async () => {
    const home = orchard();
    mkdirSync(path.join(home.folder, 'src', 'Folder.jsx'));
    execFileSync('mkfifo', [path.join(home.folder, 'src', 'Pipe.jsx')]);
    const cases: [string[], RegExp][] = [
      [['apply', 'src/Folder.jsx', '--to', 'reducer'], /it is a folder, not a file/],
      [['apply', 'src/Pipe.jsx', '--to', 'reducer'], /it is no plain file/],
      [
        ['apply', 'src/PlotBooking.jsx', '--to', 'reducer', '--proof', 'none', '--out', 'src/PlotBooking.jsx'],
        /is a file of the form/,
      ],
      [
        ['apply', 'src/PlotBooking.jsx', '--to', 'reducer', '--proof', 'none', '--out', 'nowhere/x.json'],
        /cannot write nowhere/,
      ],
    ];
    for (const [parameters, words] of cases) {
      const run = await home.run(...parameters);
      expect([run.code, run.stderr]).toEqual([2, expect.stringMatching(words)]);
    }
    expect(home.read('src/PlotBooking.jsx')).toBe(files['src/PlotBooking.jsx']);
  });
});
