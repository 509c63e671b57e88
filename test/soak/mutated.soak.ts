import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';
import { formsOfFile } from '../../src/rewrite/forms.js';
import { rewriteForm } from '../../src/rewrite/rewrite.js';
import { parseData, parseScript } from '../../src/source/script.js';
import { diskWorkspace, overlaid } from '../../src/source/workspace.js';
import { root } from '../tools/project.js';
import { mutated, randomFrom } from './mutations.js';

const folder = path.join(root, 'test', 'forms', 'react');
const names = readdirSync(folder).filter((name) => /\.[jt]sx$/.test(name));
const targets = ['field-state', 'object-state', 'reducer', 'own-hook', 'dom-values', 'declared-schema'];
const wanted = 2000;
const settings = { ownValueNames: [] };

function parses(file: string, text: string): boolean {
  return (file.endsWith('.json') ? parseData(file, text) : parseScript(file, text)).ok;
}

it(`${wanted} mutated forms never crash the tool, and what it writes parses`, async () => {
  const random = randomFrom(20_261);
  const crashes: string[] = [];
  const counts = { written: 0, byHand: 0, refused: 0, unread: 0, faults: 0 };
  for (let number = 0; number < wanted; number++) {
    const name = names[number % names.length] ?? '';
    const file = path.join(folder, name);
    const text = mutated(file, readFileSync(file, 'utf8'), random);
    const workspace = overlaid(diskWorkspace, new Map([[file, text]]));
    const to = targets[Math.floor(random() * targets.length)] ?? 'reducer';
    try {
      const found = await formsOfFile(file, text, workspace, settings);
      if (!found.ok || !found.forms.length) {
        counts.unread += 1;
        continue;
      }
      const result = await rewriteForm({ file, to, form: found.forms[0]?.name }, workspace, settings);
      if (result.kind === 'fault') {
        counts.faults += 1;
        crashes.push(`${name} ${number} ${to}: ${result.failed.join('; ')}`);
      } else if (result.kind !== 'rewrite') counts.refused += 1;
      else if (!result.rewrite.files.length) counts.byHand += 1;
      else {
        counts.written += 1;
        for (const change of result.rewrite.files)
          if (change.after !== null && !parses(change.file, change.after))
            crashes.push(`${name} ${number} ${to}: the result does not parse`);
      }
    } catch (error) {
      crashes.push(
        `${name} ${number} ${to}: ${error instanceof Error ? (error.stack ?? error.message).split('\n').slice(0, 3).join(' ') : String(error)}`,
      );
    }
  }
  console.log(JSON.stringify(counts));
  expect(crashes).toEqual([]);
});
