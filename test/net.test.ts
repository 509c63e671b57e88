import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { rewriteForm } from '../src/rewrite/rewrite.js';
import { formsOfFile } from '../src/rewrite/forms.js';
import { checkNames, type Caught, type CheckName } from '../src/rewrite/net/caught.js';
import { netted } from '../src/rewrite/net/net.js';
import { plannedStep, type StepPlan } from '../src/rewrite/planned-step.js';
import { diskWorkspace, overlaid } from '../src/source/workspace.js';
import { root } from './tools/project.js';

const settings = { ownValueNames: [] };

const pests = `import { useState } from 'react';
import { track } from './track';

export function PestNote({ send, area }) {
  const [pest, setPest] = useState('aphid');
  const [leaves, setLeaves] = useState(3);
  const [sure, setSure] = useState(false);
  // the area comes from the map
  const store = async (event) => {
    event.preventDefault();
    await send({ pest: pest.trim(), leaves, sure, area });
    setLeaves(0); // counted anew
    track('pest', area);
  };
  return (
    <form onSubmit={store}>
      <input aria-label="Pest" value={pest} onChange={(e) => setPest(e.target.value)} />
      <input aria-label="Leaves" type="number" value={leaves} onChange={(e) => setLeaves(Number(e.target.value))} />
      <input aria-label="Sure" type="checkbox" checked={sure} onChange={(e) => setSure(e.target.checked)} />
      <button type="button" onClick={() => { setPest('aphid'); setSure(true); }}>Again</button>
      <button>Note</button>
    </form>
  );
}
`;

/** Plans one step of a form that stands in memory, and lets something happen to the plan before the net looks at it. */
async function caughtOf(text: string, to: string, damage?: (step: StepPlan) => StepPlan['plan']): Promise<Caught[]> {
  const file = '/orchard/PestNote.jsx';
  return caughtIn(file, to, damage, overlaid(diskWorkspace, new Map([[file, text]])));
}

/** The same for a form of the test set. */
async function caughtIn(
  name: string,
  to: string,
  damage: (step: StepPlan) => StepPlan['plan'] = ({ plan }) => plan,
  workspace = diskWorkspace,
): Promise<Caught[]> {
  const file = path.resolve(root, name);
  const read = workspace.read(file);
  const found = await formsOfFile(file, read.ok ? read.text : '', workspace, settings);
  const form = found.ok ? found.forms[0] : undefined;
  if (!found.ok || !form) throw new Error('no form');
  const step = plannedStep(form, found.script, { to }, workspace, settings);
  expect(step.plan.ledger.filter(({ entry }) => entry === 'by-hand')).toEqual([]);
  const { caught } = await netted({ ...step, plan: damage(step) }, { to, leaves: false }, workspace, settings);
  return caught;
}

/** A plan in which a text that is put in reads otherwise. */
function written(from: string | RegExp, by: string) {
  return ({ plan }: StepPlan): StepPlan['plan'] => {
    const edits = plan.edits.map((edit) => ({ ...edit, text: edit.text.replace(from, by) }));
    expect(edits).not.toEqual(plan.edits);
    return { ...plan, edits };
  };
}

/** A plan that also takes away what a pattern finds in the original. */
function taken(pattern: RegExp) {
  return ({ plan, model, sources }: StepPlan): StepPlan['plan'] => {
    const found = pattern.exec(sources.text(model.file));
    if (!found) throw new Error(`${pattern.source} is not there`);
    const edit = { file: model.file, start: found.index, end: found.index + found[0].length, text: '' };
    return { ...plan, edits: [...plan.edits, edit] };
  };
}

function checksOf(caught: readonly Caught[]): CheckName[] {
  return [...new Set(caught.map(({ check }) => check))].sort();
}

