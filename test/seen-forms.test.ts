import { describe, expect, it } from 'vitest';
import { surveyText } from '../src/survey/survey.js';
import { parseScript } from '../src/source/script.js';
import { walk } from '../src/source/traverse.js';

/** What the survey says of a file: a line a form with its fields, and a line a finding. */
async function seen(text: string): Promise<string[]> {
  const { forms, failed } = await surveyText('/orchard/Slip.tsx', text, { ownValueNames: [] });
  if (failed !== undefined) throw new Error(failed);
  return forms.flatMap(({ name, approach, fields, findings }) => [
    `${name} ${approach}: ${fields.map((field) => field.name).join(', ')}`,
    ...findings.map(({ code, message }) => `${code}: ${message}`),
  ]);
}

const react = "import { useState, useMemo } from 'react';";

describe('what a form is', () => {
  it('sends: what only shows a part of a chart does not', async () => {
    const lines = await seen(`${react}
export const YieldChart = ({ harvests, units, format }) => {
  const [shown, setShown] = useState({ label: 'Apples', title: 'Apples in kilos', value: 'apples', unit: units.get('apples') });
  const data = useMemo(() => harvests.filter((one) => one[shown.value]).map((one) => ({ group: shown.title, value: one[shown.value] })), [harvests, shown]);
  const options = { title: shown.title, html: ({ value }) => \`<b>\${format(value)} \${shown.unit}</b>\` };
  return (
    <div>
      {['apples', 'pears'].map((value) => (
        <Tab key={value} onClick={() => setShown({ label: value, title: value, value, unit: units.get(value) })}>{value}</Tab>
      ))}
      <LineChart data={data} options={options} />
    </div>
  );
};`);
    expect(lines).toEqual([]);
  });

  it('an object of values that a button hands on does', async () => {
    const lines = await seen(`${react}
export function Harvest({ onSave }) {
  const [log, setLog] = useState({ row: '', kilos: '' });
  return (
    <div>
      <input value={log.row} onChange={(e) => setLog({ ...log, row: e.target.value })} />
      <input value={log.kilos} onChange={(e) => setLog({ ...log, kilos: e.target.value })} />
      <button type="button" onClick={() => onSave(log)}>Save</button>
    </div>
  );
}`);
    expect(lines).toEqual(['Harvest object-state: row, kilos']);
  });

  it('may stand behind a component that is given its element', async () => {
    const lines = await seen(`${react}
export function PestNote({ onSend }) {
  const [text, setText] = useState('');
  async function send() { await onSend(text); }
  return (
    <Stack render={<form />} onSubmit={(event) => { event.preventDefault(); send(); }}>
      <RichText label="Note" value={text} onChange={setText} />
      <Button type="submit">Add</Button>
    </Stack>
  );
}`);
    expect(lines).toEqual(['PestNote field-state: text']);
  });

  it('is not what a button opens and closes, even where it is remembered', async () => {
    const lines = await seen(`${react}
export const Side = ({ cookies }) => {
  const [wide, setWide] = useState(cookies.get('wide') !== 'no');
  const turn = () => { cookies.set('wide', !wide); setWide(!wide); };
  return <div className={wide ? 'wide' : ''}><Button onClick={turn} aria-label={wide ? 'Close' : 'Open'} /></div>;
};`);
    expect(lines).toEqual([]);
  });

  it('is not a page that hands its errors to a form made of a schema', async () => {
    const lines = await seen(`${react}
const GrowerPage = ({ enter }) => {
  const [errors, setErrors] = useState(null);
  const onSubmit = (data) => { enter(data); setErrors(null); };
  return <Form onSubmit={onSubmit} error={errors} schema={{ fields: ['grower', 'plot'] }} />;
};
export default GrowerPage;`);
    expect(lines).toEqual([]);
  });
});

