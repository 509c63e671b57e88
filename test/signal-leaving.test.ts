import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { angularErrors } from './tools/angular-check.js';
import { applyAll, inPairs, project, type TestProject } from './tools/project.js';

/** Forms over a model signal, and the ways that they are taken beside the groups of a class. */
const forms: [file: string, component: string, further: string[]][] = [
  ['frost-lamp.ts', 'FrostLamp', ['template-driven', 'template-one-way']],
  ['graft-day.component.ts', 'GraftDayComponent', []],
  ['harvest-team.ts', 'HarvestTeam', []],
  ['ladder-loan.ts', 'LadderLoan', ['template-driven', 'template-one-way']],
  ['night-watch.component.ts', 'NightWatchComponent', ['template-driven', 'template-one-way']],
  ['pest-note.component.ts', 'PestNoteComponent', []],
  ['picking-day.ts', 'PickingDay', []],
  ['press-shift.component.ts', 'PressShiftComponent', []],
  ['seed-tray.component.ts', 'SeedTrayComponent', ['template-driven']],
  ['spray-log.ts', 'SprayLog', ['template-driven', 'template-one-way']],
];
/** What stands beside a form in other files. */
const besides: Readonly<Record<string, string[]>> = {
  'graft-day.component.ts': ['parts', 'graft-day.component.html'],
  'press-shift.component.ts': ['press-shift.component.html'],
};
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
    for (const other of besides[file] ?? []) home.copy(`test/forms/signal-leaving/${other}`, `${folder}/${other}`);
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
      expect(text, folder).not.toMatch(/forms\/signals|formField|FormField|formRoot|\bany\b/);
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
    expect(day).toContain('this.grafts.controls.scions.removeAt(at);');
    expect(day).toContain('list.push(controls[rows.indexOf(row)] ?? scionControls(row));');
    const markup = home.read('graft-day-model-driven/graft-day.component.html');
    expect(markup).toContain('<fieldset formGroupName="place">');
    expect(markup).toContain(`[formControl]="scion.controls.sort" required [attr.aria-label]="'Sort ' + (at + 1)"`);
    expect(home.read('frost-lamp-model-driven/frost-lamp.ts')).toContain('formControlName="note" maxlength="60"');
  });

  it('play the same', async () => {
    const every = process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined;
    const plays = cases.filter((_, index) => every || index % 24 === 4);
    const answers = await inPairs(plays, async ({ file, folder, form }) => {
      const run = await home.run('trial', `before/${file}`, `${folder}/${file}`, '--form', form);
      return run.code === 0 ? [] : [`${folder}: ${run.stdout}${run.stderr}`];
    });
    expect(answers.flat()).toEqual([]);
  }, 200_000);
});

