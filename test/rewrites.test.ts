import { describe, expect, it } from 'vitest';
import { after, left, rewritten } from './tools/in-memory.js';

const weighing = (setState: string): string => `import React from 'react';
export class Weighing extends React.Component {
  state = { tree: '', kilos: '', wrong: {} };
  take = (e) => this.setState({ [e.target.name]: e.target.value });
  kept = () => this.props.kept(this.state.tree);
  weigh = (e) => {
    e.preventDefault();
    const wrong = this.state.tree ? {} : { tree: 'Which tree?' };
    ${setState}
  };
  render() {
    return (
      <form onSubmit={this.weigh}>
        <input name="tree" value={this.state.tree} onChange={this.take} />
        <input name="kilos" value={this.state.kilos} onChange={this.take} />
        {this.state.wrong.tree}
        <button>Weigh</button>
      </form>
    );
  }
}
`;

describe('code that a class runs after a change of its state', () => {
  it('runs along with the change, and knows what was set', async () => {
    const call =
      'this.setState({ wrong }, () => { if (Object.keys(this.state.wrong).length === 0) this.props.weighed(this.state.kilos); });';
    const text = await after('Weighing.jsx', weighing(call), 'object-state');
    expect(text).toContain(
      'setState((prev) => ({ ...prev, wrong }));\n    if (Object.keys(wrong).length === 0) props.weighed(state.kilos);',
    );
  });

  it('runs along where it is a method that reads nothing of what was set', async () => {
    const text = await after('Weighing.jsx', weighing('this.setState({ wrong }, this.kept);'), 'object-state');
    expect(text).toContain('setState((prev) => ({ ...prev, wrong }));\n    kept();');
  });

  it('knows the state as a whole', async () => {
    const call = "this.setState({ wrong, kilos: '' }, () => this.props.weighed(this.state));";
    const text = await after('Weighing.jsx', weighing(call), 'object-state');
    expect(text).toContain("props.weighed({ ...state, wrong, kilos: '' });");
  });

  it.each([
    [
      'more follows it',
      'this.setState({ wrong }, this.kept); this.props.weighed();',
      'push(kept);\n    showAgain({}); props.weighed();',
    ],
    ['a method reads what was set', "this.setState({ tree: '' }, this.kept);", 'props.kept(latest.current.tree)'],
    [
      'it looks at the page',
      "this.setState({ wrong }, () => document.title = 'weighed');",
      "push(() => document.title = 'weighed')",
    ],
    [
      'what was set has no name',
      'this.setState({ wrong: {} }, () => this.props.weighed(this.state.wrong));',
      'push(() => props.weighed(latest.current.wrong))',
    ],
  ])('waits in a list for an effect where %s', async (_what, call, made) => {
    const text = await after('Weighing.jsx', weighing(call), 'object-state');
    expect(text).toContain(made);
    expect(text).toContain('for (const run of afterShown.current.splice(0)) run();');
  });

  it('runs also where the change leaves all values as they are', async () => {
    const text = await after('Weighing.jsx', weighing("this.setState({ tree: '' }, this.kept);"), 'field-state');
    expect(text).toContain("setTree('');\n    afterShown.current.push(kept);\n    showAgain({});");
    expect(text).toContain('const [, showAgain] = React.useState({});');
  });

  it('is left by hand where the change may be none', async () => {
    const call = 'this.setState((old) => (old.tree ? { wrong } : null), this.kept);';
    const [entry, ...more] = await left('Weighing.jsx', weighing(call), 'object-state');
    expect(more).toEqual([]);
    expect(entry?.[0]).toBe(9);
    expect(entry?.[1]).toMatch(/once the change is shown/);
  });

  it('asks for the state of now after a wait, and works out what it sets at once', async () => {
    const call =
      'this.props.weighed(wrong); setTimeout(() => { this.setState({ kilos: this.state.kilos + this.state.tree }); }, 500);';
    const text = await after('Weighing.jsx', weighing(call), 'object-state');
    expect(text).toContain('latest.current = state;');
    expect(text).toContain('const change = { kilos: latest.current.kilos + latest.current.tree };');
    expect(text).toContain('setState((prev) => ({ ...prev, ...change }));');
  });
});

