import { Ajv2020 } from 'ajv/dist/2020.js';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { project } from './tools/project.js';
import { typeErrors } from './tools/type-check.js';

const booking = `import { useState, type FormEvent } from 'react';

interface Booking {
  plot: string;
  hours: number;
}
type Problems = Partial<Record<keyof Booking, string>>;

const empty: Booking = { plot: '', hours: 1 };

function check(booking: Booking): Problems {
  const problems: Problems = {};
  // as painted on the post
  if (!/^[A-F]\\d$/.test(booking.plot)) problems.plot = 'Plots are named like B7';
  if (booking.hours > 8) problems.hours = 'Eight hours at most';
  if (booking.plot === 'F9' && booking.hours + 1 > 4) problems.hours = 'Not on F9';
  return problems;
}

export function PlotBooking({ book }: { book(booking: Booking): Promise<number> }) {
  const [booking, setBooking] = useState(empty);
  const [errors, setErrors] = useState<Problems>({});
  const [sending, setSending] = useState(false);

  const handleSubmit = async (event: FormEvent) => {
    event.preventDefault();
    const found = check(booking);
    setErrors(found);
    if (Object.keys(found).length > 0) return;

    setSending(true);
    try {
      await book(booking);
      setBooking(empty);
    } catch {
      setErrors({ plot: 'The office is closed' });
    } finally {
      setSending(false);
    }
  };

  return (
    <form onSubmit={handleSubmit} noValidate>
      <input aria-label="Plot" value={booking.plot} onChange={(event) => setBooking({ ...booking, plot: event.target.value })} />
      {errors.plot && <em>{errors.plot}</em>}
      <input aria-label="Hours" type="number" value={booking.hours} onChange={(event) => setBooking({ ...booking, hours: Number(event.target.value) })} />
      {errors.hours && <em>{errors.hours}</em>}
      <button disabled={sending}>Book</button>
    </form>
  );
}
`;
const kept = booking.replaceAll('PlotBooking', 'ToolBooking');

const home = project();
afterAll(() => home.remove());
beforeEach(async () => {
  for (let left = 3; left > 0; left--) if ((await home.run('undo', '--overwrite')).code !== 0) break;
  home.write('PlotBooking.tsx', booking);
  home.write('ToolBooking.tsx', kept);
});

