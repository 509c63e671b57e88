import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { after, left } from './tools/in-memory.js';
import { root } from './tools/project.js';

/** A form of two values around some code. */
function crate(code: string, controls: string, imports = "import { useEffect, useState } from 'react';"): string {
  return `${imports}
export function Crate({ send, given, saved }) {
  ${code}
  return (
    <form onSubmit={(e) => { e.preventDefault(); send(crate); }}>
      ${controls}
      <button>Send</button>
    </form>
  );
}
`;
}

const both = `<input value={crate.row} onChange={(e) => setCrate({ ...crate, row: e.target.value })} />
      <input value={crate.tree} onChange={(e) => setCrate({ ...crate, tree: e.target.value })} />`;

describe('React code that was written wrongly once', () => {
  it('sets every field of an effect with a guard and a dependency by its text', async () => {
    const filled = `const [crate, setCrate] = useState({ row: '', tree: '' });
  useEffect(() => {
    if (saved) setCrate((old) => ({ ...old, row: saved.row, tree: saved.tree }));
  }, [JSON.stringify(saved)]);`;
    const text = await after('Crate.jsx', crate(filled, both), 'field-state');
    expect(text).toMatch(/if \(saved\) \{\s*setRow\(saved\.row\);\s*setTree\(saved\.tree\);\s*\}/);
    expect(text).toContain('[JSON.stringify(saved)]');
  });

  it.each(['object-state', 'reducer', 'own-hook'])('leaves a change inside of a change by hand for %s', async (to) => {
    const nested = `const [row, setRow] = useState('');
  const [tree, setTree] = useState(0);
  const crate = { row, tree };
  const more = () => setTree((old) => { setRow('A' + old); return old + 1; });`;
    const controls = `<input value={row} onChange={(e) => setRow(e.target.value)} />
      <input type="number" value={tree} onChange={(e) => setTree(+e.target.value)} />
      <button type="button" onClick={more}>More</button>`;
    const [entry] = await left('Crate.jsx', crate(nested, controls), to);
    expect(entry).toEqual([6, expect.stringMatching(/while another value is worked out/)]);
  });

  it('shows such a form in the demo, which is not written', async () => {
    const windfall = readFileSync(path.join(root, 'demo/windfall/WindfallCount.jsx'), 'utf8');
    expect(await left('WindfallCount.jsx', windfall, 'reducer')).toEqual([
      [11, expect.stringMatching(/while another value is worked out/)],
    ]);
  });

  it('replaces values that may hold more than the fields, and lays nothing over them', async () => {
    const text = await after(
      'Crate.jsx',
      crate(
        'const [crate, setCrate] = useState({ ...empty, ...given });',
        `${both}
      <button type="button" onClick={() => setCrate({ ...empty, row: crate.row })}>Again</button>`,
        "import { useState } from 'react';\nconst empty = { row: '', tree: '' };",
      ),
      'reducer',
    );
    expect(text).toContain('useReducer(crateReducer, { ...empty, ...given })');
    expect(text).toContain("dispatch({ type: 'replaced', next: { ...empty, row: crate.row } })");
    expect(text).toContain('return action.next;');
  });

  it('keeps a start that is given besides one that is known', async () => {
    const [entry] = await left(
      'Crate.jsx',
      crate("const [crate, setCrate] = useState({ row: '', tree: 'm', ...given });", both),
      'field-state',
    );
    expect(entry?.[1]).toMatch(/may hold more than the form’s fields/);
  });

  it('asks which of two constants is compared by identity, and keeps it', async () => {
    const lists = `const [row, setRow] = useState(none);
  const [tree, setTree] = useState('');
  const crate = { row, tree };
  useEffect(() => { if (row === none) saved().then(setRow); }, [row, saved]);`;
    const controls = `<input value={tree} onChange={(e) => setTree(e.target.value)} />
      <select multiple value={row} onChange={(e) => setRow([...e.target.selectedOptions].map((one) => one.value))} />`;
    const imports = "import { useEffect, useState } from 'react';\nconst none = [];";
    const text = await after('Crate.jsx', crate(lists, controls, imports), 'object-state');
    expect(text).toContain("useState({ row: none, tree: '' })");
  });

  it('gives words of the language another name as variables', async () => {
    const named = "const [crate, setCrate] = useState({ class: '', default: '' });";
    const controls = `<input value={crate.class} onChange={(e) => setCrate({ ...crate, class: e.target.value })} />
      <input value={crate.default} onChange={(e) => setCrate({ ...crate, default: e.target.value })} />`;
    const text = await after('Crate.jsx', crate(named, controls), 'field-state');
    expect(text).toContain("const [classValue, setClass] = useState('');");
    expect(text).toContain('const crate = { class: classValue, default: defaultValue };');
  });

  it('keeps members called like those of every object', async () => {
    const named = "const [crate, setCrate] = useState({ constructor: '', hasOwnProperty: '' });";
    const controls = `<input value={crate.constructor} onChange={(e) => setCrate({ ...crate, constructor: e.target.value })} />
      <input value={crate.hasOwnProperty} onChange={(e) => setCrate({ ...crate, hasOwnProperty: e.target.value })} />`;
    expect(await after('Crate.jsx', crate(named, controls), 'field-state')).toContain(
      'const [constructor, setConstructor]',
    );
    expect(await after('Crate.jsx', crate(named, controls), 'reducer')).toContain(
      "{ constructor: '', hasOwnProperty: '' }",
    );
  });

  it('leaves start values from locals of a constructor by hand', async () => {
    const entries = await left(
      'Crate.jsx',
      `import React from 'react';
export class Crate extends React.Component {
  constructor(props) {
    super(props);
    const row = props.rows[0];
    this.state = { row: row.name, tree: '' };
  }
  render() {
    return (
      <form onSubmit={(e) => { e.preventDefault(); this.props.send(this.state); }}>
        <input value={this.state.row} onChange={(e) => this.setState({ row: e.target.value })} />
        <input value={this.state.tree} onChange={(e) => this.setState({ tree: e.target.value })} />
      </form>
    );
  }
}
`,
      'field-state',
    );
    expect(entries).toEqual([[5, expect.stringMatching(/constructor does more/)]]);
  });

  it('writes a type of a hook’s result in one place only', async () => {
    const text = await after(
      'Plots.tsx',
      `import { useState } from 'react';
import { usePlots } from './usePlots';
export function Plots({ send }: { send: (plot: string | undefined, days: number) => void }) {
  const plots = usePlots();
  const [plot, setPlot] = useState<ReturnType<typeof usePlots>[number] | undefined>(plots[0]);
  const [days, setDays] = useState(2);
  return (
    <form onSubmit={(e) => { e.preventDefault(); send(plot, days); }}>
      <input value={plot} onChange={(e) => setPlot(plots.find((one) => one === e.target.value))} />
      <input type="number" value={days} onChange={(e) => setDays(Number(e.target.value))} />
    </form>
  );
}
`,
      'object-state',
      { 'usePlots.ts': "export function usePlots(): string[] {\n  return ['A'];\n}\n" },
    );
    expect(text).toContain('  plot: ReturnType<typeof usePlots>[number] | undefined;');
    expect(text.match(/ReturnType/g)).toHaveLength(1);
  });
});