describe('a value that is worked out once', () => {
  const teams = (add: string): string => `import { useState } from 'react';
let nextId = 1;
const team = () => ({ id: nextId++, leader: '' });
const blank = () => [];
export function Teams({ send }) {
  const [teams, setTeams] = useState([team()]);
  const [note, setNote] = useState('');
  const store = async () => {
    await send(teams, note);
    ${add}
  };
  return (
    <form onSubmit={(e) => { e.preventDefault(); store(); }}>
      <input value={note} onChange={(e) => setNote(e.target.value)} />
      <input value={teams[0].leader} onChange={(e) => setTeams([{ ...teams[0], leader: e.target.value }])} />
      <button type="button" onClick={() => setTeams([...teams, team()])}>Add</button>
    </form>
  );
}
`;

  it.each(['object-state', 'own-hook'])(
    'stays outside of the function that %s asks for the next values',
    async (to) => {
      const text = await after('Teams.jsx', teams("setTeams([team()]);\n    setNote('');"), to);
      expect(text).toMatch(
        /const nextTeams = \[team\(\)\];\n {4}setValues\(\(prev\) => \(\{ \.\.\.prev, teams: nextTeams, note: '' \}\)\);/,
      );
    },
  );

  it('goes into it where nothing tells it from another time', async () => {
    const text = await after('Teams.jsx', teams("setTeams(blank());\n    setNote('');"), 'object-state');
    expect(text).toContain("setValues((prev) => ({ ...prev, teams: blank(), note: '' }));");
  });

  it('is left by hand where no statement can stand in front of it', async () => {
    const entries = await left('Teams.jsx', teams('send(setTeams([team()]));'), 'object-state');
    expect(entries).toEqual([[10, expect.stringMatching(/worked out at once/)]]);
  });
});

describe('forms that say what others say in another way', () => {
  it('draw their controls by a function of the component', async () => {
    const text = await after(
      'Vole.jsx',
      `import { useState } from 'react';
export function Vole({ raise }) {
  const [form, setForm] = useState({ place: '', holes: '' });
  const [errors, setErrors] = useState({});
  const change = (key) => ({ target }) => {
    const next = { ...form, [key]: target.value };
    setForm(next);
    setErrors({});
  };
  const field = (key) => <input id={key} value={form[key]} onChange={change(key)} />;
  return (
    <form onSubmit={(e) => { e.preventDefault(); raise(form); setForm({ place: '', holes: '' }); }}>
      {field('place')}
      {field('holes')}
      {errors.place}
    </form>
  );
}
`,
      'reducer',
    );
    expect(text).toContain("dispatch({ type: 'changed', values: next });");
  });

  it('begin with a member of an enum', async () => {
    const text = await after(
      'Net.tsx',
      `import { useState } from 'react';
enum Size { Small = 'S', Large = 'L' }
export function Net({ lend }: { lend: (size: Size, days: number) => void }) {
  const [size, setSize] = useState(Size.Small);
  const [days, setDays] = useState(1);
  return (
    <form onSubmit={(e) => { e.preventDefault(); lend(size, days); }}>
      <input type="checkbox" checked={size === Size.Large} onChange={(e) => setSize(e.target.checked ? Size.Large : Size.Small)} />
      <input type="number" value={days} onChange={(e) => setDays(Number(e.target.value))} />
    </form>
  );
}
`,
      'object-state',
    );
    expect(text).toContain('useState({ size: Size.Small, days: 1 })');
  });

  it('give the page a number, which it keeps as text', async () => {
    const text = await after(
      'Sale.jsx',
      `export function Sale({ store }) {
  return (
    <form onSubmit={(e) => { e.preventDefault(); store(Object.fromEntries(new FormData(e.currentTarget))); }}>
      <input name="product" />
      <input name="amount" type="number" defaultValue={1} />
    </form>
  );
}
`,
      'field-state',
    );
    expect(text).toContain('useState("1")');
  });

  it('call a default property like a part of their state', async () => {
    const text = await after(
      'Water.jsx',
      `import React from 'react';
export class Water extends React.Component {
  static defaultProps = { days: ['Mon', 'Wed'] };
  state = { field: '', days: [] };
  render() {
    const { field, days } = this.state;
    return (
      <form onSubmit={(e) => { e.preventDefault(); this.props.plan({ field, days }); }}>
        <input value={field} onChange={(e) => this.setState({ field: e.target.value })} />
        {this.props.days.map((day) => (
          <input key={day} type="checkbox" checked={days.includes(day)} onChange={() => this.setState({ days: [...days, day] })} />
        ))}
      </form>
    );
  }
}
`,
      'field-state',
    );
    expect(text).toContain("Water({ days: daysGiven = ['Mon', 'Wed'], ...rest })");
  });
});

