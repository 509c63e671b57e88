import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from './tools/project.js';

/** The rooms of the house from top to bottom; rooms of one row may not import one another. */
const rows = [
  ['cli'],
  ['report'],
  ['survey'],
  ['proof'],
  ['trial'],
  ['rewrite'],
  ['advice'],
  ['findings'],
  ['journal'],
  ['react', 'angular', 'vue'],
  ['course'],
  ['rules'],
  ['markup'],
  ['form'],
  ['source'],
];
const level = (room: string): number => rows.findIndex((row) => row.includes(room));

const files = readdirSync(path.join(root, 'src'), { recursive: true, encoding: 'utf8' }).filter((file) =>
  file.endsWith('.ts'),
);

describe('the house', () => {
  it('imports only downwards', () => {
    const upward: string[] = [];
    for (const file of files) {
      const room = file.split(path.sep)[0] ?? '';
      expect(level(room), file).toBeGreaterThanOrEqual(0);
      const text = readFileSync(path.join(root, 'src', file), 'utf8');
      for (const [, specifier = ''] of text.matchAll(/(?:from|import\()\s*'(\.[^']+)'/g)) {
        const target = path.relative(
          path.join(root, 'src'),
          path.resolve(path.join(root, 'src', path.dirname(file)), specifier),
        );
        const other = target.split(path.sep)[0] ?? '';
        if (other === '..' || other === room) continue;
        if (level(other) <= level(room)) upward.push(`${file} imports ${target}`);
      }
    }
    expect(upward).toEqual([]);
  });

  it('keeps the core from printing, exiting and asking for the time', () => {
    for (const file of files) {
      if (/^(cli|report)[\\/]/.test(file) || /trial[\\/](player|mount)\.ts$/.test(file)) continue;
      expect(readFileSync(path.join(root, 'src', file), 'utf8'), file).not.toMatch(
        /console\.|process\.(exit|stdout|stderr)|Date\.now\(\)|new Date\(\)/,
      );
    }
  });
});
