import { chmodSync, readFileSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { project, root, runProgram, type TestProject } from './tools/project.js';

const form = readFileSync(path.join(root, 'demo/src/cuttings/CuttingRequest.tsx'), 'utf8');
const made: TestProject[] = [];
afterEach(() => made.splice(0).forEach((one) => one.remove()));

function orchard(files: Record<string, string> = { 'src/Cutting.tsx': form }): TestProject {
  const one = project(files);
  made.push(one);
  return one;
}

describe('apply and undo', () => {
  it('write a rewrite and take it back byte for byte, mode included', async () => {
    const crlf = form.replace(/\n/g, '\r\n').replace(/\r\n$/, '');
    const home = orchard({ 'src/Cutting.tsx': crlf });
    const file = path.join(home.folder, 'src/Cutting.tsx');
    chmodSync(file, 0o640);
    const applied = await home.run(
      'apply',
      '--proof',
      'none',
      'src/Cutting.tsx',
      '--to',
      'reducer',
      '--format',
      'json',
    );
    expect(applied.code, applied.stderr).toBe(0);
    const { entry, files } = JSON.parse(applied.stdout) as { entry: string; files: { after: string }[] };
    const after = home.read('src/Cutting.tsx');
    expect(after).toBe(files[0]?.after);
    expect(after).toContain('useReducer');
    expect(after.match(/(?<!\r)\n/g)).toBeNull();
    expect(after.endsWith('}')).toBe(true);
    expect(statSync(file).mode & 0o777).toBe(0o640);
    expect((await home.run('undo', entry)).code).toBe(0);
    expect(home.read('src/Cutting.tsx')).toBe(crlf);
    expect(statSync(file).mode & 0o777).toBe(0o640);
    expect(home.read('.lively-graft/.gitignore')).toBe('*\n');
  });

  it('say that a form follows the approach already, and change nothing', async () => {
    const home = orchard();
    await home.run('apply', '--proof', 'none', 'src/Cutting.tsx', '--to', 'reducer');
    const once = home.read('src/Cutting.tsx');
    const again = await home.run('apply', '--proof', 'none', 'src/Cutting.tsx', '--to', 'reducer');
    expect(again.code).toBe(0);
    expect(again.stdout).toContain('follows reducer already');
    expect(home.read('src/Cutting.tsx')).toBe(once);
  });

  it('refuse to undo over a later change, unless told to', async () => {
    const home = orchard();
    await home.run('apply', '--proof', 'none', 'src/Cutting.tsx', '--to', 'reducer');
    home.write('src/Cutting.tsx', `${home.read('src/Cutting.tsx')}// later\n`);
    const refused = await home.run('undo');
    expect(refused.code).toBe(2);
    expect(refused.stderr).toContain('src/Cutting.tsx changed since');
    expect(home.read('src/Cutting.tsx')).toContain('// later');
    expect((await home.run('undo', '--overwrite')).code).toBe(0);
    expect(home.read('src/Cutting.tsx')).toBe(form);
  });

  it('write nothing when the trial differs or a place is left by hand', async () => {
    const generic = `import { useState } from 'react';\nexport function Box<T extends string>({ first, keep }: { first: T; keep: (v: T) => void }) {\n  const [v, setV] = useState<T>(first);\n  const [n, setN] = useState(0);\n  return <form onSubmit={(e) => { e.preventDefault(); keep(v); }}><input value={v} onChange={() => setV(first)} /><input value={n} onChange={() => setN(1)} /></form>;\n}\n`;
    const home = orchard({ 'Box.tsx': generic });
    const run = await home.run('apply', '--proof', 'none', 'Box.tsx', '--to', 'reducer');
    expect(run.code).toBe(1);
    expect(run.stdout).toContain('type parameter of the component');
    expect(home.read('Box.tsx')).toBe(generic);
    const marked = await home.run('apply', '--proof', 'none', 'Box.tsx', '--to', 'reducer', '--accept-by-hand');
    expect(marked.code).toBe(0);
    expect(home.read('Box.tsx')).toMatch(/^ {2}\/\/ graft: line 3,/m);
    expect((await home.run('undo')).code).toBe(0);
    expect(home.read('Box.tsx')).toBe(generic);
  });
});

describe('preview', () => {
  it('gives diff, ledger and figures, and writes nothing', async () => {
    const home = orchard();
    const run = await home.run('preview', 'src/Cutting.tsx', '--to', 'reducer', '--format', 'json');
    expect(run.code).toBe(0);
    const result = JSON.parse(run.stdout) as {
      version: number;
      route: string[];
      ledger: { entry: string; line: number }[];
      figures: { before: object; after: object };
      entry: null;
    };
    expect(result.version).toBe(1);
    expect(result.route).toEqual(['field-state', 'reducer']);
    expect(result.ledger.every(({ entry, line }) => /^(carried|kept|retired)$/.test(entry) && line > 0)).toBe(true);
    // every place that names a field or its setter has an entry
    const places = form
      .split('\n')
      .filter((line) => /\bset(Variety|Rootstock|Count|Grafted|Remark)\(/.test(line) && !line.includes('useState'));
    expect(result.ledger.filter(({ entry }) => entry === 'carried').length).toBeGreaterThanOrEqual(places.length);
    expect(result.figures.before).toMatchObject({ stateVariables: 5 });
    expect(result.figures.after).toMatchObject({ stateVariables: 1 });
    expect(home.read('src/Cutting.tsx')).toBe(form);
  });

  it('colours its diff only where it is wanted', async () => {
    const home = orchard();
    const plain = await runProgram(home.folder, ['preview', 'src/Cutting.tsx', '--to', 'reducer'], {
      FORCE_COLOR: '1',
      NO_COLOR: '1',
    });
    expect(plain.stdout.includes('\u001b[')).toBe(false);
    const coloured = await runProgram(home.folder, ['preview', 'src/Cutting.tsx', '--to', 'reducer'], {
      FORCE_COLOR: '1',
      NO_COLOR: '',
    });
    expect(coloured.stdout).toContain('\u001b[32m+');
  });
});

describe('survey', () => {
  it('lists every form of the demo with its approach, and nothing that is ignored or no form', async () => {
    const home = orchard({
      '.gitignore': 'old/\n',
      'old/Cutting.tsx': form,
      'dist/Cutting.tsx': form,
      'src/Search.jsx':
        "import { useState } from 'react';\nexport const Search = ({ rows }) => { const [text, setText] = useState(''); return <div><input value={text} onChange={(e) => setText(e.target.value)} />{rows.filter((row) => row.includes(text)).length}</div>; };\n",
      'src/Broken.tsx':
        'export function Broken() { const [a, setA] = useState(; return <form onSubmit={a}><input /></form>; }\n',
    });
    home.copy('demo/src', 'src/demo');
    const run = await home.run('survey', '--format', 'json');
    expect(run.code).toBe(0);
    const result = JSON.parse(run.stdout) as {
      files: { failed: { file: string; reason: string }[] };
      forms: { name: string; approach: string; file: string; fields: unknown[] }[];
    };
    const approaches = Object.fromEntries(result.forms.map(({ name, approach }) => [name, approach]));
    expect(approaches).toEqual({
      CuttingRequest: 'field-state',
      FrostWatch: 'field-state',
      GateNote: 'dom-values',
      WeighingSlip: 'class-state',
      GradingSlip: 'object-state',
      HarvestLog: 'field-state',
      PestSighting: 'reducer',
      PlotBooking: 'field-state',
      ScionOrderForm: 'react-hook-form',
      ToolLoan: 'object-state',
      CiderTastingComponent: 'signal-model',
      PestPatrolComponent: 'template-driven',
      PressBookingComponent: 'model-driven',
    });
    expect(result.forms.find(({ name }) => name === 'HarvestLog')?.fields).toHaveLength(11);
    expect(result.files.failed).toEqual([
      { file: 'src/Broken.tsx', reason: expect.stringContaining('line 1') as string },
    ]);
    const again = await home.run('survey', '--format', 'json');
    expect(again.stdout).toBe(run.stdout);
  });

  it('recognises forms of libraries', async () => {
    const home = orchard({
      'a.jsx':
        "import { useForm } from 'react-hook-form';\nexport const A = () => { const { register, handleSubmit } = useForm(); return <form onSubmit={handleSubmit(console.log)}><input {...register('row')} /></form>; };\n",
      'b.jsx':
        "import { Formik, Field, Form } from 'formik';\nexport const B = () => <Formik initialValues={{ row: '' }} onSubmit={console.log}><Form onSubmit={console.log}><Field name=\"row\" /></Form></Formik>;\n",
      'c.jsx':
        'import { useForm } from \'@tanstack/react-form\';\nexport const C = () => { const form = useForm(); return <form onSubmit={form.handleSubmit}><form.Field name="row">{(f) => <input value={f.state.value} onChange={(e) => f.handleChange(e.target.value)} />}</form.Field></form>; };\n',
      'd.jsx':
        "import { useRow } from './useRow';\nexport const D = () => { const { values, change, submit } = useRow({ row: '' }); return <form onSubmit={submit}><input name=\"row\" value={values.row} onChange={change} /></form>; };\n",
    });
    const { stdout } = await home.run('survey', '--format', 'json', '--no-cache');
    const { forms } = JSON.parse(stdout) as { forms: { approach: string; fields: { name: string }[] }[] };
    expect(forms.map(({ approach }) => approach)).toEqual(['react-hook-form', 'formik', 'tanstack-form', 'own-hook']);
    expect(forms.every(({ fields }) => fields.some(({ name }) => name === 'row'))).toBe(true);
  });
});

describe('inspect', () => {
  it('tells fields, controls, rules and what was left out', async () => {
    const home = orchard();
    const run = await home.run('inspect', 'src/Cutting.tsx');
    expect(run.code).toBe(0);
    for (const words of [
      'Fields (5)',
      '“Variety”',
      'starts as rootstocks[0]',
      '“Name the variety”',
      'problem',
      'a message for the form',
      'stops if something is wrong',
      'sends onRequest(',
    ])
      expect(run.stdout).toContain(words);
  });
});

describe('bad input gets one clear message, exit code 2, and changes nothing', () => {
  const two =
    form.replace('export function CuttingRequest', 'export function Other') +
    form.slice(form.indexOf('// Members ask'));
  const bad: [string, Record<string, string>, string[], RegExp][] = [
    [
      'a file that nobody wrote by hand',
      { 'a.tsx': `export const rows = ['${'plum '.repeat(500_000)}'];\n` },
      ['inspect', 'a.tsx'],
      /cannot read a\.tsx: it holds 2\.5 MB; files above 2 MB are not read/,
    ],
    [
      'elements in elements in elements',
      { 'a.jsx': `export const Deep = () => ${'<div>'.repeat(9000)}${'</div>'.repeat(9000)};\n` },
      ['inspect', 'a.jsx'],
      /a\.jsx: it is nested too deeply to be read\n {2}next: /,
    ],
    [
      'no form in the file',
      { 'a.tsx': 'export const n = 1;\n' },
      ['preview', 'a.tsx', '--to', 'reducer'],
      /holds no form/,
    ],
    [
      'several forms and no --form',
      { 'a.tsx': two },
      ['preview', 'a.tsx', '--to', 'reducer'],
      /holds 2 forms: Other, CuttingRequest\n {2}next: say which one with --form/,
    ],
    [
      'an unknown form',
      { 'a.tsx': form },
      ['preview', 'a.tsx', '--to', 'reducer', '--form', 'Pear'],
      /no form called Pear\n {2}next: choose one of: CuttingRequest/,
    ],
    [
      'an unknown approach',
      { 'a.tsx': form },
      ['preview', 'a.tsx', '--to', 'reduce'],
      /there is no approach reduce\n {2}next: did you mean reducer/,
    ],
    ['no approach', { 'a.tsx': form }, ['apply', 'a.tsx'], /no approach is given/],
    [
      'a target that equals the source',
      { 'a.tsx': form },
      ['preview', 'a.tsx', '--to', 'field-state'],
      /follows field-state already/,
    ],
    [
      'a file that is not there',
      {},
      ['preview', 'gone.tsx', '--to', 'reducer'],
      /cannot read gone.tsx: there is no such file/,
    ],
    ['a folder', { 'src/a.tsx': form }, ['inspect', 'src'], /it is a folder, not a file/],
    [
      'a syntax error',
      { 'a.tsx': 'const [a = ;\n' },
      ['apply', 'a.tsx', '--to', 'reducer'],
      /a.tsx:1:\d+ does not parse/,
    ],
    [
      'an approach that is not written',
      { 'a.tsx': form },
      ['apply', 'a.tsx', '--to', 'class-state'],
      /no rewrite to class-state is covered/,
    ],
    [
      'a settings file that is no JSON',
      { 'a.tsx': form, 'lively-graft.config.json': '{' },
      ['apply', 'a.tsx', '--to', 'reducer'],
      /are no JSON/,
    ],
    [
      'a settings file with a wrong key',
      { 'a.tsx': form, 'lively-graft.config.json': '{ "prefer": { "aproach": "reducer" } }' },
      ['apply', 'a.tsx', '--to', 'reducer'],
      /prefer.aproach is no known key/,
    ],
    ['an unknown option', { 'a.tsx': form }, ['apply', 'a.tsx', '--into', 'reducer'], /Unknown argument/],
    [
      'steps that are no steps',
      { 'a.tsx': form, 's.json': '[{ "jump": 1 }]' },
      ['trial', 'a.tsx', '--to', 'reducer', '--steps', 's.json'],
      /s.json: \/0/,
    ],
    ['bytes that are no text', { 'a.tsx': '' }, ['inspect', 'a.tsx'], /holds no form/],
  ];
  it.each(bad)('%s', async (_what, files, parameters, message) => {
    const home = orchard(files);
    const run = await home.run(...parameters);
    expect(run.stderr).toMatch(message);
    expect(run.stderr.match(/^lively-graft: /gm)).toHaveLength(1);
    expect(run.stderr).toContain('  next: ');
    expect(run.code).toBe(2);
    expect(run.stdout).toBe('');
    for (const [name, text] of Object.entries(files)) expect(home.read(name)).toBe(text);
  });
});

describe('trial', () => {
  it('ends with a clear answer when a form cannot be played', async () => {
    const wrap = (body: string): string =>
      `import { useState, useEffect, useContext, createContext } from 'react';\nconst C = createContext(null);\nexport function F() { const [row, setRow] = useState(''); const [n, setN] = useState(0); ${body} return <form onSubmit={(e) => e.preventDefault()}><input value={row} onChange={(e) => setRow(e.target.value)} />{n}<button>go</button></form>; }\n`;
    const home = orchard({
      'throws.jsx': wrap("throw new Error('no water');"),
      'loops.jsx': wrap(
        'useEffect(() => { const t = setTimeout(() => setN(n + 1), 0); return () => clearTimeout(t); });',
      ),
      'spins.jsx': wrap('if (row === "?") for (;;) {}'),
      'context.jsx': wrap('const { name } = useContext(C);'),
      'never.jsx': wrap('useEffect(() => { new Promise(() => {}).then(() => setN(1)); }, []);'),
    });
    const same = (name: string): Promise<{ code: number; stderr: string }> => home.run('trial', name, name);
    const [throws, loops, context, never] = await Promise.all(
      ['throws.jsx', 'loops.jsx', 'context.jsx', 'never.jsx'].map(same),
    );
    expect(throws).toMatchObject({ code: 2, stderr: expect.stringContaining('no water') as string });
    expect(loops).toMatchObject({ code: 2, stderr: expect.stringContaining('without an end') as string });
    expect(context).toMatchObject({ code: 2, stderr: expect.stringMatching(/null/) as string });
    expect(never?.code).toBe(0);
    const spins = await runProgram(home.folder, ['trial', 'spins.jsx', 'spins.jsx'], {
      LIVELY_GRAFT_PLAY_SECONDS: '8',
    });
    expect(spins).toMatchObject({
      code: 2,
      stderr: expect.stringContaining('without an end') as string,
    });
  });

  it('names the framework that a project lacks', async () => {
    const home = orchard();
    rmSync(path.join(home.folder, 'node_modules'), { recursive: true });
    const run = await home.run('trial', 'src/Cutting.tsx', '--to', 'reducer');
    expect(run.code).toBe(2);
    expect(run.stderr).toContain('npm install react react-dom');
  });

  it('prints steps that can be given back', async () => {
    const home = orchard();
    const printed = await home.run('trial', 'src/Cutting.tsx', '--to', 'reducer', '--print-steps');
    expect(printed.code, printed.stderr).toBe(0);
    home.write('steps.json', printed.stdout);
    const again = await home.run(
      'trial',
      'src/Cutting.tsx',
      '--to',
      'reducer',
      '--steps',
      'steps.json',
      '--format',
      'json',
    );
    expect(again.code, again.stderr).toBe(0);
    const { steps, same, renders } = JSON.parse(again.stdout) as {
      steps: unknown[];
      same: boolean;
      renders: { before: number };
    };
    expect(same).toBe(true);
    expect(steps.length).toBe((JSON.parse(printed.stdout) as unknown[]).length + 1);
    expect(renders.before).toBeGreaterThan(0.5);
  });
});
