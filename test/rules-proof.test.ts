import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { project } from './tools/project.js';
import { messageOf, ruleTable, spellings, type RuleRow } from './tools/rule-table.js';
import { typeErrors } from './tools/type-check.js';

type Judge = (values: Record<string, unknown>, names: string[]) => Record<string, string | undefined>;

const home = project();
afterAll(() => home.remove());

/** Runs a form's own function of rules, whatever it has become. */
async function judgeOf(file: string): Promise<Judge> {
  const out = `${file.replace(/\W/g, '-')}.mjs`;
  await build({
    entryPoints: [path.join(home.folder, file)],
    outfile: path.join(home.folder, out),
    bundle: true,
    format: 'esm',
    platform: 'node',
    jsx: 'automatic',
    logLevel: 'silent',
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  });
  const made = (await import(pathToFileURL(path.join(home.folder, out)).href)) as { judge: Judge };
  return made.judge;
}

function valueOf(source: string): unknown {
  return new Function(`return ${source};`)() as unknown;
}

/** What a rule says of a value; a function that throws says so. */
function verdict(judge: Judge, row: RuleRow, source: string): string {
  const begin = Object.fromEntries(ruleTable.map(({ field, initial }) => [field, valueOf(initial)]));
  try {
    const found = judge({ cracks: false, kind: 'cut', ...begin, ...row.beside, [row.field]: valueOf(source) }, [
      row.field,
    ]);
    return found[row.field] ?? 'fine';
  } catch {
    return 'throws';
  }
}

const names = Object.keys(spellings);
const judges = new Map<string, { before: Judge; schema: Judge; back: Judge }>();
const steps: string[] = [];

beforeAll(async () => {
  for (const [index, name] of names.entries()) {
    const text = spellings[name]?.() ?? '';
    for (const folder of ['before', 'schema', 'back']) home.write(`${folder}${index}/OrchardSlip.tsx`, text);
    for (const [folder, way] of [
      ['schema', ['declared-schema']],
      ['back', ['declared-schema', 'object-state']],
    ] as const)
      for (const to of way) {
        const run = await home.run('apply', '--proof', 'none', `${folder}${index}/OrchardSlip.tsx`, '--to', to);
        if (run.code !== 0) steps.push(`${name}, ${to}: ${run.stdout}${run.stderr}`);
      }
    if (steps.length) return;
    judges.set(name, {
      before: await judgeOf(`before${index}/OrchardSlip.tsx`),
      schema: await judgeOf(`schema${index}/OrchardSlip.tsx`),
      back: await judgeOf(`back${index}/OrchardSlip.tsx`),
    });
  }
});

describe('a rule says the same of every value, however it is stated', () => {
  it('goes onto a schema and back, and every version type-checks', () => {
    expect(steps).toEqual([]);
    const files = names.flatMap((_name, index) => [`schema${index}`, `back${index}`]);
    const checked = files.map((folder) => path.join(folder, 'OrchardSlip.tsx'));
    expect(typeErrors(home.folder, checked)).toEqual([]);
  });

  it.each(names)('stated in %s: the code, the schema and the code made from it agree', (name) => {
    const judge = judges.get(name);
    if (!judge) throw new Error('the form was not rewritten');
    const differing = ruleTable.flatMap((row) =>
      row.inputs.flatMap((input) => {
        const before = verdict(judge.before, row, input);
        const others = { schema: verdict(judge.schema, row, input), back: verdict(judge.back, row, input) };
        const same = before === others.schema && before === others.back;
        return same ? [] : [{ rule: row.broken, input, before, ...others }];
      }),
    );
    expect(differing).toEqual([]);
  });

  it('judges something: each rule is met by a value and broken by another', () => {
    const judge = judges.get(names[0] ?? '');
    const idle = ruleTable.filter((row) => {
      const found = row.inputs.map((input) => (judge ? verdict(judge.before, row, input) : ''));
      return !found.includes('fine') || (!found.includes(messageOf(row)) && row.field !== 'whereNot');
    });
    expect(idle.map(({ field }) => field)).toEqual([]);
  });

  it.each(names)('stated in %s: the schema holds every rule that data can say', async (name) => {
    const folder = `before${names.indexOf(name)}`;
    const run = await home.run('rules', `${folder}/OrchardSlip.tsx`, '--format', 'json');
    const { schema, beside } = JSON.parse(run.stdout) as { schema: object; beside: { message: string }[] };
    const told = new Set(beside.map(({ message }) => message));
    expect([...told].sort()).toEqual(
      ruleTable
        .filter(({ code }) => code)
        .map(messageOf)
        .sort(),
    );
    const inSchema = JSON.stringify(schema);
    expect(
      ruleTable.filter((row) => !row.code && !inSchema.includes(messageOf(row))).map(({ field }) => field),
    ).toEqual([]);
  });
});
