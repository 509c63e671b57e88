import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { project, root, type Run } from './tools/project.js';

type Change = [what: string, from: string, to: string];

const answers = JSON.stringify({ answers: { lend: [{ after: 500 }] } });
const forms = {
  react: 'GateKey.tsx',
  angular: 'gate-key.component.ts',
  vue: 'GateKey.vue',
};

const broken: Record<keyof typeof forms, Change[]> = {
  react: [
    ['a dropped rule', "if (days > 14) found.days = 'Two weeks at most';", ''],
    ['a message under the wrong field', "found.days = 'Two weeks at most'", "found.keeper = 'Two weeks at most'"],
    ['a lost trim', 'keeper: keeper.trim(), days', 'keeper, days'],
    ['a checkbox read by value', 'setSpare(e.target.checked)', "setSpare(e.target.value === 'on')"],
    ['a missing preventDefault', 'e.preventDefault();', ''],
    ['a reset that forgets a field', '    setSpare(false);\n', ''],
    ['a stale value after await', 'setLent((n) => n + 1)', 'setLent(lent + 1)'],
    [
      'an extra render loop',
      'const send = async',
      'if (keeper.length < 4) setLent((n) => n + 1);\n  const send = async',
    ],
    ['a button not disabled while sending', 'disabled={busy}', ''],
    ['a class that no longer depends on errors', "errors.keeper ? 'bad' : 'good'", "'good'"],
  ],
  angular: [
    ['a dropped rule', ', validators: [Validators.max(14)]', ''],
    ['a message under the wrong field', "form.controls.days.hasError('max')", "keeper.hasError('max')"],
    ['a lost trim', 'keeper: value.keeper.trim()', 'keeper: value.keeper'],
    ['a checkbox that is not bound', '<input type="checkbox" formControlName="spare" />', '<input type="checkbox" />'],
    ['a reset that forgets a field', 'this.form.reset();', 'this.form.reset({ spare: value.spare });'],
    ['a button not disabled while sending', '[disabled]="busy"', ''],
    ['a class that no longer depends on errors', '[class.bad]="keeper.touched && keeper.invalid"', ''],
  ],
  vue: [
    ['a dropped rule', "if (days.value > 14) found.days = 'Two weeks at most';", ''],
    ['a message under the wrong field', "found.days = 'Two weeks at most'", "found.keeper = 'Two weeks at most'"],
    ['a lost trim', 'keeper: keeper.value.trim(), days', 'keeper: keeper.value, days'],
    ['a missing prevent', '@submit.prevent', '@submit'],
    ['a reset that forgets a field', '    spare.value = false;\n', ''],
    ['a checkbox that is not bound', '<input v-model="spare" type="checkbox" />', '<input type="checkbox" />'],
    ['a button not disabled while sending', ':disabled="busy"', ''],
  ],
};