describe('the net', () => {
  it.each(['reducer', 'object-state', 'own-hook', 'declared-schema'])(
    'lets a right plan through, to %s',
    async (to) => {
      expect(await caughtOf(pests, to)).toEqual([]);
    },
  );

  it('knows four checks, and each catches something that no other does', async () => {
    const only: Record<CheckName, Caught[]> = {
      // the ledger says that a call is carried, and its edit was left out
      fate: await caughtOf(pests, 'reducer', ({ plan }) => ({
        ...plan,
        ledger: [
          ...plan.ledger,
          {
            entry: 'carried',
            span: { file: '/orchard/PestNote.jsx', start: 0, end: 6 },
            what: 'import',
            why: 'it moved',
          },
        ],
      })),
      // a value that is sent loses its trim: it parses, and the fields are the same
      conservation: await caughtOf(pests, 'reducer', taken(/(?<=pest: pest)\.trim\(\)/)),
      // two fields change places in one dispatch: every name and literal is still there
      equality: await caughtOf(
        pests,
        'reducer',
        written(/pest: 'aphid',(\s*)sure: true/, "sure: 'aphid',$1pest: true"),
      ),
      // a comment goes: no token of the code is missing
      soundness: await caughtOf(pests, 'reducer', taken(/ \/\/ counted anew/)),
    };
    for (const check of checkNames) expect([check, checksOf(only[check])]).toEqual([check, [check]]);
  });

  it.each<[string, (step: StepPlan) => StepPlan['plan'], RegExp]>([
    ['a second assignment of one handler', written(/,\s*sure: true/, ''), /sure/],
    ['a start value that becomes an empty one', written("pest: 'aphid'", "pest: ''"), /pest|aphid/],
    ['a prop that is handed on', taken(/, area(?= \}\);)/), /area would be lost/],
    ['a call beside the form', taken(/ {4}track\('pest', area\);\n/), /track/],
    ['a conversion on the way in', written('Number(e.target.value)', 'e.target.value'), /Number would be lost/],
    ['a field that is left out of a change', written(/pest: 'aphid',\s*/, ''), /pest|sure/],
    ['a name that nobody declares', written('dispatch({', 'dispach({'), /dispach would not be known/],
    ['code that does not parse', written('dispatch({', 'dispatch({{'), /does not parse/],
  ])('catches %s', async (_what, damage, why) => {
    const caught = await caughtOf(pests, 'reducer', damage);
    expect(caught.map((one) => `${one.what}: ${one.why}`).join('\n')).toMatch(why);
  });

  const left = `import { useReducer } from 'react';
const check = (row) => (row ? {} : { row: 'Which row?' });
function reducer(note, action) {
  switch (action.type) {
    case 'typed':
      return { ...note, [action.name]: action.value };
    case 'left':
      return { ...note, wrong: check(note.row) };
    default:
      return note;
  }
}
export function PestNote({ send }) {
  const [note, turn] = useReducer(reducer, { row: '', pest: '', wrong: {} });
  const left = () => turn({ type: 'left' });
  return (
    <form onSubmit={(e) => { e.preventDefault(); turn({ type: 'left' }); if (note.row === '') return; send(note.row, note.pest); }}>
      <input value={note.row} onBlur={left} onChange={(e) => turn({ type: 'typed', name: 'row', value: e.target.value })} />
      <input value={note.pest} onChange={(e) => turn({ type: 'typed', name: 'pest', value: e.target.value })} />
      <button>{note.wrong.row || 'Note'}</button>
    </form>
  );
}
`;

  it('catches what a case asks and only one of its changes would ask any more', async () => {
    const caught = await caughtOf(left, 'object-state', ({ plan }) => {
      const first = plan.edits.findIndex(({ text }) => text.includes('wrong: check('));
      const edits = plan.edits.map((edit, index) =>
        index === first ? { ...edit, text: edit.text.replace(/check\(([\w.]+)\)/, '$1') } : edit,
      );
      return { ...plan, edits };
    });
    expect(caught.map(({ why }) => why).join('\n')).toMatch(/new values of wrong would say check 1 times, not 2 times/);
  });

  it('catches a state variable that nothing sets any more, also in a component that is exported', async () => {
    const counted = left
      .replace('wrong: {} });', 'wrong: {}, eggs: 3 });')
      .replace("case 'left':", "case 'clear':\n      return { ...note, eggs: 0, row: '' };\n    case 'left':")
      .replace('<button>', "<b onClick={() => turn({ type: 'clear' })}>{note.eggs} eggs</b><button>");
    expect(await caughtOf(counted, 'field-state')).toEqual([]);
    const caught = await caughtOf(counted, 'field-state', written(/setEggs\(0\);?/, ''));
    expect(caught.map(({ why }) => why)).toContain('the name setEggs would be left unused');
  });

  it('catches a new value that says less, where other changes say the same', async () => {
    const sorted = left.replace(
      'wrong: check(note.row) };',
      "wrong: check(note.row) };\n    case 'tidy':\n      return { ...note, pest: note.pest.trim().toLowerCase() };",
    );
    const tidy = sorted.replace(
      "turn({ type: 'left' });\n",
      "turn({ type: 'left' });\n  const tidy = () => turn({ type: 'tidy' });\n",
    );
    const twice = tidy.replace(
      '<button>',
      "<b onClick={tidy}>Tidy</b><i onClick={() => turn({ type: 'tidy' })}>Tidy</i><button>",
    );
    expect(await caughtOf(twice, 'object-state')).toEqual([]);
    const caught = await caughtOf(twice, 'object-state', ({ plan }) => {
      const first = plan.edits.findIndex(({ text }) => text.includes('.trim()'));
      const edits = plan.edits.map((edit, index) =>
        index === first ? { ...edit, text: edit.text.replace('.trim()', '') } : edit,
      );
      return { ...plan, edits };
    });
    expect(caught.map(({ why }) => why).join('\n')).toMatch(/new values of pest would say trim 1 times, not 2 times/);
  });

  it('catches a case that lost something another one says as well', async () => {
    const pressed = left
      .replace(
        "case 'left':",
        "case 'later': {\n      const row = note.pest;\n      if (row === '') return { ...note, row, wrong: {} };\n      return { ...note, row };\n    }\n    case 'left':",
      )
      .replace('<button>', "<b onClick={() => turn({ type: 'later' })}>Later</b><button>");
    expect(await caughtOf(pressed, 'object-state')).toEqual([]);
    const caught = await caughtOf(pressed, 'object-state', written(', row, wrong: {} }', ', row }'));
    expect(caught.map(({ why }) => why).join('\n')).toMatch(/would not stand in later word for word/);
  });

  it('catches an Angular reset that gives a field another value, and a change that is left out', async () => {
    const diary = 'test/forms/angular/spray-diary.component.ts';
    expect(await caughtIn(diary, 'template-driven')).toEqual([]);
    const reset = await caughtIn(diary, 'template-driven', written(', agent: this.model.agent }', ' }'));
    expect(reset.map(({ why }) => why)).toContain('no reset of the result gives these values');
    const wind = await caughtIn(diary, 'template-driven', written('this.model.wind = 0', 'this.model.wind'));
    expect(wind.map(({ why }) => why)).toContain('wind would not get 0 here');
  });

  it('catches a comparison that takes more for equal', async () => {
    const loose = pests
      .replace('const store', 'const tooMany = leaves === 9;\n  const store')
      .replace('>Note<', '>{tooMany && 1}<');
    const caught = await caughtOf(loose, 'object-state', ({ plan }) => ({
      ...plan,
      edits: [
        ...plan.edits,
        { file: '/orchard/PestNote.jsx', start: loose.indexOf('=== 9'), end: loose.indexOf('=== 9') + 3, text: '==' },
      ],
    }));
    expect(caught.map(({ why }) => why).join('\n')).toMatch(/nobody compared by ==/);
  });

  it('points to the line of the original, and says what would be lost', async () => {
    const [one] = await caughtOf(pests, 'reducer', taken(/(?<=pest: pest)\.trim\(\)/));
    expect(one?.what).toBe('await send({ pest: pest.trim(), leaves, sure, area });');
    expect(one?.why).toBe('trim would be lost');
    expect(pests.slice(one?.span.start, one?.span.end)).toBe('trim');
  });

  it('catches a hook that would be called under a condition, and one that would change its place', async () => {
    const caught = await caughtOf(pests, 'reducer', written('const [{', 'if (area) return null;\n  const [{'));
    expect(caught.map(({ why }) => why)).toContain('the hook useReducer would be called under a condition');
  });
});

