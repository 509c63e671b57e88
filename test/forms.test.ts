import { cpSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { applyAll, inPairs, project, root, type Rewrite } from './tools/project.js';
import { typeErrors } from './tools/type-check.js';

interface Case {
  file: string;
  form: string;
  /** The approaches the form goes through: two others, and its own again where it can come back. */
  way: string[];
  fields: string[];
}

const home = project();
const cases: Case[] = [];
const trouble: string[] = [];
const ring = ['field-state', 'reducer', 'object-state', 'own-hook', 'declared-schema'];
/** Forms whose values nothing but the submit asks for: the page can keep them. */
const keptByPage = ['StakeOrder'];

/** Forms that something keeps from an approach: values that begin missing, values that a child merges. */
const notInto: Record<string, string> = {
  CrateInputs: 'field-state',
  PlotWizard: 'field-state',
  GradingSlip: 'field-state',
  // what is put into them may hold more than the fields, or is worked out from all values after a wait
  CrateEditor: 'field-state',
  HarvestEdit: 'field-state',
  PestReport: 'field-state',
};

/** Two others of the ring, different ones from form to form, so that each rewrite is made; and back where there is a way. */
function wayFrom(approach: string, index: number, form: string): string[] {
  const others = ring.filter((id) => id !== approach && id !== notInto[form]);
  const [first = '', second = ''] = [others[index % others.length], others[(index + 1 + (index % 2)) % others.length]];
  if (keptByPage.includes(form)) return ['dom-values', first, approach];
  return approach === 'class-state' || approach === 'dom-values' || approach === 'own-hook'
    ? [first, second]
    : [first, second, approach];
}

beforeAll(async () => {
  for (const folder of ['before', 'round']) {
    home.copy('test/forms/react', folder);
    home.copy('demo/src', `${folder}/demo`);
  }
  const survey = await home.run('survey', 'before', '--format', 'json', '--no-cache');
  const { forms } = JSON.parse(survey.stdout) as {
    forms: { file: string; name: string; framework: string; approach: string; fields: { name: string }[] }[];
  };
  for (const { file, name, framework, approach, fields } of forms) {
    const form = name.split(':')[0] ?? name;
    if (framework !== 'react' || cases.some((known) => known.form === form)) continue;
    cases.push({
      file: file.replace(/^before\//, ''),
      form,
      way: wayFrom(approach, cases.length, form),
      fields: fields.map((field) => field.name),
    });
  }
  const rewrites = (step: number): Rewrite[] =>
    cases.flatMap(({ file, form, way }) => {
      const to = way[step];
      return to === undefined ? [] : [{ file: `round/${file}`, form, to }];
    });
  trouble.push(...(await applyAll(home, rewrites(0))));
  cpSync(path.join(home.folder, 'round'), path.join(home.folder, 'once'), { recursive: true });
  for (const step of [1, 2]) trouble.push(...(await applyAll(home, rewrites(step))));
}, 400_000);
afterAll(() => home.remove());

const files = readdirSync(path.join(root, 'test', 'forms', 'react')).filter((name) => /\.[jt]sx$/.test(name));

describe('forms as people write them', () => {
  it('are all found', () => {
    const names = cases.map(({ file }) => path.basename(file));
    for (const file of files) expect(names).toContain(file);
    expect(cases.length).toBeGreaterThanOrEqual(40);
  });

  it('are rewritten, from each approach to the others and back', () => {
    expect(trouble).toEqual([]);
  });

  it('are read as what they became, with the fields that controls edit', async () => {
    const survey = await home.run('survey', 'once', '--format', 'json', '--no-cache');
    const { forms } = JSON.parse(survey.stdout) as {
      forms: { name: string; approach: string; fields: { name: string }[] }[];
    };
    for (const { form, way } of cases) {
      const found = forms.filter(({ name }) => name.split(':')[0] === form);
      expect(
        found.map(({ approach }) => approach),
        form,
      ).toEqual(found.map(() => way[0]));
      expect(found.length, form).toBeGreaterThan(0);
    }
  });

  it('type-check before, after and back again', () => {
    const typed = cases.map(({ file }) => file).filter((file) => file.endsWith('.tsx'));
    for (const folder of ['before', 'once', 'round'])
      expect(
        typeErrors(
          home.folder,
          typed.map((file) => `${folder}/${file}`),
        ),
      ).toEqual([]);
  });

  it('gain no cast, no any and no silencing comment', () => {
    const count = (text: string): number => text.match(/\bas (?!const)\w|\bany\b|@ts-|eslint-disable/g)?.length ?? 0;
    // what a hook of the project says moves with it, its casts included
    const hooks = readdirSync(path.join(root, 'test', 'forms', 'react', 'parts')).filter((name) =>
      name.startsWith('use'),
    );
    const inHooks = hooks.reduce((sum, name) => sum + count(home.read(`before/parts/${name}`)), 0);
    for (const { file } of cases) {
      const before = home.read(`before/${file}`);
      const allowed = count(before) + (/from '\.\/parts\/use/.test(before) ? inHooks : 0);
      expect(count(home.read(`once/${file}`)), file).toBeLessThanOrEqual(allowed);
    }
  });

  it('leave no setter or dispatch of the old approach behind', () => {
    for (const { file, form, way } of cases) {
      const text = home.read(`once/${file}`);
      if (way[0] === 'reducer') expect(text, form).toMatch(/useReducer/);
      else expect(text, form).not.toMatch(/useReducer/);
    }
  });

  it('play the same after the rewrite and after the way back', async () => {
    // plays take most of the time: every thirtieth form after all its steps, every ninetieth after the first one as well
    const every = process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined;
    const plays = cases.flatMap((one, index) => {
      const folders = [
        ...(every || index % 180 === 0 ? ['once'] : []),
        ...(every || index % 60 === 1 ? ['round'] : []),
      ];
      return folders.map((folder) => ({ ...one, folder }));
    });
    const answers = await inPairs(plays, async ({ file, form, folder }) => {
      const run = await home.run('trial', `before/${file}`, `${folder}/${file}`, '--form', form);
      return run.code === 0 ? [] : [`${folder} ${form}: ${run.stdout}${run.stderr}`];
    });
    expect(answers.flat()).toEqual([]);
  }, 480_000);
});
