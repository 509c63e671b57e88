import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { formsOfFile } from '../src/rewrite/forms.js';
import { diskWorkspace } from '../src/source/workspace.js';
import { storyOf } from './tools/model-story.js';
import { root } from './tools/project.js';

const renew = process.env['LIVELY_GRAFT_NEW_MODELS'] !== undefined;

/** The models of a folder's forms as one text, form by form. */
async function storiesOf(folder: string): Promise<string> {
  const parts: string[] = [];
  for (const name of readdirSync(path.join(root, folder)).sort()) {
    if (!/\.(?:jsx|tsx|component\.ts)$/.test(name)) continue;
    const file = path.join(root, folder, name);
    const found = await formsOfFile(file, readFileSync(file, 'utf8'), diskWorkspace, { ownValueNames: [] });
    if (!found.ok) throw new Error(`${name} does not parse`);
    for (const form of found.forms) {
      const model = form.read?.();
      const lines = model ? storyOf(model) : ['cannot be read'];
      parts.push([`# ${name} ${form.name}, ${form.approach}`, ...lines].join('\n'));
    }
  }
  return `${parts.join('\n\n')}\n`;
}

describe('the model of every form of the test set', () => {
  it.each(['react', 'angular'])('tells what a person reads in the source: %s', async (framework) => {
    const golden = path.join(root, 'test', 'models', `${framework}.txt`);
    const told = await storiesOf(`test/forms/${framework}`);
    if (renew) writeFileSync(golden, told);
    expect(told).toBe(readFileSync(golden, 'utf8'));
  });
});
