import { afterAll, describe, expect, it } from 'vitest';
import { after, left } from './tools/in-memory.js';
import { project } from './tools/project.js';

const home = project();
home.copy('test/forms/react', 'src');
afterAll(() => home.remove());

describe('the hook that keeps a form', () => {
  it('is written once and used again by the next form', async () => {
    const first = await home.run(
      'apply',
      '--proof',
      'none',
      'src/WaspTrap.tsx',
      '--to',
      'own-hook',
      '--format',
      'json',
    );
    expect(first.code).toBe(0);
    const { files } = JSON.parse(first.stdout) as { files: { file: string; change: string }[] };
    expect(files).toContainEqual(expect.objectContaining({ file: 'src/useFormValues.ts', change: 'create' }));
    const text = home.read('src/useFormValues.ts');
    const second = await home.run(
      'apply',
      '--proof',
      'none',
      'src/MossAlarm.tsx',
      '--to',
      'own-hook',
      '--format',
      'json',
    );
    expect(second.code).toBe(0);
    const next = (JSON.parse(second.stdout) as { files: { change: string }[] }).files;
    expect(next.map(({ change }) => change)).toEqual(['edit']);
    expect(home.read('src/useFormValues.ts')).toBe(text);
    expect(home.read('src/MossAlarm.tsx')).toMatch(/from ['"]\.\/useFormValues['"]/);
  });

  it('has the name and the place that the settings say', async () => {
    home.write('lively-graft.config.json', '{ "hook": { "name": "useOrchardForm", "folder": "shared/forms" } }');
    const run = await home.run('apply', '--proof', 'none', 'src/SeedSwap.tsx', '--to', 'own-hook', '--format', 'json');
    expect(run.code).toBe(0);
    expect(home.read('shared/forms/useOrchardForm.ts')).toContain('export function useOrchardForm<');
    expect(home.read('src/SeedSwap.tsx')).toMatch(/from ['"]\.\.\/shared\/forms\/useOrchardForm['"]/);
    const survey = await home.run('survey', 'src/SeedSwap.tsx', '--format', 'json', '--no-cache');
    const { forms } = JSON.parse(survey.stdout) as { forms: { approach: string }[] };
    expect(forms.map(({ approach }) => approach)).toEqual(['own-hook']);
  });

  it('goes back byte for byte, its own file included', async () => {
    const before = home.read('src/WaterTurn.jsx');
    home.write('lively-graft.config.json', '{ "hook": { "folder": "made" } }');
    expect((await home.run('apply', '--proof', 'none', 'src/WaterTurn.jsx', '--to', 'own-hook')).code).toBe(0);
    expect(home.read('made/useFormValues.js')).toContain('useState');
    expect((await home.run('undo')).code).toBe(0);
    expect(home.read('src/WaterTurn.jsx')).toBe(before);
    expect(() => home.read('made/useFormValues.js')).toThrow();
  });
});

describe('a hook of the project that is left', () => {
  const hook = `import { useState } from 'react';
export type Trouble<Values> = Partial<Record<keyof Values, string>>;
export function useTally<Values extends object>(start: Values, check: (values: Values) => Trouble<Values>) {
  const [values, setValues] = useState(start);
  const [trouble, setTrouble] = useState<Trouble<Values>>({});
  const set = <Key extends keyof Values>(key: Key, value: Values[Key]) => setValues({ ...values, [key]: value });
  return { values, set, trouble, look: () => setTrouble(check(values)) };
}
`;
  const form = `import { useTally, type Trouble } from './hooks';
type Tally = { row: string; boxes: string };
const check = ({ row }: Tally): Trouble<Tally> => (row ? {} : { row: 'Which row?' });
export function TallySlip({ send }: { send(tally: Tally): void }) {
  const { values, set, trouble, look } = useTally<Tally>({ row: '', boxes: '' }, check);
  return (
    <form onSubmit={(e) => { e.preventDefault(); look(); send(values); }}>
      <input aria-label="Row" value={values.row} onChange={(e) => set('row', e.target.value)} />
      <input aria-label="Boxes" value={values.boxes} onChange={(e) => set('boxes', e.target.value)} />
      {trouble.row && <p>{trouble.row}</p>}
      <button>Send</button>
    </form>
  );
}
`;
  const others = {
    'hooks/index.ts': "export { useTally } from './useTally';\nexport type { Trouble } from './useTally';\n",
    'hooks/useTally.ts': hook,
  };

  it('shares types that the component imports as well, by a file that hands them on', async () => {
    const text = await after('TallySlip.tsx', form, 'object-state', others);
    expect(text).toContain("import { type Trouble } from './hooks';");
    expect(text).toContain('useState<Trouble<Tally>>({})');
  });

  it('is left by hand where the component means something else by the name of one', async () => {
    const other = form.replace(
      "import { useTally, type Trouble } from './hooks';",
      "import { useTally } from './hooks';\ntype Trouble<Values> = { [Name in keyof Values]?: string };",
    );
    expect(await left('TallySlip.tsx', other, 'object-state', others)).toContainEqual([
      2,
      'the component’s file has something else of this name',
    ]);
  });
});

describe('what the page keeps', () => {
  it('is left by hand where the form looks at values while they are typed', async () => {
    const before = home.read('src/SeedJar.tsx');
    const run = await home.run('apply', '--proof', 'none', 'src/SeedJar.tsx', '--to', 'dom-values');
    expect(run.code).toBe(1);
    expect(run.stdout).toContain('it is needed before the submit');
    expect(home.read('src/SeedJar.tsx')).toBe(before);
  });
});

describe('a class that cannot be a function', () => {
  it('is left by hand with the reason', async () => {
    home.write(
      'src/Guarded.jsx',
      `import { Component } from 'react';
export class Guarded extends Component {
  state = { place: '', broken: false };
  componentDidCatch() { this.setState({ broken: true }); }
  render() {
    return (
      <form onSubmit={(event) => { event.preventDefault(); this.props.onMark(this.state.place); }}>
        <input aria-label="Place" value={this.state.place} onChange={(event) => this.setState({ place: event.target.value })} />
        <button>Mark</button>
      </form>
    );
  }
}
`,
    );
    const run = await home.run('apply', '--proof', 'none', 'src/Guarded.jsx', '--to', 'reducer');
    expect(run.code).toBe(1);
    expect(run.stdout).toContain('only a class can catch the errors');
  });
});
