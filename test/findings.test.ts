import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { findingKinds } from '../src/findings/index.js';
import { project, root } from './tools/project.js';

const watch = (
  rules: string,
  markup: string,
  start = "{ spot: '', degrees: 0, note: '' }",
): string => `import { useState } from 'react';
interface Watch { spot: string; degrees: number; note: string }
export function FrostWatch({ keep }: { keep(watch: Watch): void }) {
  const [watch, setWatch] = useState<Watch>(${start});
  const [sent, setSent] = useState(false);
  const errors: Record<string, string> = {};
  ${rules}
  return (
    <form noValidate onSubmit={(event) => { event.preventDefault(); setSent(true); if (!Object.keys(errors).length) keep(watch); }}>
      <input value={watch.spot} onChange={(event) => setWatch({ ...watch, spot: event.target.value })} />
      <input type="number" value={watch.degrees} onChange={(event) => setWatch({ ...watch, degrees: Number(event.target.value) })} />
      <input value={watch.note} onChange={(event) => setWatch({ ...watch, note: event.target.value })} />
      ${markup}
      <button disabled={sent}>Keep</button>
    </form>
  );
}
`;
const rules = `if (!watch.spot) errors.spot = 'Name the spot';
  if (watch.degrees > 5) errors.degrees = 'That is no frost';`;
const shown = '{sent && errors.spot && <em>{errors.spot}</em>}{sent && errors.degrees && <em>{errors.degrees}</em>}';

const home = project();
afterAll(() => home.remove());

async function found(text: string): Promise<{ code: string; line: number; message: string; remedy: string }[]> {
  home.write('FrostWatch.tsx', text);
  const run = await home.run('survey', 'FrostWatch.tsx', '--format', 'json', '--no-cache');
  return (JSON.parse(run.stdout) as { findings: { code: string; line: number; message: string; remedy: string }[] })
    .findings;
}

describe('findings of rules', () => {
  it('are none for a form that shows each message once it was sent', async () => {
    expect(await found(watch(rules, shown))).toEqual([]);
  });

  it('rule-without-field: a key that is no field, with the field that was meant', async () => {
    const [first, ...more] = await found(watch(rules.replace('errors.degrees', 'errors.degres'), shown));
    expect(more).toEqual([]);
    expect(first).toMatchObject({
      code: 'rule-without-field',
      line: 8,
      remedy: 'say degrees, if that is what is meant',
    });
  });

  it('rule-without-field: names for the whole form are no mistake', async () => {
    expect(
      await found(watch(`${rules} if (watch.spot && watch.degrees > 30) errors.form = 'Is it summer?';`, shown)),
    ).toEqual([]);
  });

  it('error-never-shown: a message that has no place beside others that have', async () => {
    const text = watch(`${rules} if (watch.note.length > 80) errors.note = 'Too long';`, shown);
    expect(await found(text)).toMatchObject([{ code: 'error-never-shown', line: 8 }]);
    expect(await found(text.replace(shown, '{Object.values(errors).map((one) => <em key={one}>{one}</em>)}'))).toEqual(
      [],
    );
  });

  it('error-shown-early: a message of a rule that the first values break', async () => {
    const early = shown.replace('{sent && errors.spot', '{errors.spot');
    expect(await found(watch(rules, early))).toMatchObject([{ code: 'error-shown-early', line: 14 }]);
    // values that meet the rule at first show nothing
    expect(await found(watch(rules, early, "{ spot: 'Pond', degrees: 0, note: '' }"))).toEqual([]);
  });

  it('decide the exit code, and have their level from the settings', async () => {
    home.write('FrostWatch.tsx', watch(rules.replace('errors.degrees', 'errors.degres'), shown));
    expect((await home.run('survey', 'FrostWatch.tsx', '--no-cache')).code).toBe(0);
    const failed = await home.run('survey', 'FrostWatch.tsx', '--no-cache', '--fail-on', 'error');
    expect(failed.code).toBe(1);
    expect(failed.stdout).toMatch(/error rule-without-field +FrostWatch\.tsx:8:\d+/);
    home.write('lively-graft.config.json', '{ "findings": { "rule-without-field": "note" } }');
    expect((await home.run('survey', 'FrostWatch.tsx', '--no-cache', '--fail-on', 'warning')).code).toBe(0);
    home.write('lively-graft.config.json', '{ "findings": { "rule-without-field": "off" } }');
    expect((await home.run('survey', 'FrostWatch.tsx', '--no-cache')).stdout).not.toMatch(/finding/);
    home.write('lively-graft.config.json', '{}');
  });

  it('are silent on the forms of the tests and of the demo', async () => {
    const run = await home.run(
      'survey',
      path.join(root, 'test/forms'),
      path.join(root, 'demo'),
      '--format',
      'json',
      '--no-cache',
    );
    expect((JSON.parse(run.stdout) as { findings: object[] }).findings).toEqual([]);
  });

  it('each have a page with a wrong and a right example', () => {
    const pages = readdirSync(path.join(root, 'docs/findings'));
    for (const { code } of findingKinds) {
      expect(pages).toContain(`${code}.md`);
      const page = readFileSync(path.join(root, 'docs/findings', `${code}.md`), 'utf8');
      expect(page).toMatch(/^Wrong/m);
      expect(page).toMatch(/^Right/m);
    }
  });
});