describe('a text of several lines', () => {
  const note = `import { useReducer } from 'react';
function noteReducer(note, action) {
  switch (action.type) {
    case 'typed': {
      const text = action.text || \`Row 1
    Row 2\`;
      return { ...note, text, seen: note.seen + text.length };
    }
    default:
      return note;
  }
}
export function Note({ send }) {
  const [note, change] = useReducer(noteReducer, { text: '', seen: 0 });
  return (
    <form onSubmit={(e) => { e.preventDefault(); send(note); }}>
      <textarea value={note.text} onChange={(e) => change({ type: 'typed', text: e.target.value })} />
      <button>Send {note.seen}</button>
    </form>
  );
}
`;

  it.each(['object-state', 'field-state'])('keeps its lines where code moves to another depth for %s', async (to) => {
    expect(await after('Note.jsx', note, to)).toContain('`Row 1\n    Row 2`');
  });
});

const press = (reducer: string, button: string): string => `import { useReducer } from 'react';
${reducer}
export function Press({ send }) {
  const [press, turn] = useReducer(pressReducer, { bar: 0, fruit: 'apple' });
  return (
    <form onSubmit={(e) => { e.preventDefault(); send(press); }}>
      <input value={press.fruit} onChange={(e) => turn({ type: 'choose', fruit: e.target.value })} />
      <input value={press.bar} onChange={(e) => turn({ type: 'typed', bar: e.target.value })} />
      ${button}
      <button>Press</button>
    </form>
  );
}
`;

const pressReducer = `function pressReducer(press, turn) {
  switch (turn.type) {
    case 'choose':
      return { ...press, fruit: turn.fruit };
    case 'typed':
      return { ...press, bar: turn.bar };
    case 'BY_STEPS': {
      // not beyond the mark
      const most = press.fruit === 'pear' ? 8 : 12;
      if (turn.by > most) return press;
      return { ...press, bar: Math.min(most, press.bar + turn.by), fruit: press.fruit.trim() };
    }
  }
}`;