describe('what a field is', () => {
  it('is not a box that only opens a part of the form; a box that is sent is one', async () => {
    const form = (sent: string): string => `${react}
export function FrostWatch({ onWatch }) {
  const [spot, setSpot] = useState('');
  const [late, setLate] = useState(false);
  return (
    <form onSubmit={(event) => { event.preventDefault(); onWatch({ ${sent} }); }}>
      <input value={spot} onChange={(e) => setSpot(e.target.value)} />
      <label><input type="checkbox" checked={late} onChange={() => setLate(!late)} /> Late in the night</label>
      {late && <p>Bring a lamp.</p>}
      <button>Watch</button>
    </form>
  );
}`;
    expect(await seen(form('spot'))).toEqual(['FrostWatch field-state: spot']);
    expect(await seen(form('spot, late'))).toEqual(['FrostWatch field-state: spot, late']);
    // what keeps the form from being sent is checked
    const checked = form('spot').replace('<button>', "<button disabled={late && spot === ''}>");
    expect(await seen(checked)).toEqual(['FrostWatch field-state: spot, late']);
  });

  it('is what a person enters, not all that a type tells of', async () => {
    const lines = await seen(`${react}
interface CrateRule { id: string; made: Date; name: string; kilos: number; shared: boolean; mailed: string }
export function Rule({ rule, onSave }: { rule: CrateRule; onSave: (rule: CrateRule) => void }) {
  const [draft, setDraft] = useState<CrateRule>({ shared: true, ...rule });
  const onShared = (): void => setDraft({ ...draft, shared: !draft?.shared });
  return (
    <form onSubmit={(event) => { event.preventDefault(); onSave(draft); }}>
      <input value={draft?.name} onChange={(e) => setDraft({ ...draft, name: e.target.value })} />
      <input type="number" value={draft.kilos} onChange={(e) => setDraft({ ...draft, kilos: Number(e.target.value) })} />
      <input type="checkbox" checked={draft?.shared} onChange={onShared} />
      <button>Save</button>
    </form>
  );
}`);
    expect(lines).toEqual(['Rule object-state: shared, name, kilos']);
  });

  it('is changed by what holds it: boxes of a list that a hook loads belong to the object that keeps them', async () => {
    const lines = await seen(`${react}
import { usePlots } from './plots';
export function Scope({ onSave }) {
  const [scope, setScope] = useState({ role: '', plots: [] });
  const { plots } = usePlots();
  const has = (plot) => scope.plots.some((one) => one.id === plot.id);
  const onPlot = (event) => {
    const plot = plots.find((one) => one.id === event.target.value);
    setScope({ ...scope, plots: [...scope.plots, plot] });
  };
  return (
    <Form onSubmit={(event) => { event.preventDefault(); onSave(scope); }}>
      <Select value={scope.role} onChange={(e) => setScope({ ...scope, role: e.target.value })} />
      {plots.map((plot) => <Checkbox key={plot.id} checked={has(plot)} value={plot.id} onChange={(event) => onPlot(event)} />)}
    </Form>
  );
}`);
    expect(lines).toEqual(['Scope object-state: role, plots']);
  });

  it('is named by controls, also where the name is said to be one of a type’s, and not by buttons', async () => {
    const lines = await seen(`import { useForm, Controller } from 'react-hook-form';
export function Batch({ fields, onSave }) {
  const form = useForm();
  return (
    <Form onSubmit={form.handleSubmit(onSave)}>
      <Controller control={form.control} name={'batch' as keyof Crate} render={() => null} />
      <Button name="save" type="submit" onClick={() => null}>Save</Button>
    </Form>
  );
}`);
    expect(lines).toEqual(['Batch react-hook-form: batch']);
  });
});

describe('rules that name no field', () => {
  const form = (send: string, rest = ''): string => `${react}
export function Spray({ post, t }) {
  const [row, setRow] = useState('');
  const [errors, setErrors] = useState({});
  ${send}
  return <form onSubmit={send}><input value={row} onChange={(e) => setRow(e.target.value)} />{errors.row}<button>Send</button></form>;
}
${rest}`;
  it('are told beside a rule of a field', async () => {
    const lines = await seen(
      form(`const send = (event) => {
    event.preventDefault();
    const found = {};
    if (!row) found.row = 'Which row?';
    if (row.length > 9) found.line = 'Too long';
    setErrors(found);
    if (!Object.keys(found).length) post({ row });
  };`),
    );
    expect(lines).toContain('rule-without-field: the rule for “line” speaks of no field of the form');
  });

  it.each([
    [
      'the parts of one message',
      `const send = async (event) => {
    event.preventDefault();
    if (!row) { showNotice({ title: t('Not sent'), kind: 'error', subtitle: 'Which row?' }); return; }
    await post({ row });
  };`,
    ],
    [
      'members of what is sent',
      `const send = async (event) => {
    event.preventDefault();
    const saved = await post({ row });
    if (saved) { const link = { row: t(saved.row), place: saved.place, sort: 'spray-log' }; post(link); }
  };`,
    ],
    [
      'members of an address',
      `const send = async (event) => {
    event.preventDefault();
    const address = new URL(row);
    if (address.host === 'old') { address.host = 'orchard.example'; }
    await post({ row: String(address) });
  };`,
    ],
  ])('are not %s', async (_what, send) => {
    expect((await seen(form(send))).filter((line) => line.startsWith('rule-without-field'))).toEqual([]);
  });
});

describe('a walk', () => {
  it('goes in the order of the text, skips, stops, and may be walked inside of itself', () => {
    const parsed = parseScript('walk.ts', 'first(); { skipped(); } function held() { inner(third()); } last();');
    if (!parsed.ok) throw new Error(parsed.problem.reason);
    const calls: string[] = [];
    const inside: number[] = [];
    walk(parsed.script.program, {
      BlockStatement(path) {
        if (path.parentPath.isProgram()) path.skip();
      },
      'FunctionDeclaration|ArrowFunctionExpression'(path) {
        walk(path, { Identifier: () => void inside.push(1) });
        walk(path, { CallExpression: (call) => call.skip(), Identifier: () => void inside.push(2) });
      },
      CallExpression(path) {
        calls.push(parsed.script.text.slice(path.node.start ?? 0, path.node.end ?? 0));
        if (calls.length === 3) path.stop();
      },
    });
    expect(calls).toEqual(['first()', 'inner(third())', 'third()']);
    expect(inside).toEqual([1, 1, 1, 2]);
  });

  it('knows groups of nodes, names that are read, and every node', () => {
    const parsed = parseScript('walk.ts', 'const a = b; a.c; (() => a)();');
    if (!parsed.ok) throw new Error(parsed.problem.reason);
    const read: string[] = [];
    let functions = 0;
    let nodes = 0;
    walk(parsed.script.program, {
      enter: () => void (nodes += 1),
      ReferencedIdentifier: (path) => void read.push(String(path.node.name)),
      Function: () => void (functions += 1),
    });
    expect(read).toEqual(['b', 'a', 'a']);
    expect(functions).toBe(1);
    expect(nodes).toBeGreaterThan(10);
  });
});
