import { afterAll, describe, expect, it } from 'vitest';
import { project, type TestProject } from './tools/project.js';

const homes: TestProject[] = [];
afterAll(() => homes.forEach((home) => home.remove()));

interface Told {
  status: { role: string; name: string; shape: string; derived?: boolean }[];
  checkers: { name: string; runs: { moment: string; of: 'all' | string[]; when: string | null; line: number }[] }[];
  messages: { field: string | null; after: string[]; all?: boolean; line: number }[];
  submit: { by: string; prevents: boolean | null; steps: { does: string; branch: string; line: number }[] };
  changes: { fields: string[]; whole: boolean; line: number }[];
  rules: { fields: string[]; message: string | null; moments: string[] }[];
}

/** What `inspect` says of a form besides its values, one line each, as a person would tell it. */
async function story(files: Record<string, string>, file: string): Promise<Record<string, string[]>> {
  const home = project(files);
  homes.push(home);
  const run = await home.run('inspect', file, '--format', 'json');
  expect(run.code, run.stderr).toBe(0);
  const [form] = (JSON.parse(run.stdout) as { forms: Told[] }).forms;
  if (!form) throw new Error('no form');
  return {
    status: form.status.map((one) => `${one.role}: ${one.name}, ${one.shape}${one.derived ? ', derived' : ''}`),
    runs: form.checkers.flatMap(({ name, runs }) =>
      runs.map(({ moment, of, when }) => `${name} on ${moment} of ${String(of)}${when ? ` when ${when}` : ''}`),
    ),
    messages: form.messages.map(({ field, after, all }) => `${field ?? 'form'} after ${after.join(all ? '&' : '|')}`),
    submit: [
      `by ${form.submit.by}, prevents ${String(form.submit.prevents)}`,
      ...form.submit.steps.map(({ branch, does }) => (branch === 'before' ? does : `${branch}: ${does}`)),
    ],
    changes: form.changes.map(({ fields, whole }) => `${fields.join(',')}${whole ? ' as a whole' : ''}`),
    moments: form.rules.map(({ fields, moments }) => `${fields[0] ?? ''}: ${moments.join(',')}`),
  };
}

const beeCheck = `import { useState, useRef } from 'react';
import { problemsOf } from './problems';

export function BeeCheck({ store, hives }) {
  const [hive, setHive] = useState('');
  const [frames, setFrames] = useState('10');
  const [touched, setTouched] = useState({});
  const [wrong, setWrong] = useState({});
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState(null);
  const [open, setOpen] = useState(false);
  const first = useRef(null);
  const left = (name) => () => {
    setTouched((old) => ({ ...old, [name]: true }));
    setWrong(problemsOf({ hive, frames }));
  };
  const clear = () => { setHive(''); setFrames('10'); };
  async function send(event) {
    event.preventDefault();
    if (busy) return;
    setTouched({ hive: true, frames: true });
    const found = problemsOf({ hive, frames });
    setWrong(found);
    if (Object.keys(found).length > 0) {
      first.current?.focus();
      return;
    }
    setBusy(true);
    try {
      const answer = await store({ hive, frames: Number(frames) });
      if (answer.errors) {
        setWrong(answer.errors);
        return;
      }
      clear();
      setTouched({});
    } catch {
      setTrouble('The shed did not answer');
    } finally {
      setBusy(false);
    }
  }
  return (
    <form onSubmit={send} noValidate>
      <button type="button" onClick={() => setOpen(!open)}>Help</button>
      <input aria-label="Hive" ref={first} value={hive} onChange={(e) => setHive(e.target.value)} onBlur={left('hive')} />
      {touched.hive && wrong.hive && <p>{wrong.hive}</p>}
      <input aria-label="Frames" value={frames} onChange={(e) => setFrames(e.target.value)} onBlur={left('frames')} />
      {touched.frames && wrong.frames ? <p>{wrong.frames}</p> : null}
      {trouble && <p role="alert">{trouble}</p>}
      <button disabled={busy}>Store</button>
      <button type="button" onClick={clear}>Clear</button>
    </form>
  );
}
`;
const problems = `export function problemsOf(check) {
  const found = {};
  if (!check.hive) found.hive = 'Which hive?';
  if (check.frames < 1) found.frames = 'One frame at least';
  return found;
}
`;

