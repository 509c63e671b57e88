import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rewriteForm } from '../src/rewrite/rewrite.js';
import { formsOfFile } from '../src/rewrite/forms.js';
import { diskWorkspace } from '../src/source/workspace.js';
import { after, left } from './tools/in-memory.js';
import { inPairs, project } from './tools/project.js';
import { typeErrors } from './tools/type-check.js';

const targets = ['formik', 'react-hook-form', 'tanstack-form'] as const;

/** What cannot be said with a hook, and why: each a limit of the package itself. */
const limits: Record<string, RegExp> = {
  'CiderDay formik': /builds? on the values of the last view/,
  'MossAlarm formik': /builds? on the values of the last view/,
  'NestBox formik': /builds? on the values of the last view/,
  'NightWatch formik': /builds? on the values of the last view/,
  'TreeCensus formik': /builds? on the values of the last view/,
  'GraftRequest formik': /calls it without the event/,
  'RowSteps formik': /sends at a form’s submit or a click/,
  'CrateShelf tanstack-form': /no member that changes several values at once/,
};

interface Written {
  form: string;
  file: string;
  to: string;
  byHand: string[];
}

const home = project({
  'tsconfig.json': '{ "compilerOptions": { "jsx": "react-jsx", "target": "es2022", "moduleResolution": "bundler" } }',
});
const written: Written[] = [];
afterAll(() => home.remove());

beforeAll(async () => {
  home.copy('test/forms/react', 'before');
  const folder = path.join(home.folder, 'before');
  const files = readdirSync(folder).filter((name) => /\.[jt]sx$/.test(name));
  for (const to of targets) home.copy('test/forms/react', to);
  for (const [index, name] of files.entries()) {
    const file = path.join(folder, name);
    const found = await formsOfFile(file, readFileSync(file, 'utf8'), diskWorkspace, { ownValueNames: [] });
    const [first] = found.ok ? found.forms : [];
    if (!first) continue;
    const form = first.component;
    // each form to one of the hooks, and to those that cannot take it
    for (const to of targets.filter((id, at) => at === index % targets.length || limits[`${form} ${id}`])) {
      const result = await rewriteForm({ file, to, form }, diskWorkspace, { ownValueNames: [] });
      if (result.kind !== 'rewrite') throw new Error(`${name}: ${JSON.stringify(result)}`);
      const byHand = result.rewrite.ledger.flatMap(({ entry, why }) => (entry === 'by-hand' ? [why] : []));
      written.push({ form, file: `${to}/${name}`, to, byHand });
      for (const change of result.rewrite.files)
        home.write(path.join(to, path.relative(folder, change.file)), change.after ?? '');
    }
  }
});

describe('hooks of npm packages', () => {
  it('take the values of every form but for limits of their own', () => {
    expect(written.length).toBeGreaterThan(60);
    for (const { form, to, byHand } of written) {
      const limit = limits[`${form} ${to}`];
      if (limit) expect(byHand.join('\n'), `${form} ${to}`).toMatch(limit);
      else expect(byHand, `${form} ${to}`).toEqual([]);
    }
  });

  it('are written with types that the real packages take', () => {
    const files = written.filter(({ file, byHand }) => file.endsWith('.tsx') && !byHand.length);
    expect(
      typeErrors(
        home.folder,
        files.map(({ file }) => file),
      ),
    ).toEqual([]);
  });

  it('are read as what they are, with the fields that were there', async () => {
    for (const { form, file, to, byHand } of written) {
      if (byHand.length) continue;
      const name = path.join(home.folder, file);
      const found = await formsOfFile(name, readFileSync(name, 'utf8'), diskWorkspace, { ownValueNames: [] });
      const approaches = found.ok ? found.forms.filter(({ component }) => component === form) : [];
      expect(
        approaches.map(({ approach }) => approach),
        file,
      ).toEqual(approaches.map(() => to));
    }
  });

  it('behave as before', async () => {
    const played = written.filter(({ byHand }, index) => !byHand.length && index % 18 === 5);
    const answers = await inPairs(played, ({ file, form }) =>
      home.run('trial', file.replace(/^[^/]+/, 'before'), file, '--form', form),
    );
    for (const [index, { code, stdout, stderr }] of answers.entries())
      expect(code, `${played[index]?.file ?? ''}\n${stdout}${stderr}`).toBe(0);
  });
});