describe('what a reducer does that is told only as a whole', () => {
  const button = '<button type="button" onClick={() => turn({ type: \'BY_STEPS\', by: 2 })}>More</button>';

  it('is a function of all values', async () => {
    const text = await after('Press.jsx', press(pressReducer, button), 'object-state');
    expect(text).toContain('function bySteps(press, by) {\n  // not beyond the mark');
    expect(text).toContain('if (by > most) return press;');
    expect(text).toContain('setPress((prev) => bySteps(prev, 2))');
    expect(text).not.toMatch(/pressReducer|BY_STEPS/);
  });

  it('gives each variable its part', async () => {
    const text = await after('Press.jsx', press(pressReducer, button), 'field-state');
    expect(text).toMatch(/const next = bySteps\(press, 2\);\s+setBar\(next\.bar\);\s+setFruit\(next\.fruit\);/);
  });

  it('stands in the place of a reducer of another file, and is imported from there', async () => {
    const files = { 'press.js': `export default ${pressReducer}\n`, 'package.json': '{}' };
    const text = await after('Press.jsx', press("import pressReducer from './press';", button), 'object-state', files);
    expect(text).toContain("import { bySteps } from './press';");
  });

  const shared = `export ${pressReducer}\n`;
  it.each([
    [
      'others use the reducer as well',
      'other files',
      { 'Other.js': "export { pressReducer } from './press';\n" },
      shared,
    ],
    ['a test asks for its file', 'other files', { 'press.test.js': "jest.mock('./press');\n" }, shared],
    ['its own file uses it', 'its own file', {}, `${shared}export const rest = pressReducer(undefined, {});\n`],
  ])('is left by hand where %s', async (_what, who, others, reducer) => {
    const form = press("import { pressReducer } from './press';", button);
    const files = { 'press.js': reducer, 'package.json': '{}', ...others };
    const rewrite = await rewritten('Press.jsx', form, 'object-state', files);
    expect(rewrite.files).toEqual([]);
    expect(rewrite.ledger.filter(({ entry }) => entry === 'by-hand').map(({ why }) => why)).toEqual([
      expect.stringMatching(new RegExp(`^${who}\\b.*(?:use|uses) this reducer as well$`)),
    ]);
  });

  it('is left by hand where nothing tells where the project ends', async () => {
    const form = press("import { pressReducer } from './press';", button);
    const rewrite = await rewritten('Press.jsx', form, 'object-state', { 'press.js': shared });
    expect(rewrite.ledger.filter(({ entry }) => entry === 'by-hand').map(({ why }) => why)).toEqual([
      expect.stringMatching(/^no package\.json tells where the project ends/),
    ]);
  });

  it('is left by hand where the reducer decides before it asks for the action', async () => {
    const guarded = pressReducer.replace('{\n', "{\n  if (press.fruit === '') return press;\n");
    const [entry] = await left('Press.jsx', press(guarded, button), 'object-state');
    expect(entry?.[1]).toMatch(/decides something before it asks for the action/);
  });
});

describe('a branch without braces', () => {
  it('gets them where it becomes several changes', async () => {
    const text = await after(
      'Crate.jsx',
      crate("{ sort: '', row: '' }", "if (crate.row) setCrate({ sort: 'A', row: '' })"),
      'field-state',
    );
    expect(text).toMatch(/if \(row\) \{\s+setSort\('A'\);?\s+setRow\(''\);?\s+\}/);
  });
});

const crate = (start: string, sends: string): string => `import { useState } from 'react';
export function Crate({ send }) {
  const [crate, setCrate] = useState(${start});
  const fill = (e) => setCrate((c) => ({ ...c, [e.target.name]: e.target.value }));
  return (
    <form onSubmit={(e) => { e.preventDefault(); ${sends}; setCrate(${start}); }}>
      <input name="sort" value={crate.sort || ''} onChange={fill} />
      <input name="row" value={crate.row || ''} onChange={fill} />
      <button>Send</button>
    </form>
  );
}
`;

describe('values that an object lacks at first', () => {
  it('stay missing where one object holds them, and come back with a reset', async () => {
    const text = await after('Crate.jsx', crate('{}', 'send(crate)'), 'reducer');
    expect(text).toContain('const initialCrate = {};');
    expect(text).toContain("dispatch({ type: 'reset' })");
  });

  it('are state variables where they are asked for one by one', async () => {
    const text = await after('Crate.jsx', crate('{}', 'send(crate.sort, crate.row)'), 'field-state');
    expect(text).toContain('const [sort, setSort] = useState();');
    expect(text).toContain('send(sort, row);');
  });

  it('keep the object from being taken apart where it is handed on', async () => {
    expect(await left('Crate.jsx', crate('{}', 'send(crate)'), 'field-state')).toEqual([
      [6, expect.stringMatching(/lacks sort, row until they are set/)],
    ]);
  });
});

