import { readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { project, root, runProgram, type Run, type TestProject } from '../tools/project.js';

const form = (name: string): string => `import { useState } from 'react';
export function ${name}({ report }) {
  const [row, setRow] = useState('');
  const [pest, setPest] = useState('moth');
  return (
    <form onSubmit={(event) => { event.preventDefault(); report({ row, pest }); }}>
      <input aria-label="Row" value={row} onChange={(event) => setRow(event.target.value)} />
      <input aria-label="Pest" value={pest} onChange={(event) => setPest(event.target.value)} />
      <button>Report</button>
    </form>
  );
}
`;
const before: Record<string, string> = {
  'src/MothSighting.jsx': form('MothSighting'),
  'src/ScabSighting.jsx': form('ScabSighting'),
};
const apply = ['apply', ...Object.keys(before), '--to', 'own-hook', '--proof', 'none'];
const breaker = path.join(root, 'test', 'tools', 'broken-disk.mjs');
/** More writes than any of the commands makes. */
const enough = 60;
const homes: TestProject[] = [];
afterAll(() => homes.forEach((home) => home.remove()));

function orchard(): TestProject {
  const home = project(before);
  homes.push(home);
  return home;
}

function sources(home: TestProject): string {
  const names = readdirSync(path.join(home.folder, 'src')).sort();
  return JSON.stringify(names.map((name) => [name, home.read(`src/${name}`)]));
}

function breaking(home: TestProject, at: number, how: string, parameters: string[]): Promise<Run> {
  const env = { NODE_OPTIONS: `--import ${breaker}`, BREAK_AT: String(at), BREAK_HOW: how };
  return runProgram(home.folder, parameters, env);
}

/** The texts before an apply of both forms, after it, and once the newer of both rewrites is undone. */
async function both(): Promise<{ old: string; new: string; half: string }> {
  const home = orchard();
  const old = sources(home);
  const run = await home.run(...apply);
  expect(run.code, run.stderr).toBe(0);
  const applied = sources(home);
  await home.run('undo');
  return { old, new: applied, half: sources(home) };
}

describe.each(['kill', 'full'])('a disk that breaks (%s)', (how) => {
  it.each(['apply', 'undo'])('at any write of %s leaves no mixture after the next command', async (command) => {
    const texts = await both();
    const mixed: string[] = [];
    let broken = 0;
    for (let at = 1; at < enough; at++) {
      const home = orchard();
      if (command === 'undo') await home.run(...apply);
      const start = sources(home);
      const run = await breaking(home, at, how, command === 'undo' ? ['undo'] : apply);
      if (run.code === 0) break;
      broken += 1;
      const told = `${command} ${how} at write ${at}`;
      if (how === 'full' && run.code !== 2) mixed.push(`${told}: ends with ${run.code}: ${run.stderr}`);
      if (/nothing was written/.test(run.stderr) && sources(home) !== start)
        mixed.push(`${told}: says nothing was written`);
      const next = await home.run('undo', '--list');
      if (next.code !== 0) mixed.push(`${told}: the next command ends with ${next.code}: ${next.stderr}`);
      const whole = command === 'undo' ? [texts.new, texts.half] : [texts.old, texts.new];
      if (!whole.includes(sources(home))) mixed.push(`${told}: a mixture`);
      // the journal still works
      const again = await home.run(...(sources(home) === texts.old ? apply : ['undo']));
      if (again.code !== 0) mixed.push(`${told}: afterwards ${again.code}: ${again.stderr}`);
    }
    console.log(`${command}, ${how}: ${broken} writes`);
    expect(mixed).toEqual([]);
    expect(broken).toBeGreaterThan(8);
    expect(broken).toBeLessThan(enough - 1);
  });
});

it('two calls at once wait for each other or one is refused', async () => {
  const texts = await both();
  for (let round = 0; round < 10; round++) {
    const home = orchard();
    const runs = await Promise.all([home.run(...apply), home.run(...apply)]);
    const codes = runs.map(({ code }) => code).sort();
    expect([
      [0, 0],
      [0, 2],
    ]).toContainEqual(codes);
    expect(sources(home)).toBe(texts.new);
    const undone = await Promise.all([home.run('undo'), home.run('undo')]);
    const ends = undone.map(({ code }) => code).sort();
    expect([
      [0, 0],
      [0, 2],
    ]).toContainEqual(ends);
    // each takes back one of the two rewrites, or one of them is refused
    expect(sources(home)).toBe(ends[1] === 0 ? texts.old : texts.half);
  }
});
