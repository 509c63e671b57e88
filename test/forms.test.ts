import { readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inPairs, project, root, type Run } from './tools/project.js';
import { typeErrors } from './tools/type-check.js';

interface Case {
  file: string;
  form: string;
  from: string;
  to: string;
  fields: string[];
}

const home = project();
const cases: Case[] = [];
const applied = new Map<string, Run>();
const back = new Map<string, Run>();

const opposite = (approach: string): string => (approach === 'reducer' ? 'field-state' : 'reducer');

beforeAll(async () => {
  for (const folder of ['before', 'once', 'twice']) {
    home.copy('test/forms/react', folder);
    home.copy('demo/src', `${folder}/demo`);
  }
  const survey = await home.run('survey', 'before', '--format', 'json', '--no-cache');
  const { forms } = JSON.parse(survey.stdout) as {
    forms: { file: string; name: string; approach: string; fields: { name: string }[] }[];
  };
  for (const { file, name, approach, fields } of forms) {
    const form = name.split(':')[0] ?? name;
    if (!/^(field-state|reducer)$/.test(approach) || cases.some((known) => known.form === form)) continue;
    cases.push({
      file: file.replace(/^before\//, ''),
      form,
      from: approach,
      to: opposite(approach),
      fields: fields.map((field) => field.name),
    });
  }
  for (const { file, form, from, to } of cases) {
    applied.set(form, await home.run('apply', `once/${file}`, '--form', form, '--to', to));
    await home.run('apply', `twice/${file}`, '--form', form, '--to', to);
    back.set(form, await home.run('apply', `twice/${file}`, '--form', form, '--to', from));
  }
}, 300_000);
afterAll(() => home.remove());

const files = readdirSync(path.join(root, 'test', 'forms', 'react')).filter((name) => /\.[jt]sx$/.test(name));

describe('forms as people write them', () => {
  it('are all found', () => {
    const names = cases.map(({ file }) => path.basename(file));
    for (const file of files) expect(names).toContain(file);
    expect(cases.length).toBeGreaterThanOrEqual(23);
  });

  it('are rewritten, to the other approach and back', () => {
    const failed = cases.filter(({ form }) => applied.get(form)?.code !== 0 || back.get(form)?.code !== 0);
    expect(
      failed.map(({ form }) => `${form}: ${applied.get(form)?.stderr ?? ''}${back.get(form)?.stderr ?? ''}`),
    ).toEqual([]);
  });

  it('are read as what they became, with the fields that controls edit', async () => {
    const survey = await home.run('survey', 'once', '--format', 'json', '--no-cache');
    const { forms } = JSON.parse(survey.stdout) as {
      forms: { name: string; approach: string; fields: { name: string }[] }[];
    };
    for (const { form, to } of cases) {
      const found = forms.filter(({ name }) => name.split(':')[0] === form);
      expect(
        found.map(({ approach }) => approach),
        form,
      ).toEqual(found.map(() => to));
      expect(found.length, form).toBeGreaterThan(0);
    }
  });

  it('type-check before, after and back again', () => {
    const typed = cases.map(({ file }) => file).filter((file) => file.endsWith('.tsx'));
    for (const folder of ['before', 'once', 'twice'])
      expect(
        typeErrors(
          home.folder,
          typed.map((file) => `${folder}/${file}`),
        ),
      ).toEqual([]);
  });

  it('gain no cast, no any and no silencing comment', () => {
    const count = (text: string): number => text.match(/\bas (?!const)\w|\bany\b|@ts-|eslint-disable/g)?.length ?? 0;
    for (const { file } of cases)
      expect(count(home.read(`once/${file}`)), file).toBeLessThanOrEqual(count(home.read(`before/${file}`)));
  });

  it('leave no setter or dispatch of the old approach behind', () => {
    for (const { file, form, to } of cases) {
      const text = home.read(`once/${file}`);
      if (to === 'field-state') expect(text, form).not.toMatch(/useReducer/);
      else expect(text, form).toMatch(/useReducer/);
    }
  });

  it('play the same after the rewrite and after the way back', async () => {
    const plays = cases.flatMap((one) => ['once', 'twice'].map((folder) => ({ ...one, folder })));
    const answers = await inPairs(plays, async ({ file, form, folder }) => {
      const run = await home.run('trial', `before/${file}`, `${folder}/${file}`, '--form', form);
      return run.code === 0 ? [] : [`${folder} ${form}: ${run.stdout}${run.stderr}`];
    });
    expect(answers.flat()).toEqual([]);
  }, 480_000);
});