const booking = (
  child: string,
  typed: string,
): string => `import { useState, type Dispatch, type SetStateAction } from 'react';
interface Slot { day: string; plot: number }
export function Booking({ book }: { book: (slot: Slot) => void }) {
  const [slot, setSlot] = useState<Slot>({ day: '', plot: 1 });
  return (
    <form onSubmit={(e) => { e.preventDefault(); book(slot); }}>
      <Entries slot={slot} setSlot={setSlot} />
      <button>Book</button>
    </form>
  );
}
function Entries({ slot, setSlot }: { slot: Slot; setSlot: ${typed} }) {
  return <input value={slot.day} onChange={(e) => ${child}} />;
}
`;

describe('an object that is handed on with its setter', () => {
  const whole = booking('setSlot({ ...slot, day: e.target.value })', '(slot: Slot) => void');
  const updates = booking('setSlot((old) => ({ ...old, day: e.target.value }))', 'Dispatch<SetStateAction<Slot>>');

  it('gives a function that dispatches, one that sets each variable, or the hook’s own', async () => {
    expect(await after('Booking.tsx', whole, 'reducer')).toContain(
      "setSlot={(values) => dispatch({ type: 'changed', values })}",
    );
    expect(await after('Booking.tsx', whole, 'field-state')).toMatch(/setDay\(next\.day\);\s+setPlot\(next\.plot\);/);
    expect(await after('Booking.tsx', whole, 'own-hook')).toMatch(/setValues: (\w+)[\s\S]+setSlot=\{\1\}/);
  });

  it('takes functions of the values before where the child hands such over', async () => {
    const text = await after('Booking.tsx', updates, 'reducer');
    expect(text).toContain("return typeof action.next === 'function' ? action.next(state) : action.next;");
    expect(await left('Booking.tsx', updates, 'field-state')).toEqual([
      [7, expect.stringMatching(/compute all values from the ones before/)],
    ]);
  });
});

describe('names of fields that only the running form knows', () => {
  const table = (types: string): string => `import { useState, type ChangeEvent } from 'react';
interface Log { tree: string; row: ${types} }
export function TreeLog({ keep, rows }: { keep: (log: Log) => void; rows: (keyof Log)[] }) {
  const [log, setLog] = useState<Log>({ tree: '', row: ${types === 'string' ? "''" : '0'} });
  const write = (e: ChangeEvent<HTMLInputElement>) => setLog((old) => ({ ...old, [e.target.name]: e.target.value }));
  return (
    <form onSubmit={(e) => { e.preventDefault(); keep(log); }}>
      {rows.map((name) => <input key={name} name={name} value={log[name]} onChange={write} />)}
      <button>Keep</button>
    </form>
  );
}
`;

  it('are asked for in a switch over all of them', async () => {
    const text = await after('TreeLog.tsx', table('string'), 'field-state');
    expect(text).toMatch(/case 'tree':\s+setTree\(e\.target\.value\);\s+break;\s+case 'row':/);
  });

  it('are left by hand where the fields are of different types', async () => {
    expect(await left('TreeLog.tsx', table('number'), 'field-state')).toEqual([
      [5, expect.stringMatching(/the fields are of different types/)],
    ]);
  });
});