describe('values that the page keeps', () => {
  const page = (form: string, plot: string, days = '<input name="days" />', before = ''): string => `
import { useState } from 'react';
export function Booking({ plot, send }) {
  const [open, setOpen] = useState(false);
  ${before}
  return (
    <form${form} onSubmit={(e) => { e.preventDefault(); const data = new FormData(e.currentTarget); send({ plot: data.get('plot'), days: data.get('days') }); }}>
      <input name="plot" ${plot} />
      <button type="button" onClick={() => setOpen(!open)}>More</button>
      ${days}
    </form>
  );
}
`;

  it.each([
    ['a control with another key', page('', 'key={plot.id} defaultValue={plot.name}'), 8, /another key/],
    ['a form with another key', page(' key={plot.id}', 'defaultValue={plot.name}'), 7, /another key/],
    ['a control that comes and goes', page('', '', '{open && <input name="days" />}'), 10, /comes and goes/],
    [
      'a form that comes and goes',
      page('', '', '<input name="days" />', 'if (open) return <p>Sent</p>;'),
      5,
      /comes and goes/,
    ],
  ])('leaves %s by hand: the page would forget, state would not', async (_what, text, line, why) => {
    const [entry] = await left('Booking.jsx', text, 'field-state');
    expect(entry).toEqual([line, expect.stringMatching(why)]);
  });

  it('begin below the constants that they need', async () => {
    const text = await after(
      'Booking.jsx',
      page('', 'defaultValue={first}', '<input name="days" />', 'const first = plot.names[0];'),
      'object-state',
    );
    expect(text.indexOf('const first')).toBeLessThan(text.indexOf('String(first'));
  });

  it('keep a cast of the author’s', async () => {
    const text = await after(
      'Grade.tsx',
      `type Grade = 'a' | 'b';
export function GradeForm({ send }: { send: (grade: Grade, row: string) => void }) {
  return (
    <form onSubmit={(e) => {
      e.preventDefault();
      const data = new FormData(e.currentTarget);
      send(data.get('grade') as Grade, data.get('row') as string);
    }}>
      <input name="grade" />
      <input name="row" />
    </form>
  );
}
`,
      'field-state',
    );
    // one that only says what the page gives goes
    expect(text).toContain('send(grade as Grade, row);');
  });
});