const basket = `import { useState } from 'react';

export function Basket({ weigh }) {
  const [basket, setBasket] = useState({ row: '', kilos: 0, ripe: false, kind: 'chip' });
  const [trouble, setTrouble] = useState('');

  async function keep(event) {
    event.preventDefault();
    if (!basket.row) return setTrouble('Which row?');
    await weigh(basket);
    setBasket({ row: '', kilos: 0, ripe: false, kind: 'chip' });
  }

  return (
    <form onSubmit={keep}>
      <input aria-label="Row" value={basket.row} onChange={(e) => setBasket({ ...basket, row: e.target.value })} />
      <input name="kilos" type="number" value={basket.kilos} onChange={(e) => setBasket({ ...basket, kilos: Number(e.target.value) })} />
      <label><input type="checkbox" checked={basket.ripe} onChange={({ target }) => setBasket({ ...basket, ripe: target.checked })} /> Ripe</label>
      <button type="button" onClick={() => setBasket((old) => ({ ...old, kilos: old.kilos + 1 }))}>More</button>
      {trouble && <p role="alert">{trouble}</p>}
      <button>Keep</button>
    </form>
  );
}
`;

describe('what a hook’s table says', () => {
  it('is how react-hook-form takes plain controls, and asks for a value as it is now', async () => {
    const text = await after('Basket.jsx', basket, 'react-hook-form');
    expect(text).toContain(`<input aria-label="Row" {...register('row')} />`);
    expect(text).toContain(`<label><input type="checkbox" {...register('ripe')} /> Ripe</label>`);
    // what is worked out on the way in stays the author's
    expect(text).toContain(`onChange={(e) => setValue('kilos', Number(e.target.value))}`);
    expect(text).toContain(`setValue('kilos', getValues('kilos') + 1)`);
    expect(text).toContain('<form onSubmit={handleSubmit(keep)}>');
    expect(text).toContain('async function keep() {\n    if (!basket.row)');
  });

  it('keeps a failure that the author leaves to the page from formik', async () => {
    const text = await after('Basket.jsx', basket, 'formik');
    expect(text).toContain('event.preventDefault();\n      void submitForm();');
    expect(text).toContain('onSubmit: keep,');
    expect(text).toContain('setValues((prev) => ({ ...prev, kilos: prev.kilos + 1 }))');
    const caught = basket.replace('await weigh(basket);', 'await weigh(basket).catch(() => {});');
    const other = await after('Basket.jsx', caught, 'formik');
    expect(other).toContain('<form onSubmit={handleSubmit}>');
    // it complains of buttons that do not say that they send
    expect(other).toContain('<button type="submit">Keep</button>');
  });

  it('is how tanstack-form shows what it stores, and prevents nothing by itself', async () => {
    const text = await after('Basket.jsx', basket, 'tanstack-form');
    expect(text).toContain("import { useForm, useStore } from '@tanstack/react-form';");
    expect(text).toContain('const basket = useStore(store, ({ values }) => values);');
    expect(text).toContain("setFieldValue('kilos', (prev) => prev + 1)");
    expect(text).toContain('event.preventDefault();\n      void handleSubmit();');
    expect(text).toContain('reset();');
  });

  it('moves a submit that stands in the markup into the hook’s options', async () => {
    const inline = basket
      .replace(/ {2}async function keep[\s\S]*?\n {2}}\n\n/, '')
      .replace(
        'onSubmit={keep}',
        'onSubmit={(e) => {\n      e.preventDefault();\n      // to the shed\n      weigh(basket);\n    }}',
      );
    const text = await after('Basket.jsx', inline, 'formik');
    expect(text).toContain('    onSubmit: async () => {\n      // to the shed\n      weigh(basket);\n    },');
    expect(text).toContain('<form onSubmit={handleSubmit}>');
  });

  it('does not use a member that the version of the project lacks', async () => {
    const all = basket.replace(
      'setBasket((old) => ({ ...old, kilos: old.kilos + 1 }))',
      'setBasket((old) => ({ ...old, ...weigh.last }))',
    );
    const others = { 'package.json': '{ "dependencies": { "react-hook-form": "^7.51.0" } }' };
    expect(await left('Basket.jsx', all, 'react-hook-form', others)).toEqual([
      [3, 'react-hook-form has setValues from 7.74.0 on, and this project has 7.51.0'],
    ]);
    await expect(after('Basket.jsx', basket, 'react-hook-form', others)).resolves.toContain("register('row')");
  });

  it('leaves what would look at values of before by hand', async () => {
    const twice = basket.replace(
      'onClick={() => setBasket((old) => ({ ...old, kilos: old.kilos + 1 }))}',
      'onClick={() => { setBasket((old) => ({ ...old, kilos: old.kilos + 1 })); setBasket((old) => ({ ...old, kilos: old.kilos * 2 })); }}',
    );
    expect(await left('Basket.jsx', twice, 'formik')).toEqual([
      [19, 'an earlier change comes before it in the same turn, and formik would build on the values of the last view'],
    ]);
    await expect(after('Basket.jsx', twice, 'react-hook-form')).resolves.toContain("getValues('kilos') * 2");
  });
});
