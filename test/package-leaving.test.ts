import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rewriteForm } from '../src/rewrite/rewrite.js';
import { diskWorkspace, overlaid } from '../src/source/workspace.js';
import { rewritten } from './tools/in-memory.js';
import { project, root, type Run } from './tools/project.js';

const folder = path.join(root, 'test/forms/leaving');
const names = readdirSync(folder).filter((name) => name !== 'parts');
const home = project({
  'tsconfig.json':
    '{ "compilerOptions": { "jsx": "react-jsx", "strict": true, "target": "es2022", "moduleResolution": "bundler" } }',
});
/** Forms that are played each time; all of them are where `LIVELY_GRAFT_EVERY_PLAY` is set. */
const played = names.filter((_, index) => process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined || index % 18 === 1);
let applied: Run[];
afterAll(() => home.remove());

interface Result {
  proof: { types: string; play: string } | null;
}

beforeAll(async () => {
  home.copy('test/forms/leaving', 'src');
  const rest = names.filter((name) => !played.includes(name));
  const run = (files: readonly string[], proof: string): Promise<Run> =>
    home.run(
      'apply',
      ...files.map((name) => `src/${name}`),
      '--to',
      'object-state',
      '--format',
      'json',
      '--proof',
      proof,
    );
  applied = [await run(played, 'all'), await run(rest, 'types')];
}, 300_000);

/** A form in memory on its way to one object of state: its text then, or the reasons why places stay. */
async function left(text: string, file = '/orchard/Slip.tsx'): Promise<string> {
  return leftOf(new Map([[file, text]]), file);
}

/** A form among other files in memory. */
async function leftOf(texts: ReadonlyMap<string, string>, file: string): Promise<string> {
  const workspace = overlaid(diskWorkspace, texts);
  const result = await rewriteForm({ file, to: 'object-state' }, workspace, { ownValueNames: [] });
  if (result.kind !== 'rewrite') return JSON.stringify(result);
  const byHand = result.rewrite.ledger.filter(({ entry }) => entry === 'by-hand');
  return byHand.length
    ? byHand.map(({ what, why }) => `${what}: ${why}`).join('\n')
    : (result.rewrite.files[0]?.after ?? '');
}