/** What becomes of a form: its text after, or the reasons why it is left by hand. */
async function outcome(text: string, to: string): Promise<{ after: string; left: string[] }> {
  const file = '/orchard/Crate.tsx';
  const workspace = overlaid(diskWorkspace, new Map([[file, text]]));
  const result = await rewriteForm({ file, to }, workspace, settings);
  if (result.kind !== 'rewrite') throw new Error(JSON.stringify(result));
  const { ledger, files } = result.rewrite;
  return {
    after: files.find((change) => change.file === file)?.after ?? '',
    left: ledger.flatMap(({ entry, line, why }) => (entry === 'by-hand' ? [`${line}: ${why}`] : [])),
  };
}

const crate = (start: string, more = '', again = 'setCrate(empty)'): string => `import { useState } from 'react';
type Crate = { row: string; tree: string; kilos: number };
const empty: Crate = { row: '', tree: '', kilos: 1 };
export function CrateSlip({ given, send }: { given?: Partial<Crate>; send: (crate: Crate) => void }) {
  const [crate, setCrate] = useState<Crate>(${start});
  ${more}
  return (
    <form onSubmit={(e) => { e.preventDefault(); send(crate); ${again}; }}>
      <input aria-label="Row" value={crate.row} onChange={(e) => setCrate({ ...crate, row: e.target.value })} />
      <input aria-label="Tree" value={crate.tree} onChange={(e) => setCrate({ ...crate, tree: e.target.value })} />
      <input aria-label="Kilos" type="number" value={crate.kilos} onChange={(e) => setCrate({ ...crate, kilos: +e.target.value })} />
      <button>Send</button>
    </form>
  );
}
`;

