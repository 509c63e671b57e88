import { afterAll, expect, it } from 'vitest';
import { inPairs, project } from '../tools/project.js';

const home = project();
afterAll(() => home.remove());
const wanted = 60;
const ring = ['field-state', 'object-state', 'reducer', 'own-hook', 'declared-schema'];

it('a rewrite by way of another approach plays like the direct one', async () => {
  home.copy('test/forms/react', 'direct');
  const survey = await home.run('survey', 'direct', '--format', 'json', '--no-cache');
  const { forms } = JSON.parse(survey.stdout) as { forms: { file: string; name: string; approach: string }[] };
  const every = forms.flatMap(({ file, name, approach }) =>
    ring.flatMap((to) =>
      ring
        .filter((by) => by !== to && by !== approach && to !== approach)
        .map((by) => ({ file, form: name.split(':')[0] ?? name, by, to })),
    ),
  );
  // a fixed choice among them, spread over all forms
  const chains = every.filter((_, index) => index % Math.ceil(every.length / wanted) === 0);
  let refused = 0;
  const trouble = await inPairs(chains, async ({ file, form, by, to }) => {
    const folders = [`${by}-${to}-straight`, `${by}-${to}-by-way`];
    for (const folder of folders) if (!seen.has(folder)) home.copy('test/forms/react', folder);
    for (const folder of folders) seen.add(folder);
    const own = file.replace(/^direct\//, '');
    const steps = [
      [folders[0], to],
      [folders[1], by],
      [folders[1], to],
    ] as [string, string][];
    for (const [folder, target] of steps) {
      const run = await home.run('apply', `${folder}/${own}`, '--form', form, '--to', target);
      // a step may leave places by hand, and then nothing is written that could play otherwise
      if (run.code === 1 && /by-hand/.test(run.stdout)) {
        refused += 1;
        return [];
      }
      // several forms of a component go together, so the second finds its work done
      if (run.code !== 0 && !/already/.test(run.stdout + run.stderr))
        return [`${form} ${by} ${to}: ${run.stdout.slice(0, 300)}${run.stderr.slice(0, 300)}`];
    }
    const run = await home.run('trial', `${folders[0]}/${own}`, `${folders[1]}/${own}`, '--form', form);
    return run.code === 0 ? [] : [`${form} ${by} ${to}: ${run.stdout.slice(0, 400)}`];
  });
  console.log(`${chains.length} of ${every.length} chains, ${refused} of them refused`);
  expect(trouble.flat()).toEqual([]);
  expect(refused).toBeLessThan(chains.length / 4);
});

const seen = new Set<string>();