describe('what happens to a form besides its values', () => {
  it('is told of checks on leaving and sending, with answers of a server', async () => {
    expect(await story({ 'src/BeeCheck.jsx': beeCheck, 'src/problems.js': problems }, 'src/BeeCheck.jsx')).toEqual({
      status: [
        'touched: touched, by-field',
        'errors: wrong, by-field',
        'submitting: busy, one',
        'message: trouble, one',
      ],
      runs: ['problemsOf on submit of all', 'problemsOf on blur of all'],
      messages: ['hive after touched', 'frames after touched', 'form after '],
      submit: [
        'by form, prevents true',
        'touch-all',
        'check',
        'keep-errors',
        'stop-if-wrong',
        'focus-first',
        'begin',
        'send',
        'failure: field-errors',
        'success: reset',
        'failure: message',
        'always: end',
      ],
      changes: ['hive,frames'],
      moments: ['hive: blur,submit', 'frames: blur,submit'],
    });
  });

  it('is followed into a hook of the project that is handed on by another file', async () => {
    const told = await story(
      {
        'src/hooks/useEntry.js': `import { useState } from 'react';
export function useEntry({ initial, check, onSend }) {
  const [values, setValues] = useState(initial);
  const [tried, setTried] = useState(false);
  const errors = check(values);
  const change = (event) => setValues((old) => ({ ...old, [event.target.name]: event.target.value }));
  const submit = async (event) => {
    event.preventDefault();
    setTried(true);
    if (Object.keys(errors).length) return;
    await onSend(values);
    setTried(false);
  };
  return { values, errors, tried, change, submit };
}
`,
        'src/hooks/index.js': `export * from './useEntry';\n`,
        'src/SprayEntry.jsx': `import { useEntry } from './hooks';
const check = (entry) => (entry.agent ? {} : { agent: 'Which agent?' });
export function SprayEntry({ log }) {
  const form = useEntry({ initial: { agent: '', litres: '5' }, check, onSend: (entry) => log(entry) });
  const { values } = form;
  return (
    <form onSubmit={form.submit}>
      <input name="agent" aria-label="Agent" value={values.agent} onChange={form.change} />
      {form.tried && form.errors.agent && <em>{form.errors.agent}</em>}
      <input name="litres" aria-label="Litres" value={values.litres} onChange={form.change} />
      <button>Log</button>
    </form>
  );
}
`,
      },
      'src/SprayEntry.jsx',
    );
    expect(told['status']).toEqual(['attempted: tried, one', 'errors: errors, by-field, derived']);
    expect(told['messages']).toEqual(['agent after attempted']);
    expect(told['submit']).toEqual(['by form, prevents true', 'attempt', 'stop-if-wrong', 'send']);
    expect(told['runs']).toEqual(['check on always of all']);
  });

  it('is told of a class, and of a button that sends without a form', async () => {
    const told = await story(
      {
        'src/GateSlip.jsx': `import React from 'react';
export class GateSlip extends React.Component {
  state = { gate: '', note: 'closed', sending: false };
  pass = () => {
    this.setState({ sending: true });
    this.props.pass({ gate: this.state.gate, note: this.state.note }).then(
      () => this.setState({ gate: '', note: 'closed', sending: false }),
      () => this.setState({ sending: false }),
    );
  };
  render() {
    const { gate, note, sending } = this.state;
    return (
      <div>
        <input aria-label="Gate" value={gate} onChange={(e) => this.setState({ gate: e.target.value })} />
        <input aria-label="Note" value={note} onChange={(e) => this.setState({ note: e.target.value })} />
        <button disabled={sending} onClick={this.pass}>Pass</button>
      </div>
    );
  }
}
`,
      },
      'src/GateSlip.jsx',
    );
    expect(told['status']).toEqual(['submitting: sending, one']);
    expect(told['submit']?.slice(0, 3)).toEqual(['by button, prevents null', 'begin', 'send']);
    expect(told['changes']).toEqual(['gate,note']);
  });

  it('is told of Angular templates: gates, getters, errors by key', async () => {
    const told = await story(
      {
        'src/hail.component.ts': `import { Component, inject } from '@angular/core';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { HailService } from './hail.service';
@Component({
  selector: 'app-hail',
  imports: [ReactiveFormsModule],
  template: \`
    <form [formGroup]="hail" (ngSubmit)="report()">
      <label>Plot <input formControlName="plot" /></label>
      @if (plot.touched || tried) {
        @if (plot.hasError('required')) { <p>Which plot?</p> } @else if (plot.hasError('minlength')) { <p>Two letters</p> }
      }
      <label>Trees <input type="number" formControlName="trees" /></label>
      <small [hidden]="!(hail.get('trees')?.invalid && hail.get('trees')?.dirty)">More than none</small>
      @if (problem) { <p>{{ problem }}</p> }
      <button [disabled]="sending">Report</button>
    </form>\`,
})
export class Hail {
  private readonly hails = inject(HailService);
  tried = false;
  sending = false;
  problem = '';
  hail = inject(FormBuilder).nonNullable.group({
    plot: ['', [Validators.required, Validators.minLength(2)]],
    trees: [1, Validators.min(1)],
  });
  get plot() { return this.hail.controls.plot; }
  report() {
    this.tried = true;
    if (this.hail.invalid) return;
    this.sending = true;
    this.hails.report(this.hail.getRawValue()).subscribe({
      next: () => { this.sending = false; this.hail.reset(); },
      error: () => { this.sending = false; this.problem = 'Not reported'; },
    });
  }
}
`,
        'src/hail.service.ts': `import { Injectable } from '@angular/core';
import { of } from 'rxjs';
@Injectable()
export class HailService {
  report(value: { plot: string; trees: number }) { return of(value); }
}
`,
      },
      'src/hail.component.ts',
    );
    expect(told['messages']).toEqual([
      'plot after touched|attempted',
      'plot after touched|attempted',
      'trees after changed',
      'form after ',
    ]);
    expect(told['submit']).toEqual([
      'by form, prevents true',
      'attempt',
      'stop-if-wrong',
      'begin',
      'send',
      'success: end',
      'success: reset',
      'failure: end',
      'failure: message',
    ]);
    expect(told['moments']).toEqual(['plot: always', 'plot: always', 'trees: always']);
    const home = homes.at(-1);
    // its service is provided by nobody; a trial gives it what it asks for
    const run = await home?.run('trial', 'src/hail.component.ts', 'src/hail.component.ts');
    expect(run?.stdout, run?.stderr).toMatch(/^same/);
  });

  it('is seen of forms that are read by their controls alone, and those are left alone', async () => {
    const home = project({
      'src/TreePage.tsx': `import { useShared } from 'orchard-shared';
interface Tree { mark: string; height: number }
export function TreePage({ save }: { save(tree: Tree): Promise<void> }) {
  const [tree, setTree] = useShared<Tree>('tree');
  return (
    <form onSubmit={(e) => { e.preventDefault(); void save(tree); }}>
      <input aria-label="Mark" value={tree.mark} onChange={(e) => setTree({ ...tree, mark: e.target.value })} />
      <input aria-label="Height" type="number" value={tree.height} onChange={(e) => setTree({ ...tree, height: e.target.valueAsNumber })} />
      <button>Save</button>
    </form>
  );
}
`,
    });
    homes.push(home);
    const survey = await home.run('survey', '.');
    expect(survey.stdout).toMatch(/TreePage +own-hook +2/);
    const preview = await home.run('preview', 'src/TreePage.tsx', '--to', 'reducer');
    expect([preview.code, preview.stderr]).toEqual([2, expect.stringContaining('not understood in full')]);
  });
});
