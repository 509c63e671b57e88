import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { netted } from '../src/rewrite/net/net.js';
import { formsOfFile } from '../src/rewrite/forms.js';
import { plannedStep } from '../src/rewrite/planned-step.js';
import { diskWorkspace } from '../src/source/workspace.js';
import { angularErrors } from './tools/angular-check.js';
import { applyAll, inPairs, project, root, type TestProject } from './tools/project.js';

interface Case {
  file: string;
  form: string;
  component: string;
  from: string;
  to: string;
}

interface Surveyed {
  forms: { file: string; name: string; approach: string; fields: { name: string }[] }[];
}

const targets = ['template-driven', 'model-driven', 'signal-model', 'template-one-way'];
/** What a colleague would leave as well: a control that is disabled at first, and whose value is sent; what is asked of a form alone. */
const leftOut = new Set([
  'plot-swap.component.ts model-driven',
  'crate-return.component.ts signal-model',
  // a rule of the whole form looks for rows, which a template's form names one by one
  'cider-blend.component.ts template-driven',
  'cider-blend.component.ts template-one-way',
]);
/** Forms of the set for two ways that become forms over a signal. */
const older = ['cutting-note', 'row-clock', 'gate-notes', 'leaf-photo', 'season-report', 'picking-teams'];

const home = project();
const cases: Case[] = [];
const trouble: string[] = [];
const folderOf = (to: string): string => `to-${to}`;

async function survey(folder: string): Promise<Surveyed['forms']> {
  const run = await home.run('survey', folder, '--format', 'json', '--no-cache');
  return (JSON.parse(run.stdout) as Surveyed).forms;
}

