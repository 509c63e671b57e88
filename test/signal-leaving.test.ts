import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { angularErrors } from './tools/angular-check.js';
import { applyAll, inPairs, project, type TestProject } from './tools/project.js';

/** Forms over a model signal, and the ways that they are taken beside the groups of a class. */
const forms: [file: string, component: string, further: string[]][] = [
  ['frost-lamp.ts', 'FrostLamp', ['template-driven', 'template-one-way']],
  ['graft-day.component.ts', 'GraftDayComponent', []],
  ['harvest-team.ts', 'HarvestTeam', []],
  ['ladder-loan.ts', 'LadderLoan', ['template-driven', 'template-one-way']],
  ['pest-note.component.ts', 'PestNoteComponent', []],
  ['picking-day.ts', 'PickingDay', []],
  ['spray-log.ts', 'SprayLog', ['template-driven', 'template-one-way']],
];
const cases = forms.flatMap(([file, form, further]) =>
  ['model-driven', ...further].map((to) => ({ file, form, to, folder: `${file.split('.')[0] ?? file}-${to}` })),
);

const home = project();
const trouble: string[] = [];

beforeAll(async () => {
  home.copy('test/forms/signal-leaving', 'before');
  // each stands alone: what a form needs is written for the first one that asks for it
  for (const { file, folder } of cases) {
    home.copy(`test/forms/signal-leaving/${file}`, `${folder}/${file}`);
    if (!file.startsWith('graft')) continue;
    for (const other of ['parts', 'graft-day.component.html'])
      home.copy(`test/forms/signal-leaving/${other}`, `${folder}/${other}`);
  }
  const rewrites = cases.map((one) => ({ ...one, file: `${one.folder}/${one.file}` }));
  trouble.push(...(await applyAll(home, rewrites)));
}, 200_000);
afterAll(() => home.remove());

describe('forms over a model signal that leave it', () => {
  it('are rewritten', () => {
    expect(trouble).toEqual([]);
  });

  it('speak of the package no more, compile under strict templates, and gain no cast', () => {
    expect(angularErrors(home.folder, ...cases.map(({ folder }) => folder))).toBe('');
    for (const { file, folder } of cases) {
      const text = home.read(`${folder}/${file}`);
      expect(text, folder).not.toMatch(/forms\/signals|formField|FormField|formRoot|\bas any\b|\$any/);
    }
  });

  it('say their rules with values, in the file that stated them', () => {
    expect(home.read('graft-day-model-driven/parts/row-mark.ts')).toBe(
      `import { Wrong } from '../field-errors';

/** A mark on a post: a capital and up to three figures, blanks do not matter. None is fine. */
export function rowMark(value: string, at: string, wrong: Wrong, longest = 3): void {
  const check = () => {
    const mark = value.replace(/\\s/g, '');
    if (mark === '' || /^[A-Z]\\d+$/.test(mark)) {
      return mark.length > longest + 1 ? { kind: 'long', message: \`At most \${longest} figures.\` } : undefined;
    }
    return { kind: 'mark', message: 'A mark looks like C14.' };
  };
  wrong(at, check());
}
`,
    );
    const rules = home.read('graft-day-model-driven/parts/grafts.ts');
    expect(rules).toContain("rowMark(grafts.place.tree, 'place.tree', wrong, 2);");
    expect(rules).toContain('// the post stands at the head of the row');
    expect(rules).toContain("if (grafts.grown) {\n      if (!grafts.place.tree) wrong('place.tree'");
  });

  it('keep rows that stay, and what a person cannot type', () => {
    const day = home.read('graft-day-model-driven/graft-day.component.ts');
    expect(day).toContain('this.setScions((scions) => scions.filter((_, index) => index !== at));');
    const markup = home.read('graft-day-model-driven/graft-day.component.html');
    expect(markup).toContain('<fieldset formGroupName="place">');
    expect(markup).toContain(`[formControl]="scion.controls.sort" required [attr.aria-label]="'Sort ' + (at + 1)"`);
    expect(home.read('frost-lamp-model-driven/frost-lamp.ts')).toContain('formControlName="note" maxlength="60"');
  });

  it('play the same', async () => {
    const every = process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined;
    const plays = cases.filter((_, index) => every || index % 6 === 3);
    const answers = await inPairs(plays, async ({ file, folder, form }) => {
      const run = await home.run('trial', `before/${file}`, `${folder}/${file}`, '--form', form);
      return run.code === 0 ? [] : [`${folder}: ${run.stdout}${run.stderr}`];
    });
    expect(answers.flat()).toEqual([]);
  }, 200_000);
});