describe('forms of npm packages', () => {
  it('leave them with the types and the behaviour that they had', () => {
    const all = applied.flatMap((run) => {
      expect(run.code, run.stdout.slice(0, 2000) + run.stderr).toBe(0);
      const results = JSON.parse(run.stdout) as { rewrites: Result[] } | Result[];
      return Array.isArray(results) ? results : results.rewrites;
    });
    expect(all).toHaveLength(names.length);
    expect(all.filter(({ proof }) => proof?.play === 'same')).toHaveLength(played.length);
    expect(all.filter(({ proof }) => proof?.types === 'same')).toHaveLength(
      names.filter((name) => name.endsWith('.tsx')).length,
    );
  });

  it('leave nothing of them behind, and keep every comment', () => {
    for (const name of names) {
      const after = readFileSync(path.join(home.folder, 'src', name), 'utf8');
      expect(after, name).not.toMatch(/formik|hook-form|tanstack|\bregister\(|getFieldProps|<Field\b|\bany\b/i);
      const comments = readFileSync(path.join(folder, name), 'utf8').match(/\/\/ .*|\/\*.*?\*\//g) ?? [];
      for (const comment of comments) expect(after, name).toContain(comment);
    }
  });

  it('are read as one object of state, with their fields', async () => {
    const run = await home.run('survey', 'src', '--format', 'json', '--no-cache');
    const { forms } = JSON.parse(run.stdout) as { forms: { name: string; approach: string; fields: unknown[] }[] };
    expect(forms.map(({ approach }) => approach)).toEqual(names.map(() => 'object-state'));
    expect(forms.find(({ name }) => name === 'HarvestLog')?.fields).toHaveLength(4);
  });
});

const slip = (options: string, inside: string, more = ''): string => `import { useForm } from 'react-hook-form';
type Slip = { row: string; crates: number; windfall: boolean };
export function Slip({ send }: { send: (slip: Slip) => void }) {
  const { register, handleSubmit, formState: { errors }, reset, setValue, watch, getValues, trigger } = useForm<Slip>({ defaultValues: { row: '', crates: 1, windfall: false }, ${options} });
  ${more}
  return (
    <form onSubmit={handleSubmit((values) => send(values))}>
      <input {...register('row', { required: 'Which row?' })} />
      {errors.row && <p>{errors.row.message}</p>}
      ${inside}
      <button>Send</button>
    </form>
  );
}
`;

describe('a form of react-hook-form', () => {
  it.each<[string, string, RegExp[]]>([
    ['onSubmit', 'onChange', [/if \(submitted\) recheck\(next, name\)/]],
    ['onBlur', 'onChange', [/if \(submitted\) recheck\(next, name\)/, /if \(!submitted\) recheck\(values/]],
    ['onBlur', 'onBlur', [/^ {4}recheck\(values, event\.target\.name\)/m]],
    ['onChange', 'onChange', [/^ {4}recheck\(next, name\)/m]],
    ['onChange', 'onSubmit', [/if \(!submitted\) recheck\(next, name\)/]],
    ['onTouched', 'onChange', [/if \(submitted \|\| name in touched\) recheck\(next, name\)/]],
    ['all', 'onSubmit', [/^ {4}recheck\(next, name\)/m, /^ {4}recheck\(values, event\.target\.name\)/m]],
  ])('that checks %s, and %s once it was sent, checks then', async (before, after, said) => {
    const text = await left(slip(`mode: '${before}', reValidateMode: '${after}'`, ''));
    for (const pattern of said) expect(text).toMatch(pattern);
  });

  it('says its rules in the order of the package, and asks when a value is wrong', async () => {
    const text = await left(
      slip(
        '',
        `<input type="number" {...register('crates', { valueAsNumber: true, min: { value: 1, message: 'One' }, max: { value: 40, message: 'Forty' },
        validate: (crates, slip) => slip.row !== 'A' || crates < 9 || 'Row A has eight' })} />`,
      ),
    );
    const order = ['> 40', 'Forty', '< 1', 'One', "values.row === 'A' && !(values.crates < 9)", 'Row A has eight'];
    const places = order.map((one) => text.indexOf(one));
    expect(
      places.every((at) => at > 0),
      text,
    ).toBe(true);
    expect([...places].sort((a, b) => a - b)).toEqual(places);
  });

  it('sets what was set one after the other at once, and checks what it was told to', async () => {
    const button = `<button type="button" onClick={() => { setValue('crates', 0); setValue('row', 'B', { shouldValidate: true }); }}>B</button>`;
    const text = await left(slip('', button));
    expect(text).toMatch(
      /const next\w*: Slip = \{ \.\.\.values, crates: 0, row: 'B' \};\s+setValues\(next\w*\);\s+recheck\(next\w*, 'row'\)/,
    );
  });

  it.each([
    [
      'a rule without a message',
      slip('', `<input {...register('crates', { required: true })} />{errors.crates?.message}`),
      /no message of its own/,
    ],
    ['options told when it runs', slip('mode: send.length ? "all" : "onBlur"', ''), /told only when the form runs/],
    [
      'a resolver of its own',
      slip('resolver: (values) => ({ values, errors: {} })', ''),
      /checked as a whole is not told/,
    ],
    [
      'an answer that takes time',
      slip('', `<input {...register('crates', { validate: async () => 'no' })} />`),
      /takes time/,
    ],
    ['an error handed on', slip('', '<Told error={errors.row} />'), /errors of the package/],
    [
      'a check whose answer is handed on',
      slip('', '', "const ask = () => trigger('row').then((right) => right && reset());"),
      /trigger/,
    ],
    [
      'an option that looks at values behind the change',
      slip('', `<input {...register('crates', { onChange: () => { if (watch('row')) trigger('row'); } })} />`),
      /a change before it in the same turn/,
    ],
    [
      'a function that is told what is wrong',
      slip('', '').replace('=> send(values))', '=> send(values), (wrong) => console.log(wrong))'),
      /handleSubmit of the package/,
    ],
    [
      'a start of the component whose type has no name',
      slip('', '').replace('useForm<Slip>', 'useForm').replace("row: ''", 'row: String(send)'),
      /its type has no name/,
    ],
  ])('is left by hand with %s', async (_, text, why) => {
    expect(await left(text)).toMatch(why);
  });

  it('keeps what it began as from the first view, where it needs the component', async () => {
    const text = await left(
      slip('', '<b onClick={() => reset()} />').replace("{ row: '', crates", '{ row: String(send), crates'),
    );
    expect(text).toMatch(/const \[firstValues\] = useState<Slip>\(\(\) => \(\{ row: String\(send\)/);
    expect(text).toMatch(/const \[values, setValues\] = useState<Slip>\(firstValues\)/);
    expect(text).toMatch(/function reset\(\) \{\s+setValues\(firstValues\)/);
  });
});

const told = (schema: string, more = '', register = ''): string =>
  `import { zodResolver } from '@hookform/resolvers/zod';
import { z } from 'zod';
import { isFree, rows } from './rows';
${slip(`resolver: zodResolver(${schema})`, '').replace("{ required: 'Which row?' }", register || '{}')}
const rules = z.object({ row: z.string().min(1, 'Which row?'), crates: z.number(), windfall: z.boolean() })${more};
`;

describe('a schema', () => {
  it('is asked by the code of the form, which sends what it was given where nothing is made of it', async () => {
    const text = await left(told('rules'));
    expect(text).toMatch(/const parsed = rules\.safeParse\(values\)/);
    expect(text).toMatch(/await send\(values\);/);
    expect(text).not.toMatch(/zodResolver|hook-form/);
  });

  it('makes what is sent, where it trims or casts', async () => {
    expect(
      await left(told('rules', ".refine(({ row }) => row.trim() !== '', 'Which row?').transform((slip) => slip)")),
    ).toMatch(/the type that the schema makes of it is not told/);
    const trims = told('rules').replace('z.string()', 'z.string().trim()');
    expect(await left(trims)).toMatch(/rules\.parse\(/);
  });

  it('that stands in the call gets a name above the component', async () => {
    const text = await left(
      told("z.object({ row: z.string().regex(/^[A-F]$/, 'A to F'), crates: z.number(), windfall: z.boolean() })"),
    );
    expect(text).toMatch(/^const slipSchema = z\.object\(/m);
    expect(text).toMatch(/slipSchema\.safeParse/);
  });

  it.each([
    ['a rule that takes time', told('rules', ".refine(async ({ row }) => isFree(row), 'Taken')"), /takes time/],
    [
      'a rule that may take time',
      told('rules', ".refine(({ row }) => isFree(row), 'Taken')"),
      /isFree in the schema takes time is not told/,
    ],
    ['one of several schemas', told('rules', '.or(z.object({}))'), /or of the schema is not asked/],
    [
      'a part that leads nowhere',
      told('rules', '.extend({ row: rows() })'),
      /rows in the schema could not be followed/,
    ],
    [
      'a part made by a function that takes time',
      `${told('rules', '.extend({ row: text() })')}\nconst text = () => z.string().refine(async (row) => row, 'No');`,
      /takes time/,
    ],
    [
      'an answer of something that is not told',
      told('rules', '.refine(({ row }) => rows.has(row))'),
      /rows\.has in the/,
    ],
    ['rules of each value of a list', told('z.object({ crates: z.array(z.string().min(1)) })'), /each value of a list/],
    ['rules that it hides', told('rules', '', "{ required: 'Which row?' }"), /the schema checks in place of this rule/],
    ['a name that leads nowhere', told('rows'), /could not be followed/],
    ['a schema of the view', told('rules.extend({ row: z.string().max(send.length) })'), /made anew with each view/],
  ])('is left by hand with %s', async (_, text, why) => {
    expect(await left(text)).toMatch(why);
  });
});

describe('what a send answers with', () => {
  const sending = (send: string): string =>
    slip('', '{isSubmitting && <i>…</i>}')
      .replace('formState: { errors }', 'formState: { errors, isSubmitting }')
      .replace('(values) => send(values)', send);

  it('is waited for where it may be a promise', async () => {
    const text = await left(sending('(values) => send(values)'));
    expect(text).toMatch(/await send\(values\);\s+\} finally \{\s+setIsSubmitting\(false\);/);
  });

  it('is not waited for where there is none, and the form is at rest again', async () => {
    const text = await left(sending('(values) => { send(values); }'));
    expect(text).toMatch(
      / {2}function handleSubmit[^]*try \{\s+send\(values\);\s+\} finally \{\s+setIsSubmitting\(false\);/,
    );
  });
});

describe('values that a turn looks at', () => {
  const button = (does: string): string => `<button type="button" onClick={${does}}>B</button>`;

  it('are set over the latest ones where nothing checks them', async () => {
    const text = await left(
      slip('', button("() => { if (watch('crates')) setValue('crates', 0); setValue('row', 'B'); }")),
    );
    expect(text).toContain('setValues((old) => ({ ...old, crates: 0 }))');
    expect(text).toContain("setValues((old) => ({ ...old, row: 'B' }))");
  });

  it.each([
    [
      'behind a change',
      button("() => { setValue('row', 'B'); send(getValues()); }"),
      /getValues\(\): a change before it/,
    ],
    ['behind a wait', button('async () => { await null; send(getValues()); }'), /may run when the values are others/],
    ['later', button('() => setTimeout(() => send(getValues()))'), /may run when the values are others/],
  ])('are left by hand %s', async (_, inside, why) => {
    expect(await left(slip('', inside))).toMatch(why);
  });
});

describe('an answer of a rule', () => {
  it.each([
    ['true or false', '(crates) => crates > 0'],
    ['what another function says', "(crates) => send(crates) && 'no'"],
  ])('that is %s has no message, and is left by hand', async (_, rule) => {
    expect(await left(slip('', `<input {...register('crates', { validate: ${rule} })} />`))).toMatch(
      /how it checks is not told/,
    );
  });

  it('is asked for where a condition may be a message', async () => {
    const rule = "(crates) => told(crates) || 'None'";
    const text = await left(
      slip(
        '',
        `<input {...register('crates', { validate: ${rule} })} />`,
        'const told = (crates: number) => crates > 0;',
      ),
    );
    expect(text).toMatch(/const cratesAnswer = \(\(crates\) => told\(crates\) \|\| 'None'\)\(values\.crates\);/);
  });
});

const entry = (options: string, inside: string): string => `import { useFormik } from 'formik';
interface Entry { row: string; crates: string }
const check = (entry: Entry) => (entry.row ? {} : { row: 'Which row?' });
export function Slip({ send }: { send: (entry: Entry) => Promise<void> }) {
  const formik = useFormik<Entry>({ initialValues: { row: '', crates: '' }, validate: check, onSubmit: async (values) => { await send(values); }, ${options} });
  return (
    <form onSubmit={formik.handleSubmit}>
      <input name="row" value={formik.values.row} onChange={formik.handleChange} onBlur={formik.handleBlur} />
      ${inside}
      <button>Send</button>
    </form>
  );
}
`;

describe('a form of formik', () => {
  it('works its messages out while rendering where all of them wait until their field was left', async () => {
    const text = await left(entry('', '{formik.touched.row && formik.errors.row && <p>{formik.errors.row}</p>}'));
    expect(text).toContain('const errors = check(values);');
  });

  it('keeps its messages where one shows before, and checks at the moments of the package', async () => {
    const ungated = '{formik.errors.row && <p>{formik.errors.row}</p>}';
    const text = await left(entry('', ungated));
    expect(text).toMatch(/function change\(next: Entry\) \{\s+setValues\(next\);\s+setErrors\(check\(next\)\);/);
    const late = await left(entry('validateOnChange: false, validateOnBlur: false', ungated));
    expect(late).not.toMatch(/setErrors\(check\((?:next|values)\)\)/);
    expect(late).toMatch(/const wrong = check\(values\);\s+setErrors\(wrong\);/);
  });

  it('sets what a handler sets one after the other at once', async () => {
    const handler = "(event) => { formik.handleChange(event); formik.setFieldValue('crates', ''); }";
    const text = await left(entry('', '').replace('onChange={formik.handleChange}', `onChange={${handler}}`));
    expect(text).toMatch(/setValues\(\{ \.\.\.values, row: event\.target\.value, crates: '' \}\);\s+\}\}/);
  });

  it.each([
    [
      'changes apart in one turn',
      entry(
        '',
        `<i onClick={() => { formik.setFieldValue('row', 'B'); send(formik.values); formik.setFieldValue('crates', ''); }} />`,
      ),
      /a change before it in the same turn/,
    ],
    [
      'a flag that an unknown answer lowers',
      entry('', '{formik.isSubmitting && <b />}').replace(
        /onSubmit: async .*? \}, /,
        'onSubmit: (values) => store(values), ',
      ),
      /whether its answer ends the sending/,
    ],
    [
      'a schema that leads nowhere',
      entry('validationSchema: {}', ''),
      /a function checks beside|could not be followed/,
    ],
    ['values that follow a property', entry('enableReinitialize: true', ''), /the option enableReinitialize/],
    [
      'a check with the first view that changes do not repeat',
      entry('validateOnMount: true, validateOnChange: false', '{formik.isValid && <b />}'),
      /what it checks with the first view/,
    ],
    [
      'values that several statements make',
      entry('', '<i onClick={() => formik.setValues((old) => { return { ...old, row: "" }; })} />'),
      /setValues of the package/,
    ],
    ['the form handed on', entry('', '<Rest form={formik} />'), /handed on as a whole/],
    [
      'messages at a reset',
      entry('', '<i onClick={() => formik.resetForm({ errors: { row: "No" } })} />'),
      /resetForm/,
    ],
  ])('is left by hand with %s', async (_, text, why) => {
    expect(await left(text)).toMatch(why);
  });
});

it('a field of formik that counts as left is checked as if it was', async () => {
  const text = await left(entry('', `<i onClick={() => formik.setFieldTouched('crates')}>{formik.errors.crates}</i>`));
  expect(text).toMatch(/onClick=\{\(\) => leave\('crates'\)\}/);
  expect(text).toMatch(/function leave\(name: string\) \{\s+setTouched\(.*\);\s+setErrors\(check\(values\)\);/);
});

it('a reset of formik to other values begins with them from then on', async () => {
  const to = '<i onClick={() => formik.resetForm({ values: { row: "B", crates: "" } })} />';
  const alone = await left(entry('', to));
  expect(alone).toMatch(/function resetForm\(next: Entry\) \{\s+setValues\(next\);/);
  const back = await left(entry('', `${to}<b onClick={() => formik.resetForm()} />`));
  expect(back).toMatch(/const \[firstValues, setFirstValues\] = useState<Entry>\(initialSlip\)/);
  expect(back).toMatch(/function resetForm\(next = firstValues\) \{\s+setFirstValues\(next\);\s+setValues\(next\);/);
});

it('all values of formik are made of those of the view', async () => {
  const text = await left(entry('', '<i onClick={() => formik.setValues((old) => ({ ...old, row: old.crates }))} />'));
  expect(text).toMatch(/onClick=\{\(\) => setValues\(\{ \.\.\.values, row: values\.crates \}\)\}/);
});

const field = `<Formik initialValues={start} onSubmit={async (values) => { await send(values); }}>
        {() => <Form><Field name="row" /><button>Send</button></Form>}
      </Formik>`;
const drawn = (before: string, gives: string): string => `import { Formik, Form, Field } from 'formik';
const start = { row: '' };
export function Slip({ send, open, rows }: { send: (entry: { row: string }) => Promise<void>; open: boolean; rows: string[] }) {
  ${before}
  return (
    <section>
      ${gives}
    </section>
  );
}
`;

describe('a form that begins anew with its element', () => {
  it('leaves the package where it is always there', async () => {
    expect(await left(drawn('', field))).toMatch(/const \[values, setValues\] = useState\(start\);/);
  });

  it.each([
    ['under a condition', drawn('', `{open && (${field})}`), /it comes and goes/],
    ['in a list', drawn('', `{rows.map((row) => (${field}))}`), /it comes and goes/],
    ['behind another thing that is given', drawn('if (!open) return <p />;', field), /does not end with one thing/],
  ])('is left by hand %s', async (_, text, why) => {
    expect(await left(text)).toMatch(why);
  });
});

describe('a form of tanstack-form', () => {
  it('is left by hand where a handler changes two fields', async () => {
    const text = `import { useForm } from '@tanstack/react-form';
const start = { row: '', crates: '' };
export function Slip({ send }: { send: (entry: typeof start) => Promise<void> }) {
  const form = useForm({ defaultValues: start, onSubmit: async ({ value }) => { await send(value); } });
  return (
    <form onSubmit={(event) => { event.preventDefault(); form.handleSubmit(); }}>
      <form.Field name="row">
        {(field) => <input value={field.state.value} onChange={(event) => { field.handleChange(event.target.value); form.setFieldValue('crates', ''); }} />}
      </form.Field>
      <button>Send</button>
    </form>
  );
}
`;
    expect(await left(text)).toMatch(/form\.setFieldValue\('crates', ''\): a change before it/);
  });
});

describe('rows of formik', () => {
  /** A form with a list of rows. */
  const crates = (
    rows: string,
    more = '',
    options = 'validationSchema={rules}',
  ): string => `import { ${[...new Set(rows.match(/ErrorMessage/g) ?? []), 'Field, FieldArray, Form, Formik'].join(', ')} } from 'formik';
import * as yup from 'yup';
const rules = yup.object({ crates: yup.array().of(yup.object({ size: yup.string().required('Which size?') })) });
type Slip = { row: string; crates: { size: string; full: boolean }[] };
export function Slip({ send }: { send: (slip: Slip) => void }) {
  return (
    <Formik<Slip> initialValues={{ row: '', crates: [{ size: 's', full: false }] }} ${options} onSubmit={(values) => send(values)}>
      {({ values${rows.includes('errors') ? ', errors' : ''} }) => (
        <Form>
          <Field name="row" />
          <FieldArray name="crates">
            {({ push${(/\b(?:remove|swap)(?=\()/.exec(rows) ?? []).map((one) => `, ${one}`).join('')} }) => <div>{${rows}}<button type="button" onClick={() => push({ size: '', full: true })}>More</button></div>}
          </FieldArray>
          ${more}
          <button>Send</button>
        </Form>
      )}
    </Formik>
  );
}
`;
  const each = (inside: string): string => `values.crates.map((crate, n) => <p key={n}>${inside}</p>)`;
  const size = '<Field name={`crates.${n}.size`} />';

  it('change by one function a list, and what was left moves along with them', async () => {
    const drop = '<button type="button" onClick={() => remove(n)}>Drop</button>';
    const text = await left(crates(each(`${size}<Field type="checkbox" name={\`crates.\${n}.full\`} />${drop}`)));
    expect(text.replace(/\s+/g, ' ')).toContain(
      "value={values.crates[n].size} onChange={(event) => changeCrates(n, 'size', event.target.value)}",
    );
    expect(text).toContain("onChange={(event) => changeCrates(n, 'full', event.target.checked)}");
    expect(text).toContain("crates: [...values.crates, { size: '', full: true }]");
    expect(text).toContain('onClick={() => removeCrates(n)}');
    expect(text).toMatch(/if \(name === 'crates'\) return \[\];/);
    expect(text).toContain('`crates.${Number(at) - 1}.${key}`');
  });

  it('show errors under the names of their fields', async () => {
    const text = await left(crates(each(`${size}<ErrorMessage name={\`crates.\${n}.size\`} component="em" />`)));
    expect(text.replace(/\s+/g, ' ')).toContain(
      '{touched[`crates.${n}.size`] && errors[`crates.${n}.size`] && <em>{errors[`crates.${n}.size`]}</em>}',
    );
  });

  it.each([
    [
      'where they change places',
      crates(each(`${size}<i onClick={() => swap(0, n)} />`)),
      /swap: what it does to the list/,
    ],
    [
      'where errors are looked for inside of the list',
      crates(each(`${size}{JSON.stringify(errors.crates?.[n])}`)),
      /errors\.crates: it looks for what is kept of rows inside of a list/,
    ],
    [
      'where a function tells their errors',
      crates(each(size), '', 'validate={(values) => (values.row ? {} : { row: "Which row?" })}'),
      /it tells errors of rows inside of lists/,
    ],
    [
      'where a name is put together in another way',
      crates(each('<Field name={`crates[${n}].size`} />')),
      /its field is told only when the form runs/,
    ],
  ])('are left by hand %s', async (_, text, why) => {
    expect(await left(text)).toMatch(why);
  });
});

describe('rows of react-hook-form', () => {
  const rows = (inside: string, given: { list?: string; hook?: string; more?: string } = {}): string =>
    slip('', `{fields.map((line, n) => <p key={line.id}>${inside}</p>)}${given.more ?? ''}`, '')
      .replace('import { useForm }', 'import { useFieldArray, useForm }')
      .replace('windfall: boolean }', 'windfall: boolean; lines: { what: string; count: number }[] }')
      .replace('windfall: false }', `windfall: false, lines: ${given.list ?? "[{ what: '', count: 1 }]"} }`)
      .replace('getValues, trigger }', 'getValues, control }')
      .replace(
        '  return (',
        `  const { fields, append, remove, move, swap } = useFieldArray({ control, name: 'lines'${given.hook ?? ''} });\n  return (`,
      );
  const what = "<input {...register(`lines.${n}.what`, { required: 'What?' })} />";

  it('are checked row by row, and their errors have the names of their fields', async () => {
    const text = await left(
      rows(
        `${what}<input type="number" {...register(\`lines.\${n}.count\`, { valueAsNumber: true, min: { value: 1, message: 'One.' } })} />{errors.lines?.[n]?.what && <i>{errors.lines[n]!.what!.message}</i>}`,
      ),
    );
    const flat = text.replace(/\s+/g, ' ');
    expect(flat).toContain(
      "values.lines.forEach((row, n) => { if (!row.what) { errors[`lines.${n}.what`] = 'What?'; } if (!Number.isNaN(row.count) && row.count < 1) { errors[`lines.${n}.count`] = 'One.'; } });",
    );
    expect(flat).toContain('{errors[`lines.${n}.what`] && <i>{errors[`lines.${n}.what`]}</i>}');
    expect(flat).toContain('lineKeys.map((key, n) => <p key={key}>');
    expect(flat).toContain(
      "['row', ...values.lines.flatMap((_, at) => ['what', 'count'].map((key) => `lines.${at}.${key}`))]",
    );
  });

  it('take what is kept of them along, and a new one gets the focus where the package gives it', async () => {
    const more = "<b onClick={() => append({ what: '', count: 1 })} /><b onClick={() => move(0, 1)} />";
    const flat = (await left(rows(what, { more }))).replace(/\s+/g, ' ');
    expect(flat).toContain('setErrors(movedLines(errors, from));');
    expect(flat).toContain("import { flushSync } from 'react-dom';");
    expect(flat).toContain('focusField(`lines.${values.lines.length}.what`);');
    expect(flat).toContain('order.splice(to, 0, ...order.splice(from, 1));');
    const still = await left(
      rows(what, { more: "<b onClick={() => append({ what: '', count: 1 }, { shouldFocus: false })} />" }),
    );
    expect(still).not.toMatch(/flushSync|movedLines|focusField/);
    expect(still).toContain("onClick={() => append({ what: '', count: 1 })}");
  });

  it('have rules as a list, which are asked when it changes', async () => {
    const more = '<b onClick={() => remove(0)} /><em>{errors.lines?.root?.message}</em>';
    const hook = ", rules: { required: 'One at least.', maxLength: { value: 3, message: 'Three at most.' } }";
    const flat = (await left(rows(what, { more, hook }))).replace(/\s+/g, ' ');
    expect(flat).toContain("if (values.lines.length === 0) { errors.lines = 'One at least.'; }");
    expect(flat).toContain("else if (values.lines.length > 3) { errors.lines = 'Three at most.'; }");
    expect(flat).toContain("if (submitted) recheck(next, 'lines');");
    expect(flat).toContain('<em>{errors.lines}</em>');
  });

  it('stay where the project’s version asks a list’s rules at moments that are not known', async () => {
    const text = rows(what, { more: '<b onClick={() => remove(0)} />', hook: ", rules: { required: 'One.' }" });
    const others = { 'package.json': '{ "dependencies": { "react-hook-form": "^7.45.0" } }' };
    const { ledger } = await rewritten('Slip.tsx', text, 'object-state', others);
    expect(ledger.map(({ why }) => why).join('\n')).toMatch(
      /when 7\.45\.0 of the package asks its rules anew is not known/,
    );
    const plain = await rewritten(
      'Slip.tsx',
      rows(what, { more: '<b onClick={() => remove(0)} />' }),
      'object-state',
      others,
    );
    expect(plain.files).not.toEqual([]);
  });

  it.each([
    ['where a row is asked as it was', rows('<i>{line.what}</i>'), /line\.what: it is the row as it was/],
    ['where one of them is hidden', rows(`{n > 0 && ${what}}`), /when it is shown is no plain condition/],
    ['where the whole error of a row is asked', rows(`{JSON.stringify(errors.lines?.[n])}`), /errors of the package/],
    [
      'where nothing tells what they hold',
      rows(what, { list: '[]' }),
      /what its rows hold is told neither by its start nor by a new row/,
    ],
    [
      'where several come at once',
      rows(what, { more: "<b onClick={() => append([{ what: '', count: 1 }])} />" }),
      /it speaks of several rows at once/,
    ],
    [
      'where two changes come in one turn',
      rows(what, { more: '<b onClick={() => { remove(0); swap(0, 1); }} />' }),
      /a change before it in the same turn/,
    ],
    [
      'where all of them are set',
      rows(what, { more: "<b onClick={() => setValue('lines', [])} />" }),
      /new keys for all rows/,
    ],
  ])('are left by hand %s', async (_, text, why) => {
    expect(await left(text)).toMatch(why);
  });
});

describe('a form of react-hook-form in the context', () => {
  const owner = (inside: string): string => `import { FormProvider, useForm } from 'react-hook-form';
import { Place } from './Place';
import type { Slip } from './slip';
export function Form({ send }: { send: (slip: Slip) => void }) {
  const methods = useForm<Slip>({ defaultValues: { row: '', post: '' } });
  return <FormProvider {...methods}><form onSubmit={methods.handleSubmit(send)}><input {...methods.register('row')} />${inside}<button>Send</button></form></FormProvider>;
}
`;
  const place = (inside: string, props = '', lead = ''): string => `import { useFormContext } from 'react-hook-form';
import type { Slip } from './slip';
${lead}
export function Place(${props}) {
  const { register, formState: { errors }, watch } = useFormContext<Slip>();
  return <p>${inside}</p>;
}
`;
  const files = (part: string): Record<string, string> => ({
    'Place.tsx': part,
    'Rows.tsx': `import { useFieldArray, useFormContext } from 'react-hook-form';
import type { Slip } from './slip';
export function Rows() {
  const { control, register } = useFormContext<Slip>();
  const { fields } = useFieldArray({ control, name: 'lines' });
  return <>{fields.map((line, n) => <input key={line.id} {...register(\`lines.\${n}.what\`)} />)}</>;
}
`,
    'slip.ts': 'export interface Slip { row: string; post: string; lines: { what: string }[] }\n',
    'package.json': '{}',
  });
  const post = "<input {...register('post', { required: 'Which post?' })} />{errors.post?.message}";

  it('gives each component what it asks for, and keeps its rules', async () => {
    const { files: all } = await rewritten(
      'Form.tsx',
      owner('<Place title="Post" />'),
      'object-state',
      files(place(post, '{ title }: { title: string }')),
    );
    const [form = '', part = ''] = ['Form', 'Place'].map(
      (name) => all.find(({ file }) => file === `/orchard/${name}.tsx`)?.after?.replace(/\s+/g, ' ') ?? '',
    );
    expect(form).toMatch(/<Place title="Post" values=\{values\} errors=\{errors\} handleChange=\{handleChange\} \/>/);
    expect(form).toContain("if (!values.post) { errors.post = 'Which post?'; }");
    expect(part).toContain("import type { ChangeEvent } from 'react';");
    expect(part).toContain('Place({ title, values, errors, handleChange }: { title: string } & PlaceForm)');
    expect(part).toContain('values: Slip; errors: Partial<Record<keyof Slip, string>>;');
    expect(part).toContain('<input name="post" value={values.post} onChange={handleChange} />{errors.post}');
    expect(form + part).not.toContain('react-hook-form');
  });

  it('says what a file holds once, where one of its components is given the form and another one a field', async () => {
    const line = `export function Line({ name }: { name: keyof Slip }) {
  const { register } = useFormContext<Slip>();
  return <input {...register(name)} />;
}
`;
    const { files: all } = await rewritten(
      'Form.tsx',
      owner('<Place /><Line name="row" />').replace('{ Place }', '{ Line, Place }'),
      'object-state',
      files(place(post) + line),
    );
    const part = all.find(({ file }) => file === '/orchard/Place.tsx')?.after?.replace(/\s+/g, ' ') ?? '';
    expect(part.match(/import [^;]+;/g)).toEqual([
      "import type { ChangeEvent } from 'react';",
      "import type { Slip } from './slip';",
    ]);
    expect(part).toContain('<input name={name} value={value} onChange={onChange} />');
    expect(part).toContain('<input name="post" value={values.post} onChange={handleChange} />');
  });

  it.each([
    ['stands in two places', owner('<Place /><Place />'), place(post), /several places/],
    [
      'is drawn by another one of its file',
      owner('<Place />'),
      `${place(post)}export function Both() { return <Place />; }\n`,
      /several places/,
    ],
    [
      'is drawn by another one of the form’s file',
      `${owner('<Place />')}export function Both() { return <Place />; }\n`,
      place(post),
      /several places/,
    ],
    [
      'sets all rows of a list',
      owner('<Place /><Rows />')
        .replace('import { Place }', "import { Rows } from './Rows';\nimport { Place }")
        .replace("post: '' }", "post: '', lines: [{ what: '' }] }"),
      place(`${post}<b onClick={() => setValue('lines', [])} />`).replace(', watch }', ', setValue }'),
      /new keys for all rows/,
    ],
    [
      'states a rule of its own file',
      owner('<Place />'),
      place(post.replace("'Which post?'", 'told'), '', "const told = 'Which post?';"),
      /only this component knows/,
    ],
    [
      'shows a control under a condition of its own',
      owner('<Place />'),
      place(`{open && ${post.replace('{errors', '}{errors')}`, '{ open }: { open: boolean }'),
      /only this component knows/,
    ],
    [
      'sets a field that one of its properties names',
      owner('<Place name="post" />'),
      place('<b onClick={() => setValue(name, "1")}>{watch(name)}</b>', '{ name }: { name: "post" }').replace(
        ', watch }',
        ', watch, setValue }',
      ),
      /setValue of the package is not said here/,
    ],
    [
      'has a name of its own',
      owner('<Place />'),
      place(`${post}{values.length}`, '', '').replace('  return', '  const values = [1];\n  return'),
      /values means something else here/,
    ],
    [
      'is not told what it is given',
      owner('<Place />'),
      place(post, 'props: never').replace('props: never', '...all'),
      /no plain name|told elsewhere/,
    ],
  ])('stays where a component %s', async (_, form, part, why) => {
    const { ledger, files: all } = await rewritten('Form.tsx', form, 'object-state', files(part));
    expect(all).toEqual([]);
    expect(ledger.map((entry) => entry.why).join('\n')).toMatch(why);
  });
});

describe('values inside of others', () => {
  it('have errors under their whole names, and are set along with what stands beside them', async () => {
    const text = await left(
      slip(
        '',
        "<input {...register('place.post', { required: 'Which post?' })} />{errors.place?.post?.message}<b onClick={() => setValue('place.post', '')} />",
      )
        .replace('windfall: boolean }', 'windfall: boolean; place: { post: string; side: string } }')
        .replace('windfall: false }', "windfall: false, place: { post: '', side: 'north' } }"),
    );
    expect(text.replace(/\s+/g, ' ')).toContain("if (!values.place.post) { errors['place.post'] = 'Which post?'; }");
    expect(text).toContain('place: { ...values.place, post: event.target.value }');
    expect(text).toContain("setValues((old) => ({ ...old, place: { ...old.place, post: '' } }))");
    expect(text).toContain("{errors['place.post']}");
  });

  it.each([
    ['react-hook-form', '{errors.place && <i>Where?</i>}'],
    ['react-hook-form', '{errors[send.name] && <i>Where?</i>}'],
  ])('are left by hand where the whole of them is asked: %s %s', async (_, asked) => {
    const text = slip('', `<input {...register('place.post')} />${asked}`)
      .replace('windfall: boolean }', 'windfall: boolean; place: { post: string } }')
      .replace('windfall: false }', "windfall: false, place: { post: '' } }");
    expect(await left(text)).toMatch(/errors of the package/);
  });

  it.each(['errors.place', 'touched.place', 'JSON.stringify(errors)'])(
    'are left by hand in formik where %s is asked',
    async (asked) => {
      const text = `import { Field, Form, Formik } from 'formik';
type Slip = { place: { post: string } };
export function Slip({ send }: { send: (slip: Slip) => void }) {
  return (
    <Formik<Slip> initialValues={{ place: { post: '' } }} onSubmit={(values) => send(values)}>
      {({ ${/errors|touched/.exec(asked)?.[0] ?? ''} }) => (
        <Form>
          <Field name="place.post" />
          {${asked} && <i>Where?</i>}
          <button>Send</button>
        </Form>
      )}
    </Formik>
  );
}
`;
      expect(await left(text)).toMatch(/what is kept of values inside of others/);
    },
  );

  it('are left by hand where two of one are set one after the other', async () => {
    const text = slip('', "<b onClick={() => { setValue('place.post', ''); setValue('place.side', ''); }} />")
      .replace('windfall: boolean }', 'windfall: boolean; place: { post: string; side: string } }')
      .replace('windfall: false }', "windfall: false, place: { post: '', side: 'north' } }");
    expect(await left(text)).toMatch(/setValue/);
  });
});

describe('components beside a form of formik', () => {
  const form = (inside: string): string => `import { Field, Form, Formik, useFormikContext } from 'formik';
function Told() { const { values } = useFormikContext<{ row: string }>(); return <p>{values.row}</p>; }
function Plain() { return <p>Rows look like B7.</p>; }
function Around() { return <Told />; }
export function Slip({ send }: { send: (slip: { row: string }) => void }) {
  return <Formik initialValues={{ row: '' }} onSubmit={(values) => send(values)}><Form><Field name="row" />${inside}<button>Send</button></Form></Formik>;
}
`;

  it.each(['<Told />', '<Around />'])(
    'keep it by hand where they speak to it through its context: %s',
    async (part) => {
      expect(await left(form(part))).toMatch(/(?:takes|take) the form out of the (?:package’s )?context/);
    },
  );

  it('stay where they do not', async () => {
    const text = await left(
      form('<Plain />')
        .replace(/function (?:Told|Around).*\n/g, '')
        .replace(', useFormikContext', ''),
    );
    expect(text).toContain('<Plain />');
    expect(text).not.toContain('formik');
  });
});

describe('components that are handed members of react-hook-form', () => {
  const form = (
    given: string,
    type: string,
  ): string => `import { useForm, type Control, type UseFormRegister, type UseFormReturn } from 'react-hook-form';
type Slip = { row: string; post: string };
${type}
export function Slip({ send }: { send: (slip: Slip) => void }) {
  const form = useForm<Slip>({ defaultValues: { row: '', post: '' } });
  return <form onSubmit={form.handleSubmit(send)}><input {...form.register('row')} />${given}<button>Send</button></form>;
}
`;

  it('are given the form by one name, beside what is theirs', async () => {
    const part = `interface PostProps {
  // what it says in front
  title: string;
  form: UseFormReturn<Slip>;
}

function Post({ title, form }: PostProps) {
  const { register } = form;
  return <label>{title} <input {...register('post')} />{form.watch('row')}</label>;
}`;
    const text = await left(form('<Post title="Post" form={form} />', part));
    expect(text.replace(/\s+/g, ' ')).toContain('<Post title="Post" values={values} handleChange={handleChange} />');
    expect(text).toContain('function Post({ title, values, handleChange }: PostProps & PostForm) {');
    expect(text).toContain('  // what it says in front\n  title: string;\n}');
    expect(text).not.toMatch(/UseFormReturn|\bform\b\.(?:register|watch)/);
  });

  it.each([
    [
      'where its type stands elsewhere',
      'function Post({ register }: Parameters<typeof other>[0]) { return <input {...register("post")} />; }\ndeclare function other(given: { register: UseFormRegister<Slip> }): void;',
      '<Post register={form.register} />',
    ],
    [
      'where it takes them as a whole',
      'function Post(props: { register: UseFormRegister<Slip> }) { return <input {...props.register("post")} />; }',
      '<Post register={form.register} />',
    ],
    [
      'where it hands them on',
      'function Inner({ control }: { control: Control<Slip> }) { return <p>{String(control)}</p>; }\nfunction Post({ control }: { control: Control<Slip> }) { return <Inner control={control} />; }',
      '<Post control={form.control} />',
    ],
  ])('keep it by hand %s', async (_, part, given) => {
    expect(await left(form(given, part))).toMatch(/told elsewhere|not said here without it yet/);
  });
});

describe('rows of formik whose control gives numbers', () => {
  it('are changed by a function that takes them', async () => {
    const text = await left(`import { Field, FieldArray, Form, Formik } from 'formik';
interface Slip { lines: { what: string; kilos: number | '' }[] }
const first: Slip = { lines: [{ what: '', kilos: '' }] };
export function Slip({ send }: { send: (slip: Slip) => void }) {
  return <Formik initialValues={first} onSubmit={(values) => send(values)}>{({ values }) => <Form><FieldArray name="lines">{() => <>{values.lines.map((line, index) => <p key={index}><Field name={\`lines.\${index}.what\`} /><Field type="number" name={\`lines.\${index}.kilos\`} /></p>)}</>}</FieldArray><button>Send</button></Form>}</Formik>;
}
`);
    expect(text).toContain('value: string | number)');
  });
});

describe('components that show one field', () => {
  const lines = {
    formik: (line: string, drawn: string): string => `import { Form, Formik, useField } from 'formik';
${line}
export const Slip = ({ send }) => (
  <Formik initialValues={{ row: '', crates: 1 }} onSubmit={(values) => send(values)}>
    <Form>${drawn}<button>Send</button></Form>
  </Formik>
);
`,
    hookForm: (
      line: string,
      drawn: string,
    ): string => `import { FormProvider, useForm, ${/useController|useFormContext/.exec(line)?.[0] ?? ''} } from 'react-hook-form';
${line}
export function Slip({ send }) {
  const form = useForm({ defaultValues: { row: '', crates: 1 } });
  return <FormProvider {...form}><form onSubmit={form.handleSubmit((slip) => send(slip))}>${drawn}<button>Send</button></form></FormProvider>;
}
`,
  };
  const useFieldLine =
    'function Line(props) { const [field] = useField(props); return <input {...field} {...props} />; }';
  const registerLine =
    'function Line({ name, rules, ...rest }) { const { register } = useFormContext(); return <input {...register(name, rules)} {...rest} />; }';

  const plain = '/orchard/Slip.jsx';

  it.each<[string, string, RegExp]>([
    [
      'another form draws them too',
      lines.formik(`${useFieldLine}\nexport const Other = () => <Line name="row" />;`, '<Line name="row" />'),
      /others may draw it as well/,
    ],
    [
      'the name is worked out',
      lines.formik(useFieldLine, '<Line name={send.name} />'),
      /which field it shows is told only when the form runs/,
    ],
    [
      'they are spread',
      lines.formik(useFieldLine, '<Line name="row" {...send} />'),
      /which field it shows is told only when the form runs/,
    ],
    [
      'they are given a value already',
      lines.formik(useFieldLine, '<Line name="row" value="B7" />'),
      /what it is given for its field is told here already/,
    ],
    [
      'a property of another name says what kind of control it is',
      lines.formik(
        'function Line({ kind, ...rest }) { const [field] = useField(rest); return <input type={kind} {...field} {...rest} />; }',
        '<Line name="row" kind="checkbox" />',
      ),
      /what <input> takes of its field is not told/,
    ],
    [
      'an element makes another kind of control of them',
      lines.formik(useFieldLine, '<Line name="row" type="checkbox" />'),
      /what it is given for its field is told here already/,
    ],
    [
      'the component asks for more than its field',
      lines.formik(
        'function Line(props) { const [field, meta, { setTouched }] = useField(props); return <input {...field} onBlur={() => setTouched(true)} />; }',
        '<Line name="row" />',
      ),
      /helpers.setTouched of the package/,
    ],
    [
      'a radio stands for one value of several',
      lines.hookForm(
        'function Line({ name }) { const { register } = useFormContext(); return <input type="radio" value="B7" {...register(name)} />; }',
        '<Line name="row" />',
      ),
      /what <input> takes of its field is not told/,
    ],
    [
      'the rule looks at a property',
      lines.hookForm(
        "function Line({ name, label }) { const { field } = useController({ name, rules: { required: label + '?' } }); return <input {...field} />; }",
        '<Line name="row" label="Row" />',
      ),
      /the rule asks something that only this component knows/,
    ],
    [
      'rules come from elsewhere',
      lines.hookForm(`const rules = { required: 'Row?' };\n${registerLine}`, '<Line name="row" rules={rules} />'),
      /its rules are told only when the form runs/,
    ],
  ])('are left by hand where %s', async (_, text, why) => {
    expect(await left(text, plain)).toMatch(why);
  });

  it('are given what they ask for, by a name that is free', async () => {
    const text = await left(
      lines.formik(
        'function Line(props) { const [field, meta] = useField(props.name); const error = meta.touched && meta.error; return <p>{error}<input {...field} /></p>; }',
        '<Line name="row" />',
      ),
      plain,
    );
    expect(text).toContain('{ value, onChange, onBlur, touched, fieldError, ...props }');
    expect(text).toContain('const error = touched && fieldError;');
    // nothing ever tells an error
    expect(text).toMatch(/name="row"\s+value=\{values\.row\}[^>]*touched=\{touched\.row\}\s*\/>/);
  });

  it('are taken along through files that only hand them on, unless something else takes them there', async () => {
    const part = `import { useField } from 'formik';
export function Line({ name }) { const [field] = useField(name); return <input {...field} />; }
`;
    const text = lines
      .formik('', '<Line name="row" />')
      .replace(', useField', '')
      .replace('\n', "\nimport { Line } from './parts';\n");
    const files = (other: string): ReadonlyMap<string, string> =>
      new Map([
        ['/orchard/package.json', '{}'],
        [plain, text],
        ['/orchard/parts.js', "export * from './Line';\n"],
        ['/orchard/Line.jsx', part],
        ['/orchard/Other.jsx', other],
      ]);
    expect(await leftOf(files('export const nothing = 0;\n'), plain)).toMatch(
      /<Line\s+name="row"\s+value=\{values\.row\}/,
    );
    const taken = 'import { Line } from \'./parts\';\nexport const Other = () => <Line name="row" />;\n';
    expect(await leftOf(files(taken), plain)).toMatch(/others may draw it as well/);
    // what does not parse may draw it
    expect(await leftOf(files("import { Line } from './parts'; <"), plain)).toMatch(/others may draw it as well/);
  });

  it('get the name of their field where an event has to tell it', async () => {
    const text = await left(
      lines.formik(
        'function Line({ name }) { const [field] = useField(name); return <input value={field.value} onChange={field.onChange} />; }',
        '<Line name="row" />',
      ),
      plain,
    );
    expect(text).toContain('<input name={name} value={value} onChange={onChange} />');
  });

  it('take their rules along, each for its own field', async () => {
    const text = await left(
      lines.hookForm(
        registerLine,
        `<Line name="row" rules={{ required: 'Which row?' }} /><Line name="crates" type="number" />{form.formState.errors.row?.message}`,
      ),
      plain,
    );
    expect(text).toContain("errors.row = 'Which row?';");
    expect(text).not.toContain('errors.crates');
    expect(text).not.toContain('rules');
  });
});

describe('a form of react-hook-form that begins as its controls do', () => {
  const begun = (
    inside: string,
    taken = 'register, handleSubmit',
    calls = '',
  ): string => `import { useForm } from 'react-hook-form';
export function Slip({ send }) {
  const { ${taken} } = useForm();
  ${calls}
  return <form onSubmit={handleSubmit((slip) => send(slip))}>${inside}<button>Send</button></form>;
}
`;
  const row = "<input {...register('row')} />";

  const plain = '/orchard/Slip.jsx';

  it('says what each of them begins as', async () => {
    const all = `${row}<input type="number" {...register('crates', { valueAsNumber: true })} /><input type="checkbox" {...register('windfall')} /><select {...register('side')}><option value="left">Left</option><option>Right</option></select>`;
    expect(await left(begun(all), plain)).toContain("{ row: '', crates: NaN, windfall: false, side: 'left' }");
  });

  it.each<[string, RegExp, ...string[]]>([
    ['a control comes and goes', /and not by its control alone/, `${row}{send && <input {...register('side')} />}`],
    [
      'a choice begins with what is worked out',
      /and not by its control alone/,
      "<select {...register('side')}>{send.sides}</select>",
    ],
    [
      'a radio may be chosen by nobody',
      /and not by its control alone/,
      `<input type="radio" value="left" {...register('side')} />`,
    ],
    ['the page begins with a value', /register of the package/, `<input value="B7" {...register('row')} />`],
    [
      'the first view shows a value',
      /watch of the package/,
      row,
      'register, handleSubmit, watch',
      "const shown = watch('row');",
    ],
    [
      'something asks what was changed',
      /what is changed is told by what it begins as/,
      `${row}{isDirty && <i>changed</i>}`,
      'register, handleSubmit, formState: { isDirty }',
    ],
  ])('is left by hand where %s', async (_, why, inside = '', taken, calls) => {
    expect(await left(begun(inside, taken, calls), plain)).toMatch(why);
  });
});