beforeAll(async () => {
  for (const folder of ['before', ...targets.map(folderOf)]) {
    home.copy('test/forms/angular-signals', folder);
    // these only become forms over a signal
    if (!/^before$|signal-model$/.test(folder)) continue;
    home.copy('test/forms/angular', `${folder}/older`);
    home.copy('test/forms/angular-to-signals', `${folder}/older/more`);
  }
  for (const { file, name, approach } of await survey('before')) {
    const own = file.replace(/^before\//, '');
    const isOlder = own.startsWith('older/');
    if (isOlder && !own.includes('/more/') && !older.some((one) => own.includes(one))) continue;
    for (const to of isOlder ? ['signal-model'] : targets) {
      if (to === approach || leftOut.has(`${path.basename(own)} ${to}`)) continue;
      cases.push({ file: own, form: name, component: name.split(':')[0] ?? name, from: approach, to });
    }
  }
  for (const to of targets) {
    const rewrites = cases
      .filter((one) => one.to === to)
      .map((one) => ({ ...one, file: `${folderOf(to)}/${one.file}` }));
    trouble.push(...(await applyAll(home, rewrites)));
  }
}, 200_000);
afterAll(() => home.remove());

describe('Angular forms on the newer ways', () => {
  it('are rewritten from and to what they can be', () => {
    expect(trouble).toEqual([]);
    expect(cases.length).toBeGreaterThanOrEqual(24);
  });

  it('are read as what they became, with the same fields', async () => {
    const before = await survey('before');
    for (const to of targets) {
      const after = await survey(folderOf(to));
      for (const one of cases.filter((each) => each.to === to)) {
        const of = (forms: Surveyed['forms'], folder: string): Surveyed['forms'][number] | undefined =>
          forms.find(({ file, name }) => file === `${folder}/${one.file}` && name === one.form);
        const [old, now] = [of(before, 'before'), of(after, folderOf(to))];
        expect(now?.approach, `${one.file} to ${to}`).toBe(to);
        const names = (form: typeof old): string[] => form?.fields.map(({ name }) => name).sort() ?? [];
        expect(names(now), `${one.file} to ${to}`).toEqual(names(old));
      }
    }
  });

  it('compile under strict templates', () => {
    // one run of the compiler for all of them
    expect(angularErrors(home.folder, 'to-*')).toBe('');
  });

  it('leave nothing of the old way behind, and gain no cast and no any', () => {
    const casts = (text: string): number => text.match(/\bas (?!const)\w|\bany\b|\$any|@ts-/g)?.length ?? 0;
    for (const { file, to } of cases) {
      const name = `${folderOf(to)}/${file}`;
      const text =
        home.read(name) + (/pest-round|night-lamp/.test(file) ? home.read(name.replace(/\.ts$/, '.html')) : '');
      expect(casts(text), name).toBeLessThanOrEqual(casts(home.read(`before/${file}`)));
      if (to === 'signal-model') expect(text, name).not.toMatch(/ngModel|NgForm|formControlName|FormGroup|FormsModule/);
      if (to === 'template-one-way') expect(text, name).not.toMatch(/\[\(ngModel\)\]|formControlName/);
      if (to !== 'template-one-way') expect(text, name).not.toMatch(/formTold|FormToldDirective/);
    }
  });

  it('play the same', async () => {
    // one play of every tenth form that stands here
    const files = [...new Set(cases.filter(({ file }) => !file.includes('/')).map(({ file }) => file))];
    const every = process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined;
    const plays = every
      ? cases
      : files.flatMap((file, index) => {
          if (index % 10) return [];
          const own = cases.filter((one) => one.file === file);
          return own.slice(index % own.length, (index % own.length) + 1);
        });
    const answers = await inPairs(plays, async ({ file, component, to }) => {
      const run = await home.run('trial', `before/${file}`, `${folderOf(to)}/${file}`, '--form', component);
      return run.code === 0 ? [] : [`${component} to ${to}: ${run.stdout}${run.stderr}`];
    });
    expect(answers.flat()).toEqual([]);
  }, 200_000);
});

const shell = (template: string, members: string, imports: string, names: string): string =>
  `import { Component } from '@angular/core';
import { ${names} } from '@angular/forms';

@Component({ selector: 'orchard-note', imports: [${imports}], template: \`${template}\` })
export class NoteComponent {
${members}
}
`;
const built = (template: string, members: string): string =>
  shell(template, members, 'ReactiveFormsModule', 'FormControl, FormGroup, ReactiveFormsModule, Validators');
const bound = (template: string, members: string): string => shell(template, members, 'FormsModule', 'FormsModule');

/** Forms that are left by hand, with the line and the reason. */
const refusals: [string, string, string, RegExp][] = [
  [
    'a reset that leaves a text null',
    'signal-model',
    built(
      '<form [formGroup]="note" (ngSubmit)="keep()"><input formControlName="row" /><button>Keep</button></form>',
      "  note = new FormGroup({ row: new FormControl('', Validators.required) });\n  keep() { this.note.reset(); }",
    ),
    /line 6 .*a reset leaves row null/,
  ],
  [
    'a control that is looked up by a name that is told when it runs',
    'signal-model',
    built(
      '<form [formGroup]="note" (ngSubmit)="keep()"><input formControlName="row" /><i>{{ wrong(\'row\') }}</i><button>Keep</button></form>',
      "  note = new FormGroup({ row: new FormControl('', { nonNullable: true }) });\n  wrong(name: string) { return this.note.get(name)?.invalid; }\n  keep() { return this.note.valid; }",
    ),
    /line 7 .*a form over a signal has nothing that says this/,
  ],
  [
    'a stream of a value that the class sets as well',
    'signal-model',
    built(
      '<form [formGroup]="note" (ngSubmit)="keep()"><input formControlName="row" /><button>Keep</button></form>',
      "  told = '';\n  note = new FormGroup({ row: new FormControl('', { nonNullable: true }) });\n  constructor() { this.note.controls.row.valueChanges.subscribe((row) => (this.told = row)); }\n  keep() { this.note.controls.row.setValue('A1'); }",
    ),
    /line 8 .*the class sets this as well/,
  ],
  [
    'a stream whose listener counts, beside a reset',
    'signal-model',
    built(
      '<form [formGroup]="note" (ngSubmit)="keep()"><input formControlName="row" /><button>Keep</button></form>',
      "  told = 0;\n  note = new FormGroup({ row: new FormControl('', { nonNullable: true }) });\n  constructor() { this.note.controls.row.valueChanges.subscribe(() => (this.told += 1)); }\n  keep() { this.note.reset(); }",
    ),
    /line 8 .*a reset tells its value once more/,
  ],
  [
    'rows changed in a template by a loop’s own method',
    'signal-model',
    built(
      '<form [formGroup]="note" (ngSubmit)="keep()"><ul formArrayName="rows"><li *ngFor="let one of note.controls.rows.controls; let i = index; trackBy: same" [formGroupName]="i"><input formControlName="row" /></li></ul><button>Keep</button></form>',
      "  note = new FormGroup({ rows: new FormArray([this.made()]) });\n  made() { return new FormGroup({ row: new FormControl('', { nonNullable: true }) }); }\n  same(at: number) { return at; }\n  keep() { return this.note.valid; }",
    ),
    /says more than a block would|told apart by a method/,
  ],
  [
    'rules that count only while their control is shown',
    'signal-model',
    bound(
      '<form (ngSubmit)="keep()"><input name="row" [(ngModel)]="note.row" />@if (note.row) {<input name="tree" [(ngModel)]="note.tree" required />}<button>Keep</button></form>',
      "  note = { row: '', tree: '' };\n  keep() { return this.note.row; }",
    ),
    /line 4 .*its rules count only while it is shown/,
  ],
  [
    'code that runs on each key',
    'signal-model',
    built(
      '<form [formGroup]="note" (ngSubmit)="keep()"><input formControlName="row" (input)="keep()" /><button>Keep</button></form>',
      "  note = new FormGroup({ row: new FormControl('', { nonNullable: true }) });\n  keep() { return this.note.controls.row.value; }",
    ),
    /line 4 .*would run before the field takes what was typed/,
  ],
  [
    'a pattern that the page checks',
    'signal-model',
    `import { Component } from '@angular/core';

@Component({ selector: 'orchard-note', template: \`<form (submit)="keep($event)"><input name="row" pattern="[A-F]" /><button>Keep</button></form>\` })
export class NoteComponent {
  keep(event: Event) { event.preventDefault(); }
}
`,
    /the page checks it, and a field’s control may not bear the pattern/,
  ],
  [
    'a name that means something else in the file',
    'signal-model',
    bound(
      '<form (ngSubmit)="keep()"><input name="row" [(ngModel)]="note.row" required /><button>Keep</button></form>',
      "  note = { row: '' };\n  keep() { return required(this.note.row); }",
    ).replace('@Component', "const required = (row: string) => row !== '';\n\n@Component"),
    /line 4 .*required means something else in this file/,
  ],
  [
    'values of which some live in an object, and some do not',
    'template-one-way',
    bound(
      '<form (ngSubmit)="keep()"><input name="row" [(ngModel)]="note.row" /><input name="side" [(ngModel)]="side" /><button>Keep</button></form>',
      "  note = { row: '' };\n  side = '';\n  keep() { return this.note.row + this.side; }",
    ),
    /its values do not live in one object/,
  ],
  [
    'a control that the form knows by another name than the values',
    'template-one-way',
    bound(
      '<form (ngSubmit)="keep()"><input name="line" [(ngModel)]="note.row" /><button>Keep</button></form>',
      "  note = { row: '' };\n  keep() { return this.note.row; }",
    ),
    /line 4 .*the form tells it as line, and the values keep it as row/,
  ],
  [
    'code that runs while the form’s values are still the old ones',
    'template-one-way',
    bound(
      '<form (ngSubmit)="keep()" (input)="keep()"><input name="row" [(ngModel)]="note.row" /><button>Keep</button></form>',
      "  note = { row: '' };\n  keep() { return this.note.row; }",
    ),
    /line 4 .*code runs when a person changes it, before the values are fed back/,
  ],
  [
    'a page that the browser leaves',
    'template-driven',
    `import { Component } from '@angular/core';

@Component({ selector: 'orchard-note', template: \`<form action="/notes"><input name="row" /><button>Keep</button></form>\` })
export class NoteComponent {}
`,
    /the browser leaves the page here/,
  ],
];

describe('what is left by hand on the newer ways', () => {
  let broken: TestProject;
  beforeAll(() => {
    broken = project();
  });
  afterAll(() => broken.remove());

  it.each(refusals)('%s, to %s', async (_, to, text, why) => {
    broken.write('note.ts', text);
    const run = await broken.run('apply', '--proof', 'none', 'note.ts', '--to', to);
    expect(run.code).toBe(1);
    expect(run.stdout).toMatch(why);
    expect(broken.read('note.ts')).toBe(text);
  });

  it('a project whose package calls the directive otherwise', async () => {
    broken.write('early/node_modules/@angular/forms/package.json', '{ "name": "@angular/forms", "version": "21.0.3" }');
    broken.copy('test/forms/angular-signals/seed-note.component.ts', 'early/seed-note.component.ts');
    const run = await broken.run('apply', '--proof', 'none', 'early/seed-note.component.ts', '--to', 'signal-model');
    expect(run.code).toBe(1);
    expect(run.stdout).toMatch(/@angular\/forms 21\.0\.3 calls what ties a control to its field otherwise/);
  });

  it('keeps a control that is disabled at the first view from being used, by a directive', async () => {
    const text = bound(
      '<form (ngSubmit)="keep()"><input name="row" [(ngModel)]="note.row" /><input name="tree" [(ngModel)]="note.tree" [disabled]="!note.row" /><button>Keep</button></form>',
      "  note = { row: '', tree: '' };\n  keep() { return this.note.row; }",
    );
    broken.write('shut/note.component.ts', text);
    const run = await broken.run('apply', '--proof', 'all', 'shut/note.component.ts', '--to', 'model-driven');
    expect(run.stdout).toMatch(/proven +behaviour/);
    expect(broken.read('shut/note.component.ts')).toContain('[unusableWhile]="!form.controls.row.value"');
    expect(broken.read('shut/unusable-while.directive.ts')).toContain('this.element.disabled = this.unusableWhile;');
  });
});

describe('the net under forms over a signal', () => {
  const file = path.join(root, 'test/forms/angular-signals/cutting-request.component.ts');

  /** What is caught where a text that is put in reads otherwise. */
  async function caughtWith(from: string | RegExp, by: string): Promise<string[]> {
    const settings = { ownValueNames: [] };
    const read = diskWorkspace.read(file);
    const found = await formsOfFile(file, read.ok ? read.text : '', diskWorkspace, settings);
    const form = found.ok ? found.forms[0] : undefined;
    if (!found.ok || !form) throw new Error('no form');
    const step = plannedStep(form, found.script, { to: 'signal-model' }, diskWorkspace, settings);
    const edits = step.plan.edits.map((edit) => ({ ...edit, text: edit.text.replace(from, by) }));
    expect(edits).not.toEqual(step.plan.edits);
    const goal = { to: 'signal-model', leaves: false };
    const { caught } = await netted({ ...step, plan: { ...step.plan, edits } }, goal, diskWorkspace, settings);
    return caught.map(({ why }) => why);
  }

  it.each([
    ['a rule that is forgotten', / *max\(path\.count, 40\);\n/, '', /the rule .* would be lost/],
    [
      'an error that is asked of another field',
      "request.row, 'required'",
      "request.count, 'required'",
      /asks row for required/,
    ],
    [
      'status that is asked of another field',
      'request.count().touched()',
      'request.row().touched()',
      /asks count for touched/,
    ],
    ['a control of another field', '[formField]="request.knife"', '[formField]="request.row"', /not be tied to knife/],
    [
      'a reset to other values',
      'reset(emptyCuttingRequest)',
      'reset({ ...emptyCuttingRequest, count: 10 })',
      /no reset of the result gives these values/,
    ],
  ])('catches %s', async (_, from, by, why) => {
    expect((await caughtWith(from, by)).join('\n')).toMatch(why);
  });
});