/** A form of a class, with the controls of two fields. */
function modelDriven(members: string, template = '', head = ''): string {
  return `import { Component, Directive, Input } from '@angular/core';
import { FormBuilder, FormControl, FormGroup, ReactiveFormsModule, Validators, type AbstractControl } from '@angular/forms';
${head}
@Component({
  selector: 'app-slip',
  imports: [ReactiveFormsModule],
  template: \`<form [formGroup]="form" (ngSubmit)="send()"><input formControlName="row"><input formControlName="tree">${template}</form>\`,
})
export class SlipComponent {
  ${members}
  send(): void { console.log(this.form.value); }
}
`;
}

const group =
  "form = new FormGroup({ row: new FormControl('', { nonNullable: true, validators: Validators.required }), tree: new FormControl('', { nonNullable: true }) });";

describe('Angular code to the template that was written wrongly once', () => {
  const to = 'template-driven';

  it('hands on the control of a field, not the directive that stands for it', async () => {
    const text = await after(
      'slip.component.ts',
      modelDriven(
        `${group}\n  told(control: AbstractControl): boolean { return control.invalid; }`,
        '{{ told(form.controls.row) }}',
      ),
      to,
    );
    expect(text).toContain('#row="ngModel" required');
    expect(text).toContain('{{ told(row.control) }}');
  });

  it('names what a form takes of values that hold more', async () => {
    const given = '@Input() set plot(plot: Plot) { this.form.patchValue(plot); }';
    const text = await after(
      'slip.component.ts',
      modelDriven(`${group}\n  ${given}`, '', 'interface Plot { id: number; row: string; tree: string }'),
      to,
    );
    expect(text).toContain('this.model = { ...this.model, row: plot.row, tree: plot.tree };');
  });

  it('knows what a service answers with', async () => {
    const text = await after(
      'slip.component.ts',
      modelDriven(
        `constructor(private readonly plots: Plots) {}
  ${group}
  fill(): void { this.plots.load(3).subscribe((plot) => this.form.patchValue(plot)); }`,
        '<button type="button" (click)="fill()">Fill</button>',
        "import { Plots } from './plots';",
      ),
      to,
      {
        'plots.ts': `export interface Plot { id: number; row: string; tree: string }
export class Plots { load(id: number): Observable<Plot> { return ask(id); } }
`,
      },
    );
    expect(text).toContain('this.model = { ...this.model, row: plot.row, tree: plot.tree }');
  });

  const base = `@Directive()
export abstract class SlipBase { abstract form: FormGroup; clear(): void { this.form.reset(); } }`;
  it.each<[string, string, Record<string, string>, RegExp]>([
    [
      'asks whether the form is valid in the turn in which a value was set',
      modelDriven(
        `${group}\n  fill(): void { this.form.controls.row.setValue('A'); if (this.form.valid) this.send(); }`,
      ),
      {},
      /values are set just before this/,
    ],
    [
      'asks so in a method that is called after a value was set',
      modelDriven(`${group}
  fill(): void { this.form.patchValue({ row: 'A' }); this.next(); }
  next(): void { if (this.form.valid) this.send(); }`),
      {},
      /values are set just before this/,
    ],
    [
      'lays values over the form of which nothing tells what they hold',
      modelDriven(`${group}\n  fill(plot: unknown): void { this.form.patchValue(plot as object); }`),
      {},
      /nothing tells whether they hold more/,
    ],
    [
      'takes what tells of a failure for values',
      modelDriven(
        `constructor(private readonly plots: Plots) {}
  ${group}
  fill(): void { this.plots.load().then(() => this.send(), (plot) => this.form.patchValue(plot)); }`,
        '',
        "import { Plots } from './plots';",
      ),
      {
        'plots.ts':
          'export class Plots { load(): Promise<{ id: number; row: string; tree: string }> { return ask(); } }\n',
      },
      /nothing tells whether they hold more/,
    ],
    [
      'has a base class that asks for the group',
      modelDriven(group, '', base).replace('SlipComponent {', 'SlipComponent extends SlipBase {'),
      {},
      /SlipBase asks for form/,
    ],
    [
      'has a group that another component asks for',
      modelDriven(group),
      {
        'package.json': '{}',
        'holder.component.ts': `import { SlipComponent } from './slip.component';
export class Holder { inner!: SlipComponent; look(): void { console.log(this.inner.form.valid); } }
`,
      },
      /holder\.component\.ts asks for form/,
    ],
    [
      'begins with values whose type nothing tells',
      modelDriven(
        "form: FormGroup;\n  constructor(fb: FormBuilder) { this.form = fb.group({ row: [first()], tree: [''] }); }",
        '',
        "import { first } from './first';",
      ),
      {},
      /the type of first\(\) is not written/,
    ],
  ])('is left by hand where the class %s', async (_what, text, others, why) => {
    const entries = await left('slip.component.ts', text, to, others);
    expect(entries.map(([, reason]) => reason).join('\n')).toMatch(why);
  });

  it('leaves a directive of the project by hand that would not apply any more', async () => {
    const entries = await left(
      'slip.component.ts',
      modelDriven(group, '', "import { EvenDirective } from './even.directive';")
        .replace('imports: [', 'imports: [EvenDirective, ')
        .replace('formControlName="tree"', 'appEven formControlName="tree"'),
      to,
      {
        'even.directive.ts': "@Directive({ selector: '[appEven][formControlName]' })\nexport class EvenDirective {}\n",
      },
    );
    expect(entries.map(([, reason]) => reason).join('\n')).toMatch(
      /EvenDirective applies to \[appEven\]\[formControlName\]/,
    );
  });

  it('takes a builder along that only the group needed, with its empty constructor', async () => {
    const built = `form: FormGroup;
  constructor(fb: FormBuilder) {
    this.form = fb.group({ row: ['', Validators.required], tree: ['m'] });
  }`;
    const text = await after('slip.component.ts', modelDriven(built), to);
    expect(text).not.toMatch(/constructor|FormBuilder/);
  });
});