describe('a form on a declared schema', () => {
  it('has fields, rules and messages as data, and a hook that the next form uses again', async () => {
    const first = await home.run(
      'apply',
      '--proof',
      'none',
      'PlotBooking.tsx',
      '--to',
      'declared-schema',
      '--format',
      'json',
    );
    expect(first.code, first.stderr).toBe(0);
    const done = JSON.parse(first.stdout) as {
      files: { file: string; change: string }[];
      dependencies: { name: string }[];
    };
    expect(done.files.map(({ file, change }) => `${change} ${file}`)).toEqual([
      'edit PlotBooking.tsx',
      'create useSchemaForm.ts',
      'create PlotBooking.schema.json',
    ]);
    expect(done.dependencies.map(({ name }) => name)).toEqual(['ajv', 'ajv-errors', 'ajv-formats']);
    const second = await home.run(
      'apply',
      '--proof',
      'none',
      'ToolBooking.tsx',
      '--to',
      'declared-schema',
      '--format',
      'json',
    );
    expect((JSON.parse(second.stdout) as { files: { file: string }[] }).files.map(({ file }) => file)).not.toContain(
      'useSchemaForm.ts',
    );
    const schema = JSON.parse(home.read('PlotBooking.schema.json')) as { properties: object };
    expect(new Ajv2020({ strict: false }).validateSchema(schema)).toBe(true);
    expect(schema.properties).toMatchObject({
      plot: { type: 'string', default: '' },
      hours: { type: 'number', default: 1 },
    });
    const text = home.read('PlotBooking.tsx');
    // the rules of hours depend on the plot: they stay together as code
    expect(text).toContain("problems.hours = 'Not on F9'");
    expect(text).not.toContain('Plots are named like B7');
    expect(home.read('PlotBooking.schema.json')).toContain('as painted on the post');
    expect(text).toMatch(/errors,\s+setErrors,\s+submitting: sending,\s+setSubmitting: setSending,/);
    expect(typeErrors(home.folder, ['PlotBooking.tsx', 'ToolBooking.tsx'])).toEqual([]);
    const survey = await home.run('survey', 'PlotBooking.tsx', '--format', 'json', '--no-cache');
    expect((JSON.parse(survey.stdout) as { forms: { approach: string }[] }).forms[0]?.approach).toBe('declared-schema');
  });

  it('plays like the form it was, before anything is written', async () => {
    const run = await home.run('trial', 'PlotBooking.tsx', '--to', 'declared-schema');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    expect(run.stdout).toMatch(/^same +PlotBooking, object-state → declared-schema/);
  });

  it('is left for every other approach, and the schema goes with it', async () => {
    await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'declared-schema');
    const back = await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'reducer');
    expect(back.code, back.stdout + back.stderr).toBe(0);
    expect(back.stdout).toMatch(/declared-schema → object-state → reducer/);
    expect(() => home.read('PlotBooking.schema.json')).toThrow();
    expect(home.read('PlotBooking.tsx')).toContain('// as painted on the post');
    expect(typeErrors(home.folder, ['PlotBooking.tsx'])).toEqual([]);
    await home.run('undo');
    await home.run('undo');
    expect(home.read('PlotBooking.tsx')).toBe(booking);
  });

  it('keeps its rules as code where that is asked for, and refuses ways it does not have', async () => {
    const code = await home.run(
      'preview',
      'PlotBooking.tsx',
      '--to',
      'declared-schema',
      '--rules',
      'code',
      '--format',
      'json',
    );
    const { files } = JSON.parse(code.stdout) as { files: { file: string; after: string }[] };
    expect(files.find(({ file }) => file === 'PlotBooking.tsx')?.after).toContain('Plots are named like B7');
    const odd = await home.run('preview', 'PlotBooking.tsx', '--to', 'declared-schema', '--rules', 'native');
    expect(odd.code).toBe(2);
    expect(odd.stderr).toMatch(
      /declared-schema does not state rules as native\n +next: say --rules json-schema or code/,
    );
    expect((await home.run('preview', 'PlotBooking.tsx', '--to', 'reducer', '--rules', 'magic')).stderr).toMatch(
      /no way of stating rules magic/,
    );
  });

  it('has package.json ask for what it needs where that is asked for', async () => {
    const run = await home.run(
      'apply',
      '--proof',
      'none',
      'PlotBooking.tsx',
      '--to',
      'declared-schema',
      '--add-dependency',
    );
    expect(run.code, run.stderr).toBe(0);
    expect(Object.keys((JSON.parse(home.read('package.json')) as { dependencies: object }).dependencies)).toEqual([
      'ajv',
      'ajv-errors',
      'ajv-formats',
    ]);
    const again = await home.run('preview', 'ToolBooking.tsx', '--to', 'declared-schema', '--format', 'json');
    expect((JSON.parse(again.stdout) as { dependencies: object[] }).dependencies).toEqual([]);
    await home.run('undo');
    expect(home.read('package.json')).toBe('{ "name": "orchard", "private": true }\n');
  });

  it('is told by its place what is wrong with its schema, and nothing is written', async () => {
    await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'declared-schema');
    const good = home.read('PlotBooking.schema.json');
    const text = home.read('PlotBooking.tsx');
    for (const [bad, message] of [
      [good.replace('"pattern"', '"patern"'), /at \/properties\/plot\/.*patern: JSON Schema has no keyword patern/],
      [
        good.replace('"default": 1', '"default": 1, "$ref": "#/$defs/hours"'),
        /at \/properties\/hours\/\$ref: the reference #\/\$defs\/hours leads nowhere/,
      ],
      ['{', /schema \.\/PlotBooking\.schema\.json is not there or is no JSON/],
    ] as const) {
      home.write('PlotBooking.schema.json', bad);
      for (const parameters of [
        ['rules', 'PlotBooking.tsx'],
        ['apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'reducer'],
      ]) {
        const run = await home.run(...parameters);
        expect(run.code).toBe(2);
        expect(run.stderr).toMatch(message);
      }
      expect(home.read('PlotBooking.tsx')).toBe(text);
    }
    home.write('PlotBooking.schema.json', good);
    expect((await home.run('rules', 'PlotBooking.schema.json')).stdout).toMatch(
      /plot +pattern .*“Plots are named like B7” +\/properties\/plot/,
    );
  });

  it('does not write over a file of the schema’s name', async () => {
    home.write('PlotBooking.schema.json', '{ "mine": true }\n');
    const run = await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'declared-schema');
    expect(run.code).toBe(1);
    expect(run.stdout).toMatch(/a file of this name is there already/);
    expect(home.read('PlotBooking.schema.json')).toBe('{ "mine": true }\n');
  });
});

describe('the generated hook for values', () => {
  it('takes over rules, errors, the submitting flag and the handler of the submit, and gives them back', async () => {
    const run = await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'own-hook');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const text = home.read('PlotBooking.tsx');
    expect(text).toMatch(/submitting: sending,\s+submit,\s+} = useFormValues<Booking>\(empty, check\)/);
    expect(text).toContain('const handleSubmit = submit(async () => {\n    try {');
    expect(text).not.toMatch(/setSending|preventDefault|finally/);
    expect(typeErrors(home.folder, ['PlotBooking.tsx'])).toEqual([]);
    const back = await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'object-state');
    expect(back.code, back.stdout + back.stderr).toBe(0);
    expect(typeErrors(home.folder, ['PlotBooking.tsx'])).toEqual([]);
    expect(home.read('PlotBooking.tsx')).toContain('check(booking);');
  });

  it('leaves a submit alone that does more before it sends', async () => {
    for (const [from, to] of [
      ['event.preventDefault();', 'event.preventDefault();\n    if (sending) return;'],
      ['setErrors(found);', 'setErrors(found);\n    // the first one'],
      ['> 0) return;', '> 0) return alert("no");'],
    ] as const) {
      home.write('PlotBooking.tsx', booking.replace(from, to));
      const run = await home.run('apply', '--proof', 'none', 'PlotBooking.tsx', '--to', 'own-hook');
      expect(run.code, run.stdout + run.stderr).toBe(0);
      expect(home.read('PlotBooking.tsx')).toContain('event.preventDefault();');
      expect(typeErrors(home.folder, ['PlotBooking.tsx'])).toEqual([]);
      await home.run('undo');
    }
  });
});
