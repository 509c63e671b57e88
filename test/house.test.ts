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

/** Files that each file imports, what is only a type left out. */
const imports = new Map(
  files.map((file) => {
    const text = readFileSync(path.join(root, 'src', file), 'utf8');
    const found = [...text.matchAll(/import (?!type\b)[^;]*?from '(\.[^']+)\.js'|import\('(\.[^']+)\.js'\)/g)];
    return [file, found.map(([, a, b]) => path.join(path.dirname(file), `${a ?? b ?? ''}.ts`))] as const;
  }),
);

/** The approach whose folder a file stands in. */
function approachOf(file: string): string | undefined {
  const [room = '', folder = '', name] = file.split(path.sep);
  const index = path.join(room, folder, 'index.ts');
  return name !== undefined && imports.has(index) ? `${room}/${folder}` : undefined;
}

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

  it('lets no approach ask another one', () => {
    const crossing: string[] = [];
    for (const [file, targets] of imports) {
      const own = approachOf(file);
      if (own === undefined) continue;
      for (const target of targets) {
        const other = approachOf(target);
        if (other !== undefined && other !== own) crossing.push(`${file} imports ${target}`);
      }
    }
    expect(crossing).toEqual([]);
  });

  it('has no circles of imports', () => {
    const circles: string[] = [];
    const done = new Set<string>();
    const visit = (file: string, trail: readonly string[]): void => {
      if (trail.includes(file)) circles.push([...trail.slice(trail.indexOf(file)), file].join(' → '));
      if (done.has(file) || trail.includes(file)) return;
      for (const target of imports.get(file) ?? []) visit(target, [...trail, file]);
      done.add(file);
    };
    for (const file of imports.keys()) visit(file, []);
    expect(circles).toEqual([]);
  });

  it('keeps the core from printing, exiting and asking for the time', () => {
    for (const file of files) {
      if (/^(cli|report)[\\/]/.test(file) || /trial[\\/](player|mount)\.ts$/.test(file)) continue;
      // what is written into a form may tell something there
      const code = readFileSync(path.join(root, 'src', file), 'utf8').replace(/`(?:[^`\\]|\\.)*`/g, '``');
      expect(code, file).not.toMatch(/console\.|process\.(exit|stdout|stderr)|Date\.now\(\)|new Date\(\)/);
    }
  });
});