describe('small things that go along', () => {
  it('lists each value where the whole object was listed', async () => {
    const text = `import { useMemo, useState } from 'react';
export function Tally({ keep }) {
  const start = { red: '', green: '' };
  const [tally, setTally] = useState(start);
  const sum = useMemo(() => Number(tally.red) + Number(tally.green), [tally]);
  return (
    <form onSubmit={(e) => { e.preventDefault(); keep(sum); }}>
      <input value={tally.red} onChange={(e) => setTally({ ...tally, red: e.target.value })} />
      <input value={tally.green} onChange={(e) => setTally({ ...tally, green: e.target.value })} />
      <output>{sum}</output>
    </form>
  );
}
`;
    const result = await after('Tally.jsx', text, 'field-state');
    expect(result).toContain('[red, green]');
    // what only the old state began with is not needed any more
    expect(result).not.toContain('const start');
  });

  it('calls a curried setter’s change by its name', async () => {
    const text = `import { useState } from 'react';
export function Dew({ note }) {
  const [dew, setDew] = useState({ place: '', point: '' });
  const put = (key) => (value) => setDew((old) => ({ ...old, [key]: value }));
  return (
    <form onSubmit={(e) => { e.preventDefault(); note(dew); }}>
      <input value={dew.place} onChange={(e) => put('place')(e.target.value.trim())} />
      <input value={dew.point} onChange={(e) => put('point')(e.target.value)} />
    </form>
  );
}
`;
    const result = await after('Dew.jsx', text, 'field-state');
    expect(result).toContain('onChange={(e) => setPlace(e.target.value.trim())}');
    expect(result).not.toContain('const put');
  });

  it('leaves hooks that are called for each field one after the other', async () => {
    const hook = `import { useState } from 'react';
export const useText = (start) => {
  const [text, setText] = useState(start);
  const [left, setLeft] = useState(false);
  return { text, left, write: (e) => setText(e.target.value), leave: () => setLeft(true) };
};
`;
    const text = `import { useText } from './useText';
export function Hail({ tell }) {
  const { text: place, left: placeLeft, write: writePlace, leave: leavePlace } = useText('');
  const { text: size, write: writeSize } = useText('1');
  return (
    <form onSubmit={(e) => { e.preventDefault(); tell(place, size); }}>
      <input value={place} onChange={writePlace} onBlur={leavePlace} />
      {placeLeft && !place && <p>Where?</p>}
      <input value={size} onChange={writeSize} />
    </form>
  );
}
`;
    const result = await after('Hail.jsx', text, 'field-state', { 'useText.js': hook });
    expect(result).toContain("const [place, setPlace] = useState('');");
    expect(result).toContain("const [size, setSize] = useState('1');");
    expect(result).not.toContain('useText');
  });

  it('keeps rules of a number as code where a control gives it text', async () => {
    const text = `import { useState } from 'react';
function check(log) {
  const wrong = {};
  if (!log.tree) wrong.tree = 'Which tree?';
  if (log.boxes > 9) wrong.boxes = 'Nine at most';
  return wrong;
}
export function Boxes({ keep }) {
  const [log, setLog] = useState({ tree: '', boxes: 1 });
  const [wrong, setWrong] = useState({});
  const write = (e) => setLog({ ...log, [e.target.name]: e.target.value });
  return (
    <form onSubmit={(e) => { e.preventDefault(); const found = check(log); setWrong(found); if (!Object.keys(found).length) keep(log); }}>
      <input name="tree" value={log.tree} onChange={write} />{wrong.tree}
      <input name="boxes" type="number" value={log.boxes} onChange={write} />{wrong.boxes}
    </form>
  );
}
`;
    const rewrite = await rewritten('Boxes.jsx', text, 'declared-schema');
    const schema = rewrite.files.find(({ file }) => file.endsWith('.schema.json'))?.after ?? '';
    const { properties } = JSON.parse(schema) as { properties: Record<string, object> };
    expect(properties['boxes']).toEqual({ title: 'Boxes', type: ['number', 'string'], default: 1 });
    expect(properties['tree']).toHaveProperty('minLength', 1);
    expect(rewrite.files.find(({ file }) => file.endsWith('Boxes.jsx'))?.after).toContain('log.boxes > 9');
  });
});