const note = (rules: string, members = '', template = '', given = '', attributes = ''): string =>
  `import { Component, effect, signal } from '@angular/core';
import { applyWhen, debounce, FieldTree, form, FormField, hidden, readonly, required, submit, validate, validateAsync } from '@angular/forms/signals';

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
    'a message that looks at more than values',
    note(
      "required(path.row, { when: ({ valueOf }) => valueOf(path.trees) > 1, message: ({ state }) => (state.dirty() ? 'No' : 'Which?') });",
    ),
    /line 14 .*its condition or message is not clear/,
  ],
  [
    'a field that is hidden only where another rule counts',
    note('applyWhen(path, ({ valueOf }) => valueOf(path.trees) > 1, (many) => { hidden(many.row, () => true); });'),
    /line 14 .*its condition is not clear/,
  ],
  [
    'a field that is hidden for two reasons',
    note(
      "hidden(path.row, ({ valueOf }) => valueOf(path.trees) > 1); hidden(path.row, ({ valueOf }) => valueOf(path.day) === '');",
    ),
    /line 14 .*its condition is not clear/,
  ],
  [
    'a method that is given a field which is hidden at times',
    note(
      'hidden(path.row, ({ valueOf }) => valueOf(path.trees) > 1);',
      'isLeft(field: FieldTree<unknown>) { return field().touched(); }',
      '@if (isLeft(note.row)) { <i>Left</i> }',
    ),
    /line 9 .*a method is given a field that does not always count/,
  ],
  [
    'a method that is given the form',
    note(
      'required(path.row);',
      'isLeft(field: FieldTree<unknown>) { return field().touched(); }\n  all() { return this.isLeft(this.note); }',
    ),
    /line 17 .*the field itself is handed on/,
  ],
  [
    'a form of which it is asked whether it was touched while fields may be hidden',
    note('hidden(path.row, ({ valueOf }) => valueOf(path.trees) > 1);', '', '@if (note().touched()) { <i>Left</i> }'),
    /line 9 .*not asked for touched like this/,
  ],
  [
    'an effect that follows it through a method',
    note(
      'required(path.row);',
      'told() { return this.model().row; }\n  constructor() { effect(() => console.log(this.told())); }',
    ),
    /line 17 .*effect follows told, which would no longer be a signal/,
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

/** Each of these stands in a text. */
function holds(text: string, ...parts: readonly string[]): void {
  for (const part of parts) expect(text).toContain(part);
}

describe('what is said of a form over a model signal', () => {
  let whole: TestProject;
  beforeAll(() => {
    whole = project();
  });
  afterAll(() => whole.remove());

  /** The text of a form after the step, without breaks of lines. */
  async function said(name: string, text: string): Promise<string> {
    whole.write(`${name}/note.component.ts`, text);
    const run = await whole.run('apply', '--proof', 'none', `${name}/note.component.ts`, '--to', 'model-driven');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    return whole
      .read(`${name}/note.component.ts`)
      .replace(/\s+/g, ' ')
      .replaceAll(', }', ' }')
      .replaceAll('( ', '(')
      .replaceAll(', )', ')');
  }

  it('is each rule by what its value may be', async () => {
    const text = await said(
      'rules',
      note(
        "required(path.row); minLength(path.row, 2, { message: 'Two.' }); min(path.trees, ({ valueOf }) => (valueOf(path.row) ? 1 : 0)); maxLength(path.day, 9); pattern(path.day, /^2/); validate(path.day, ({ value }) => (value() ? undefined : requiredError({ message: 'When?' })));",
      ).replace('readonly,', 'maxLength, min, minLength, pattern, readonly, requiredError,'),
    );
    holds(
      text,
      "if (!note.row) wrong('row', { kind: 'required' });",
      "if (note.row !== '' && note.row.length < 2) wrong('row', { kind: 'minLength', message: 'Two.' });",
      "if (note.trees !== null && note.trees < (note.row ? 1 : 0)) wrong('trees', { kind: 'min' });",
      "if (note.day.length > 9) wrong('day', { kind: 'maxLength' });",
      "if (note.day !== '' && !/^2/.test(note.day)) wrong('day', { kind: 'pattern' });",
      "wrong('day', note.day ? undefined : { kind: 'required', message: 'When?' });",
      'formControlName="row" required minlength="2" />',
    );
  });

  it('is a hidden field by its condition, where it was asked and where it was not', async () => {
    const text = await said(
      'hidden',
      note(
        'hidden(path.row, ({ valueOf }) => valueOf(path.trees) > 1); required(path.row);',
        "left = computed(() => this.note.row().touched() && this.note.row().dirty());\n  told() { return this.note.row().hidden() ? 'gone' : 'there'; }",
        '@if (!note.row().hidden()) { <i>{{ note.row().touched() }}</i> } @else { <b>{{ note.row().touched() }}</b> }',
      ).replace('import { Component,', 'import { Component, computed,'),
    );
    const many = 'note.controls.trees.value > 1';
    holds(
      text,
      "if (!(note.trees > 1) && !note.row) wrong('row', { kind: 'required' });",
      // what the page bears while the field does not count is no rule of the control
      `formControlName="row" [attr.required]="''" />`,
      `@if (!(${many})) { <i>{{ note.controls.row.touched }}</i> }`,
      `@else { <b>{{ (!(${many}) && note.controls.row.touched) }}</b> }`,
      `left = () => (!(this.${many}) && this.note.controls.row.touched) && this.note.controls.row.dirty;`,
      `return (this.${many}) ? 'gone' : 'there';`,
    );
  });

  it('is a change by controls, and a computed value that follows it through a method as a function', async () => {
    const text = await said(
      'changes',
      note(
        'required(path.row);',
        "next() { this.model.update((old) => ({ ...old, row: old.day, trees: old.trees + 1 })); }\n  fill() { this.note.row().value.set('B'); this.model.set({ row: 'A', trees: 2, day: '' }); }\n  calm() {\n    this.note().reset();\n  }\n  told() { return this.model().row; }\n  line = computed(() => this.told() + '.');",
      ).replace('import { Component,', 'import { Component, computed,'),
    );
    holds(
      text,
      'this.note.patchValue({ row: this.note.controls.day.value, trees: this.note.controls.trees.value + 1 });',
      "this.note.controls.row.setValue('B'); this.note.setValue({ row: 'A', trees: 2, day: '' });",
      'this.note.markAsUntouched(); this.note.markAsPristine();',
      "line = () => this.told() + '.';",
    );
  });
});

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