describe('Angular code to the class that was written wrongly once', () => {
  const slip = (members: string, controls: string): string => `import { Component, Input } from '@angular/core';
import { FormsModule } from '@angular/forms';
@Component({
  selector: 'app-slip',
  imports: [FormsModule],
  template: \`<form (ngSubmit)="send()">${controls}<button>Send</button></form>\`,
})
export class SlipComponent {
  ${members}
}
`;
  const controls = '<input name="row" [(ngModel)]="model.row"><input name="tree" [(ngModel)]="model.tree">';
  const send = 'send(): void { console.log(this.model); }';

  it('begins with the text that stands in the attribute', async () => {
    const given = slip(
      "tree = '';\n  send(): void {}",
      '<input name="row" ngModel="it’s A1"><input name="tree" [(ngModel)]="tree">',
    );
    expect(await after('slip.component.ts', given, 'model-driven')).toContain("row: new FormControl('it’s A1'");
  });

  it.each([
    [
      'is assigned to through a reference',
      slip(
        `model = { row: '', tree: '' };\n  @Input() set plot(plot: object) { Object.assign(this.model, plot); }\n  ${send}`,
        controls,
      ),
      /changed through a reference/,
    ],
    [
      'is changed through another name',
      slip(
        `model = { row: '', tree: '' };\n  empty(): void { const slip = this.model; slip.row = ''; }\n  ${send}`,
        controls,
      ),
      /changed through a reference/,
    ],
    [
      'is kept elsewhere as well',
      slip(
        `model = { row: '', tree: '' };\n  kept?: object;\n  keep(): void { this.kept = this.model; }\n  ${send}`,
        controls,
      ),
      /kept elsewhere/,
    ],
    [
      'gains a member that no control shows',
      slip(
        "model: { row: string; tree: string; at?: string } = { row: '', tree: '' };\n  send(): void { this.model.at = 'noon'; console.log(this.model); }",
        controls,
      ),
      /at has no control and is missing at first/,
    ],
    ['is any', slip(`model: any = { row: '', tree: '' };\n  ${send}`, controls), /nothing tells the type of row/],
    [
      'is shown twice',
      slip(
        "row = '';\n  kilos = 3;\n  send(): void {}",
        '<input name="row" [(ngModel)]="row"><input name="a" type="range" [(ngModel)]="kilos"><input name="b" type="number" [(ngModel)]="kilos">',
      ),
      /another control shows a as well/,
    ],
    [
      'is shown by a control that is disabled at times',
      slip(
        "row = '';\n  tree = '';\n  send(): void {}",
        '<input name="row" [(ngModel)]="row"><input name="tree" required [(ngModel)]="tree" [disabled]="!row">',
      ),
      /has to be disabled in the class/,
    ],
  ])('is left by hand where the model %s', async (_what, text, why) => {
    const entries = await left('slip.component.ts', text, 'model-driven');
    expect(entries.map(([, reason]) => reason).join('\n')).toMatch(why);
  });
});

describe('a template in its class that needs backslashes', () => {
  const tap = readFileSync(path.join(root, 'test/forms/angular/tap-check.component.ts'), 'utf8');

  it('is written with the escapes of its literal, and read without them', async () => {
    const text = await after('tap-check.component.ts', tap, 'template-driven');
    expect(text).toContain('pattern="T\\\\d{2}"');
    expect(await after('tap-check.component.ts', text, 'model-driven')).toContain("Validators.pattern('T\\\\d{2}')");
  });

  it('is refused where something else is escaped in it', async () => {
    const odd = tap.replace('Like T12', "It\\'s like T12");
    await expect(left('tap-check.component.ts', odd, 'template-driven')).rejects.toThrow(/escapes in it other than/);
  });
});