const note = (rules: string, members = '', template = '', given = '', attributes = ''): string =>
  `import { Component, effect, signal } from '@angular/core';
import { debounce, form, FormField, readonly, required, submit, validate, validateAsync } from '@angular/forms/signals';

interface Note { row: string; trees: number; day: string }

@Component({
  selector: 'orchard-note',
  imports: [FormField],
  template: \`<form novalidate><input [formField]="note.row"${attributes} /><input type="number" [formField]="note.trees" />${template}</form>\`,
})
export class NoteComponent {
  model = signal<Note>({ row: '', trees: 1, day: '' });
  note = form(this.model, (path) => {
    ${rules}
  }${given});
  ${members}
}
`;

/** What is left by hand, with the line and the reason. */
const refusals: [string, string, RegExp][] = [
  ['values that lag', note('debounce(path.row, 200);'), /line 14 .*nothing like debounce/],
  ['fields that are only read', note('readonly(path.row);'), /line 14 .*nothing like readonly/],
  [
    'a rule that asks for more than values',
    note(
      "validate(path.row, ({ value, stateOf }) => (value() && stateOf(path.trees).touched() ? { kind: 'late' } : null));",
    ),
    /line 14 .*what it asks besides the values of fields is not clear/,
  ],
  [
    'a rule that asks the class',
    note("validate(path.row, ({ value }) => (value() === this.last ? { kind: 'same' } : null));", "last = 'A1';"),
    /line 14 .*what it asks besides the values of fields is not clear/,
  ],
  [
    'code that follows the form',
    note('required(path.row);', 'constructor() { effect(() => console.log(this.model().row)); }'),
    /line 16 .*effect follows model, which would no longer be a signal/,
  ],
  [
    'a field that another component takes',
    note('required(path.row);', '', '<orchard-told [field]="note.row" />').replace('[FormField]', '[FormField, Told]'),
    /line 9 .*a component of the project takes the field itself/,
  ],
  [
    'a number control over a text',
    note('required(path.day);', '', '<input type="number" [formField]="note.day" />'),
    /line 9 .*gives numbers, not texts/,
  ],
  [
    'a change after an answer',
    note(
      'required(path.row);',
      'async load() { const row = await fetch("/row"); this.note.row().value.set(row.url); }',
    ),
    /line 16 .*it changes the form after an answer/,
  ],
  [
    'a reset by the page',
    note('required(path.row);', '', '<button type="reset">Empty</button>'),
    /line 9 .*the page’s own reset would reset the group as well/,
  ],
  [
    'what is done where nothing may be sent',
    note(
      'required(path.row);',
      'send() { submit(this.note, { action: async () => {}, onInvalid: () => this.send() }); }',
    ),
    /line 16 .*what is done when the form is sent stands elsewhere/,
  ],
];

describe('what keeps a form over a model signal', () => {
  let broken: TestProject;
  beforeAll(() => {
    broken = project(Object.fromEntries(refusals.map(([, text], index) => [`note-${index}.component.ts`, text])));
  });
  afterAll(() => broken.remove());

  it.each(refusals.map(([what, , why], index) => [what, index, why] as const))('%s', async (_, index, why) => {
    const run = await broken.run('apply', '--proof', 'none', `note-${index}.component.ts`, '--to', 'model-driven');
    expect(run.stdout.replace(/\s+/g, ' ')).toMatch(why);
    expect(run.code).toBe(1);
    expect(broken.read(`note-${index}.component.ts`)).toBe(refusals[index]?.[1]);
  });
});