const equivalent: Record<keyof typeof forms, Change[]> = {
  react: [
    [
      'a handler with a name',
      'onChange={(e) => setKeeper(e.target.value)}',
      'onChange={function take(e) { setKeeper(e.currentTarget.value); }}',
    ],
    ['another name for a variable', 'setBusy', 'setIsBusy'],
    ['text in two pieces', 'Lent today: {lent}', '{`Lent today: `}\n{lent}'],
    [
      'a fragment around a message',
      '{errors.days && <p>{errors.days}</p>}',
      '<>{errors.days ? <p>{errors.days}</p> : null}</>',
    ],
    ['a button whose type is written', '<button disabled={busy}>', '<button type="submit" disabled={busy}>'],
    ['an updater in place of a value', 'setDays(1)', 'setDays(() => 1)'],
    [
      'rules in another order of ifs',
      "if (!keeper.trim()) found.keeper = 'Who keeps the key?';",
      "if (keeper.trim() === '') found.keeper = 'Who keeps the key?';",
    ],
    ['an attribute that is spread', 'value={keeper}', '{...{ value: keeper }}'],
    ['a timer that does nothing', 'setBusy(true);', 'setBusy(true); setTimeout(() => undefined, 300);'],
    ['a comment', 'const send', '// lends the key\n  const send'],
  ],
  angular: [
    [
      'an old directive for a block',
      "@if (keeper.touched && keeper.hasError('required')) {\n        <p>Who keeps the key?</p>\n      }",
      "@if (keeper.hasError('required') && keeper.touched) {<p>Who keeps the key?</p>}",
    ],
    ['errors asked for by key', "hasError('max')", "errors?.['max']"],
    [
      'a getter taken apart',
      'return this.form.controls.keeper;',
      'const { keeper } = this.form.controls; return keeper;',
    ],
    [
      'the group built elsewhere',
      'this.form.getRawValue()',
      'this.form.value as ReturnType<typeof this.form.getRawValue>',
    ],
    [
      'an element around the message',
      '<p>Two weeks at most</p>',
      '<ng-container><p>Two weeks at most</p></ng-container>',
    ],
  ],
  vue: [
    [
      'a model taken apart',
      'v-model="keeper"',
      ':value="keeper" @input="keeper = ($event.target as HTMLInputElement).value"',
    ],
    [
      'a template around the message',
      '<p v-if="errors.days">{{ errors.days }}</p>',
      '<template v-if="errors.days"><p>{{ errors.days }}</p></template>',
    ],
    ['the handler called with the event', '@submit.prevent="send"', '@submit.prevent="send()"'],
    ['text in two pieces', 'Lent today: {{ lent }}', '{{ "Lent today:" }} {{ lent }}'],
    ['rules written the other way round', 'days.value > 14', '14 < days.value'],
  ],
};

const home = project({ 'given.json': answers });
afterAll(() => home.remove());
type Case = [keyof typeof forms, string, Change];

/** Every kind of change once: one that several frameworks know is played in another of them from kind to kind. */
const cases = (list: typeof broken): Case[] => {
  const all = (Object.keys(forms) as (keyof typeof forms)[]).flatMap((framework) =>
    list[framework].map((change): Case => [framework, change[0], change]),
  );
  if (process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined) return all;
  const kinds = [...new Set(all.map(([, kind]) => kind))];
  return kinds.flatMap((kind, index) => {
    const alike = all.filter(([, other]) => other === kind);
    return alike.slice(index % alike.length, (index % alike.length) + 1);
  });
};

/** One in so many is played with every change; all of them in soak. */
const oneIn =
  (many: number) =>
  (_: Case, index: number): boolean =>
    index % many === 0 || process.env['LIVELY_GRAFT_EVERY_PLAY'] !== undefined;

async function played(framework: keyof typeof forms, [what, from, to]: Change): Promise<Run> {
  const name = forms[framework];
  const text = readFileSync(path.join(root, 'test', 'forms', 'plays', name), 'utf8');
  expect(text, 'the change must touch the form').toContain(from);
  const folder = `${framework}-${what.replace(/\W+/g, '-')}`;
  home.write(`${folder}/before/${name}`, text);
  home.write(`${folder}/after/${name}`, text.replaceAll(from, to));
  return home.run(
    'trial',
    `${folder}/before/${name}`,
    `${folder}/after/${name}`,
    '--with',
    'given.json',
    '--format',
    'json',
  );
}

describe('a broken rewrite is caught', () => {
  it.concurrent.each(cases(broken).filter(oneIn(5)))('%s: %s', async (framework, _what, change) => {
    const run = await played(framework, change);
    // an endless loop cannot be played at all; everything else is seen as different
    expect(run.code, run.stdout.slice(0, 400) + run.stderr).toBe(change[0] === 'an extra render loop' ? 2 : 1);
    if (run.code === 1) expect((JSON.parse(run.stdout) as { same: boolean }).same).toBe(false);
    else expect(run.stderr).toMatch(/after: .*(without an end|Too many re-renders)/);
  });
});

describe('an equivalent version is found the same', () => {
  it.concurrent.each(cases(equivalent).filter(oneIn(5)))('%s: %s', async (framework, _what, change) => {
    const run = await played(framework, change);
    const result = run.stdout ? (JSON.parse(run.stdout) as { steps: { difference: string | null }[] }) : { steps: [] };
    expect(result.steps.flatMap(({ difference }) => difference ?? [])).toEqual([]);
    expect(run.code, run.stderr).toBe(0);
  });
});
