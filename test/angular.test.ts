import { readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { angularErrors } from './tools/angular-check.js';
import { applyAll, inPairs, project, root, type Rewrite } from './tools/project.js';

interface Case {
  file: string;
  form: string;
  component: string;
  from: string;
  to: string;
}

interface Surveyed {
  forms: { file: string; name: string; framework: string; approach: string; fields: { name: string }[] }[];
}

const home = project();
const cases: Case[] = [];
const trouble: string[] = [];
const opposite = (approach: string): string => (approach === 'template-driven' ? 'model-driven' : 'template-driven');

async function survey(folder: string): Promise<Surveyed['forms']> {
  const run = await home.run('survey', folder, '--format', 'json', '--no-cache');
  // forms over a signal have tests of their own
  return (JSON.parse(run.stdout) as Surveyed).forms.filter(({ file }) => !file.includes('cider-tasting'));
}

beforeAll(async () => {
  for (const folder of ['before', 'once', 'twice']) {
    home.copy('test/forms/angular', folder);
    home.copy('demo/src/angular', `${folder}/demo`);
  }
  for (const { file, name, approach } of await survey('before')) {
    const component = name.split(':')[0] ?? name;
    cases.push({ file: file.replace(/^before\//, ''), form: name, component, from: approach, to: opposite(approach) });
  }
  const to = (folder: string, way: 'from' | 'to'): Rewrite[] =>
    cases.map((one) => ({ file: `${folder}/${one.file}`, form: one.form, to: one[way] }));
  for (const rewrites of [to('once', 'to'), to('twice', 'to'), to('twice', 'from')])
    trouble.push(...(await applyAll(home, rewrites)));
}, 400_000);
afterAll(() => home.remove());

describe('Angular forms as people write them', () => {
  it('are all found', () => {
    const files = readdirSync(path.join(root, 'test', 'forms', 'angular')).filter((name) =>
      name.endsWith('.component.ts'),
    );
    for (const file of files) expect(cases.map((one) => path.basename(one.file))).toContain(file);
    expect(cases.length).toBeGreaterThanOrEqual(17);
  });

  it('are rewritten, to the other approach and back', () => {
    expect(trouble).toEqual([]);
  });

  it('are read as what they became, with the same fields', async () => {
    const [before, once, twice] = [await survey('before'), await survey('once'), await survey('twice')];
    for (const [index, form] of before.entries()) {
      expect(once[index]?.approach, form.name).toBe(opposite(form.approach));
      expect(twice[index]?.approach, form.name).toBe(form.approach);
      const names = form.fields.map(({ name }) => name).sort();
      expect(once[index]?.fields.map(({ name }) => name).sort(), form.name).toEqual(names);
      expect(twice[index]?.fields.map(({ name }) => name).sort(), form.name).toEqual(names);
    }
  });

  it('compile under strict templates before, after and back again', () => {
    expect(angularErrors(home.folder, 'before', 'once', 'twice')).toBe('');
  });

  it('gain no cast, no any and no silencing comment', () => {
    const count = (text: string): number =>
      text.match(/\bas (?!const)\w|\bany\b|\$any|@ts-|eslint-disable/g)?.length ?? 0;
    for (const { file } of cases)
      expect(count(home.read(`once/${file}`)), file).toBeLessThanOrEqual(count(home.read(`before/${file}`)));
  });

  it('leave nothing of the old approach behind', () => {
    for (const { file, to } of cases) {
      const text = home.read(`once/${file}`);
      if (to === 'template-driven') expect(text, file).not.toMatch(/formControlName|ReactiveFormsModule|new FormGroup/);
      else expect(text, file).not.toMatch(/\[\(ngModel\)\]="(?!wanted)|NgForm\b/);
    }
  });

  it('play the same after the rewrite and after the way back', async () => {
    // plays take most of the time: every sixteenth form after the way there and back, every thirty-second after the way there
    const every = process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined;
    const plays = [...new Map(cases.map((one) => [one.file + one.component, one])).values()].flatMap((one, index) => {
      const folders = every ? ['once', 'twice'] : index % 64 === 1 ? ['once'] : index % 32 ? [] : ['twice'];
      return folders.map((folder) => ({ ...one, folder }));
    });
    const answers = await inPairs(plays, async ({ file, component, folder }) => {
      const run = await home.run('trial', `before/${file}`, `${folder}/${file}`, '--form', component);
      return run.code === 0 ? [] : [`${folder} ${component}: ${run.stdout}${run.stderr}`];
    });
    expect(answers.flat()).toEqual([]);
  }, 480_000);
});

const note = `import { Component } from '@angular/core';
import { FormsModule } from '@angular/forms';
@Component({ selector: 'orchard-note', imports: [FormsModule], templateUrl: './note.html' })
export class NoteComponent {
  note = { row: '', text: '' };
  keep() {}
}
`;
const markup = `<form (ngSubmit)="keep()">
  <input name="row" [(ngModel)]="note.row" required>
  <input name="text" [(ngModel)]="note.text">
  <button>Keep</button>
</form>
`;

describe('what an Angular project may lack', () => {
  const broken = project();
  afterAll(() => broken.remove());

  it('names a template that is not there', async () => {
    broken.write('gone/note.ts', note);
    const run = await broken.run('preview', 'gone/note.ts', '--to', 'model-driven');
    expect(run.code).toBe(2);
    expect(run.stderr).toMatch(/note\.ts:3:\d+ NoteComponent: its template \.\/note\.html cannot be read/);
  });

  it('names the place where a template does not parse', async () => {
    broken.write('odd/note.ts', note);
    broken.write('odd/note.html', markup.replace('<button>', '<button></form>'));
    const run = await broken.run('inspect', 'odd/note.ts');
    expect(run.code).toBe(2);
    expect(run.stderr).toMatch(/note\.html:4:\d+ NoteComponent: its template does not parse/);
  });

  it('says that no module declares a component', async () => {
    broken.write('alone/note.ts', note.replace('imports: [FormsModule]', 'standalone: false'));
    broken.write('alone/note.html', markup);
    const run = await broken.run('preview', 'alone/note.ts', '--to', 'model-driven');
    expect(run.code).toBe(2);
    expect(run.stderr).toMatch(/no module that declares NoteComponent was found/);
  });

  it('asks which of two forms is meant', async () => {
    broken.write('two/note.ts', note);
    broken.write('two/note.html', markup + markup.replace('keep()', 'lose()').replaceAll('name="', 'name="other'));
    const run = await broken.run('preview', 'two/note.ts', '--to', 'model-driven');
    expect(run.code).toBe(2);
    expect(run.stderr).toMatch(/2 forms: NoteComponent:keep, NoteComponent:lose/);
    expect(run.stderr).toMatch(/--form NAME/);
  });

  it('names the lines of a spec file and leaves them', async () => {
    broken.write('spec/note.ts', note);
    broken.write('spec/note.html', markup);
    broken.write(
      'spec/note.spec.ts',
      "import { FormsModule } from '@angular/forms';\nexport const used = [FormsModule];\n",
    );
    const run = await broken.run('preview', 'spec/note.ts', '--to', 'model-driven', '--format', 'json');
    const { ledger, files } = JSON.parse(run.stdout) as {
      ledger: { file: string; line: number; entry: string }[];
      files: { file: string }[];
    };
    expect(ledger.filter(({ file }) => file.endsWith('.spec.ts')).map(({ line, entry }) => [line, entry])).toEqual([
      [1, 'kept'],
      [2, 'kept'],
    ]);
    expect(files.map(({ file }) => file).sort()).toEqual(['spec/note.html', 'spec/note.ts']);
  });

  it('leaves controls that a table names by hand, with line and reason', async () => {
    const table = markup.replace(
      '<button>',
      '<div *ngFor="let key of keys"><input [name]="key" [(ngModel)]="note.more[key]"></div>\n  <button>',
    );
    broken.write('rows/note.ts', note.replace("text: ''", "text: '', more: { kilos: 1 } as Record<string, number>"));
    broken.write('rows/note.html', table);
    const run = await broken.run('apply', '--proof', 'none', 'rows/note.ts', '--to', 'model-driven');
    expect(run.code).toBe(1);
    expect(run.stdout).toMatch(/by-hand +line 4 /);
    expect(broken.read('rows/note.html')).toBe(table);
  });
});