describe('a handler that changes other values along with the one its control names', () => {
  const tally = `import { useState } from 'react';
const start = { hives: '2', from: '', errors: {}, last: '' };
export default function HiveTally({ onMove }) {
  const [state, setState] = useState(start);
  function handleChange({ target: { name, value } }) {
    setState((s) => ({ ...s, [name]: value, errors: { ...s.errors, [name]: value ? undefined : 'Missing' }, last: name }));
  }
  return (
    <form onSubmit={(e) => { e.preventDefault(); onMove(state.hives, state.from, state.last); }}>
      <input aria-label="Hives" name="hives" value={state.hives} onChange={handleChange} />
      {state.errors.hives && <b>{state.errors.hives}</b>}
      <input aria-label="From" name="from" value={state.from} onChange={handleChange} />
      <button>Move</button>
    </form>
  );
}
`;

  it.each([
    [
      'own-hook',
      /changeState\(\(prev\) => \(\{\s*\.\.\.prev,\s*\[name\]: value,\s*errors: \{ \.\.\.prev\.errors, \[name\]:/,
    ],
    [
      'field-state',
      /case 'from':\s*setFrom\(value\);[\s\S]*setErrors\(\(prev\) => \(\{ \.\.\.prev, \[name\]: value \?/,
    ],
    [
      'reducer',
      /dispatch\(\{ type: 'fieldChanged', name, value \}\);\s*dispatch\(\{ type: 'changed', values: \{ last: name \} \}\);\s*dispatch\(\{ type: 'errorsUpdated', name, value \}\)/,
    ],
  ])('stays one handler: %s', async (to, expected) => {
    const text = await after('HiveTally.jsx', tally, to);
    expect(text).toMatch(expected);
    expect(text.match(/onChange=\{handleChange\}/g)).toHaveLength(2);
  });

  it('tells what its names stand for where each control makes the change itself', async () => {
    const short = tally.replace(
      /function handleChange[\s\S]*?\n {2}\}/,
      'const handleChange = ({ target }) => setState((s) => ({ ...s, [target.name]: target.value, last: target.name }));',
    );
    const text = await after('HiveTally.jsx', short, 'own-hook');
    expect(text).toMatch(/hives: e\.target\.value,\s*last: e\.target\.name/);
  });
});

describe('a change of values that are computed from one another', () => {
  const swap = `import { useState } from 'react';
export function PlotSwap({ onSwap }: { onSwap(mine: string, theirs: string, rows: number): void }) {
  const [swap, setSwap] = useState({ mine: '', theirs: '', rows: 1, total: 2 });
  const turn = () => setSwap((s) => ({ ...s, mine: s.theirs, theirs: s.mine }));
  function grow(by: number) {
    setSwap((s) => ({ ...s, rows: s.rows + by, total: (s.rows + by) * 2 }));
  }
  return (
    <form onSubmit={(e) => { e.preventDefault(); onSwap(swap.mine, swap.theirs, swap.rows); }}>
      <input value={swap.mine} onChange={(e) => setSwap({ ...swap, mine: e.target.value })} />
      <button type="button" onClick={turn}>Turn</button>
      <input value={swap.theirs} onChange={(e) => setSwap({ ...swap, theirs: e.target.value })} />
      <button type="button" onClick={() => grow(1)}>{swap.total}</button>
      <button>Swap</button>
    </form>
  );
}
`;

  it('is one action of a reducer', async () => {
    const text = await after('PlotSwap.tsx', swap, 'reducer');
    expect(text).toContain('return { ...state, mine: state.theirs, theirs: state.mine };');
    expect(text).toContain('return { ...state, rows: state.rows + action.by, total: (state.rows + action.by) * 2 };');
    expect(text).toContain("{ type: 'rowsAndTotalUpdated'; by: number }");
  });
});
