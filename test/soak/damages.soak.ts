import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { typescriptChecker } from '../../src/proof/typescript-checker.js';
import { changedFiles } from '../../src/rewrite/changed-files.js';
import { formsOfFile } from '../../src/rewrite/forms.js';
import { netted } from '../../src/rewrite/net/net.js';
import { plannedStep } from '../../src/rewrite/planned-step.js';
import { diskWorkspace } from '../../src/source/workspace.js';
import { root } from '../tools/project.js';
import { damagesOf } from './damages.js';
import { randomFrom } from './mutations.js';

const folders = ['test/forms/react', 'test/forms/angular', 'demo/src'];
const targets = [
  'field-state',
  'object-state',
  'reducer',
  'own-hook',
  'declared-schema',
  'dom-values',
  'template-driven',
  'model-driven',
];
const settings = { ownValueNames: [] };

it('damaged plans are caught, by the net or by the types', async () => {
  const random = randomFrom(77_031);
  const types = typescriptChecker();
  const counts = { all: 0, net: 0, types: 0 };
  const kinds: Record<string, { all: number; caught: number }> = {};
  const missed: string[] = [];
  for (const folder of folders) {
    const names = readdirSync(path.join(root, folder), { recursive: true, encoding: 'utf8' });
    for (const name of names.filter((one) => /\.(component\.ts|[jt]sx)$/.test(one) && !/parts/.test(one))) {
      const file = path.join(root, folder, name);
      const found = await formsOfFile(file, readFileSync(file, 'utf8'), diskWorkspace, settings);
      if (!found.ok) continue;
      for (const form of found.forms) {
        const steps = new Set(targets.flatMap((to) => (form.approach === to ? [] : (form.route(to)?.[0] ?? []))));
        for (const to of form.read ? steps : []) {
          const step = plannedStep(form, found.script, { to }, diskWorkspace, settings);
          if (step.plan.ledger.some(({ entry }) => entry === 'by-hand')) continue;
          for (const { kind, what, plan } of damagesOf(step, random)) {
            const count = (kinds[kind] ??= { all: 0, caught: 0 });
            counts.all += 1;
            count.all += 1;
            const goal = { to, leaves: form.leaves === true };
            const { caught } = await netted({ ...step, plan }, goal, diskWorkspace, settings);
            if (caught.length) counts.net += 1;
            else {
              const files = changedFiles(plan, step.sources);
              const proof = await types.compare(
                files.map((change) => change.file),
                new Map(files.map(({ file: changed, after }) => [changed, after])),
              );
              if (proof.kind !== 'worse') {
                missed.push(`${name} ${form.approach} > ${to}, ${kind}: ${what}`);
                continue;
              }
              counts.types += 1;
            }
            count.caught += 1;
          }
        }
      }
    }
  }
  console.log(JSON.stringify(counts), JSON.stringify(kinds), missed.join('\n'));
  expect(counts.all).toBeGreaterThanOrEqual(400);
  expect((counts.net + counts.types) / counts.all).toBeGreaterThanOrEqual(0.97);
});