describe('starts that are told as a whole', () => {
  it('are carried whole where one object holds the values', async () => {
    const { after, left } = await outcome(crate('{ ...empty, ...given }'), 'reducer');
    expect(left).toEqual([]);
    expect(after).toContain('useReducer(crateSlipReducer, { ...empty, ...given })');
  });

  it('are carried lazily where they were lazy', async () => {
    const { after, left } = await outcome(crate('() => ({ ...empty, ...given })'), 'reducer');
    expect(left).toEqual([]);
    expect(after).toMatch(/useReducer\(crateSlipReducer, null, \(\) => \(\{ \.\.\.empty, \.\.\.given \}\)\)/);
  });

  it('are one constant of which each variable takes its part', async () => {
    const { after, left } = await outcome(
      crate('{ ...empty, ...given }', '', 'setCrate({ ...empty, ...given })'),
      'field-state',
    );
    expect(left).toEqual([]);
    expect(after).toContain(
      'const start: Crate = { ...empty, ...given };\n  const [row, setRow] = useState(start.row);\n  const [tree, setTree] = useState(start.tree);',
    );
    expect(after).toMatch(
      /const next: Crate = \{ \.\.\.empty, \.\.\.given \};\s+setRow\(next\.row\);\s+setTree\(next\.tree\);\s+setKilos\(next\.kilos\);/,
    );
  });

  it('are one constant made once where they were lazy', async () => {
    const { after, left } = await outcome(
      crate('() => ({ ...empty, ...given })', '', 'setCrate({ ...empty, row: "A" })'),
      'field-state',
    );
    expect(left).toEqual([]);
    expect(after).toContain('const [start] = useState<Crate>(() => ({ ...empty, ...given }));');
  });

  it.each([
    ['begins as', '{ ...empty, ...given }', 'setCrate(empty)'],
    ['is put into it', 'empty', 'setCrate(given)'],
  ])('are left by hand where what it %s may hold more than the fields', async (words, start, again) => {
    const untyped = crate(start, '', again)
      .replace(/type Crate.*\n/, '')
      .replace(/: (?:Crate|\{ given[^}]*\})|<Crate>/g, '');
    const { left } = await outcome(untyped, 'field-state');
    expect(left.join()).toMatch(new RegExp(`${words} may hold more than the form’s fields`));
  });

  it('count an override once, and the later one', async () => {
    const { after, left } = await outcome(crate("{ ...empty, tree: 'm' }"), 'field-state');
    expect(left).toEqual([]);
    expect(after).toContain("useState('m')");
    expect(after.match(/\[tree, setTree\]/g)).toHaveLength(1);
  });

  it('keep what a change takes from the values behind a constant', async () => {
    const { after, left } = await outcome(
      crate("{ ...empty, tree: 'm' }", '', 'setCrate({ ...empty, row: crate.row })'),
      'reducer',
    );
    expect(left).toEqual([]);
    expect(after).toMatch(/row: crate\.row/);
    expect(after).not.toMatch(/row: empty\.row/);
  });
});

describe('changes that are told as a whole', () => {
  const cases = crate(
    'empty',
    "const grow = () => setCrate((old) => { if (old.kilos > 9) return { ...old, kilos: 1, tree: '' }; return { ...old, row: old.tree }; });",
    'grow()',
  );

  it('stay the same code where one setter takes all values', async () => {
    const { after, left } = await outcome(cases, 'reducer');
    expect(left).toEqual([]);
    expect(after).toMatch(/dispatch\(\{\s+type: 'replaced',\s+next: \(old\) => \{ if \(old\.kilos > 9\)/);
  });

  it('are left by hand where variables hold the values', async () => {
    const { left } = await outcome(cases, 'field-state');
    expect(left.join()).toMatch(/decides between changes of several fields/);
  });

  const patched = (more: string): string =>
    crate(
      'empty',
      `const patch = (part: Partial<Crate>) => setCrate((old) => ({ ...old, ...part })); ${more}`,
      'second()',
    );

  it('are given to their variables one by one where they run once in a turn', async () => {
    const { after, left } = await outcome(patched("const second = () => patch({ row: 'B' });"), 'field-state');
    expect(left).toEqual([]);
    expect(after).toContain('const next: Crate = { ...crate, ...part };');
  });

  it('are left by hand where they may run twice in a turn', async () => {
    const { left } = await outcome(
      patched("const second = () => { patch({ row: 'B' }); patch({ tree: '' }); };"),
      'field-state',
    );
    expect(left.join()).toMatch(/state variables would give older ones here/);
  });
});
