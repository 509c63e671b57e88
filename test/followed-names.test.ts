import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { project, root } from './tools/project.js';

const hook = `import { useState, type ChangeEvent, type FormEvent } from 'react';

export class Refused extends Error {
  constructor(public readonly fields: Record<string, string>) {
    super('refused');
  }
}

export interface EntryOptions<Values> {
  start: Values;
  check: (values: Values) => Partial<Record<keyof Values, string>>;
  send: (values: Values) => Promise<void>;
  failed?: (error: unknown) => void;
}

export function useEntry<Values extends object>({ start, check, send, failed }: EntryOptions<Values>) {
  const [values, setValues] = useState(start);
  const [tried, setTried] = useState(false);
  const [refused, setRefused] = useState<Record<string, string>>({});
  const found = check(values);

  const change = (event: ChangeEvent<HTMLInputElement>) => {
    const { name, value } = event.target;
    setValues((before) => ({ ...before, [name]: value }));
  };
  const errorOf = (name: keyof Values & string) => refused[name] ?? (tried ? found[name] : undefined);
  const clear = (to: Values = start) => {
    setValues(to);
    setTried(false);
    setRefused({});
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (Object.keys(found).length) return;
    try {
      await send(values);
    } catch (error) {
      if (error instanceof Refused) setRefused(error.fields);
      else failed?.(error);
    }
  };
  return { values, change, errorOf, clear, submit };
}
`;
const component = `import { useState } from 'react';
import { Refused, usePage, useEntry } from '@/hooks';

interface Log {
  row: string;
  crates: string;
}

const empty: Log = { row: '', crates: '' };

export function CrateLog({ keep }: { keep: (log: Log) => Promise<{ wrong?: Record<string, string> }> }) {
  const { page, next } = usePage();
  const [alarm, setAlarm] = useState('');
  const form = useEntry<Log>({
    start: empty,
    check(log) {
      return log.row ? {} : { row: 'Which row?' };
    },
    send: async (log) => {
      const { wrong } = await keep({ ...log, crates: log.crates.trim() });
      if (wrong) throw new Refused(wrong);
      // the next crates mostly come from the same row
      form.clear({ ...empty, row: log.row });
    },
    failed: () => setAlarm('Nobody answered'),
  });
  const { values, errorOf } = form;

  return (
    <form onSubmit={form.submit}>
      <button type="button" onClick={next}>
        Page {page}
      </button>
      <input name="row" aria-label="Row" value={values.row} onChange={form.change} />
      {errorOf('row') && <em>{errorOf('row')}</em>}
      <input name="crates" aria-label="Crates" value={values.crates} onChange={form.change} />
      {alarm && <p role="alert">{alarm}</p>}
      <button>Keep</button>
    </form>
  );
}
`;
const home = project({
  'tsconfig.json': '{ "references": [{ "path": "./tsconfig.app.json" }], "files": [] }',
  'tsconfig.app.json':
    '{ "compilerOptions": { "strict": true, "jsx": "react-jsx", "module": "esnext", "moduleResolution": "bundler", "target": "es2022", "noEmit": true, "skipLibCheck": true, "paths": { "@/*": ["./src/*"] } }, "include": ["src"] }',
  'src/hooks/useEntry.ts': hook,
  'src/hooks/usePage.ts':
    "import { useState } from 'react';\nexport default function usePage(first = 1) {\n  const [page, setPage] = useState(first);\n  return { page, next: () => setPage(page + 1) };\n}\n",
  'src/hooks/index.ts': "export * from './useEntry';\nexport { default as usePage } from './usePage';\n",
  'src/CrateLog.tsx': component,
  'src/GraftRequest.jsx': readFileSync(path.join(root, 'test/forms/react/GraftRequest.jsx'), 'utf8'),
});
afterAll(() => home.remove());

async function previewed(file: string, to: string): Promise<string> {
  const run = await home.run('preview', file, '--to', to, '--format', 'json');
  expect(run.code, run.stdout + run.stderr).toBe(0);
  const { files } = JSON.parse(run.stdout) as { files: { file: string; after: string }[] };
  return files.find((change) => change.file === file)?.after ?? '';
}

describe('names that lead into other files', () => {
  it('tell fields and starts of a hook with options', async () => {
    const run = await home.run('inspect', 'src/CrateLog.tsx', '--format', 'json');
    const { forms } = JSON.parse(run.stdout) as {
      forms: { approach: string; fields: { name: string; initial: string }[] }[];
    };
    const { approach, fields = [] } = forms[0] ?? {};
    expect(approach).toBe('own-hook');
    expect(fields.map(({ name, initial }) => [name, initial])).toEqual([
      ['row', "''"],
      ['crates', "''"],
    ]);
  });

  it('are followed through an alias and a file that hands them on', async () => {
    const after = await previewed('src/CrateLog.tsx', 'object-state');
    expect(after).toContain('const [values, setValues] = useState(empty);');
    // what the hook was given stands in the component, with the component’s names for what it gives
    expect(after).toContain('clear({ ...empty, row: log.row });');
    expect(after).toContain("const check: EntryOptions<Log>['check'] = (log) => {");
    expect(after).not.toContain('useEntry(');
    // a hook that holds nothing of the form stays, and so does what its file shares
    expect(after).toContain("import { Refused, usePage } from '@/hooks';");
    expect(after).not.toContain('class Refused');
  });

  it('are proven', async () => {
    const run = await home.run('apply', 'src/CrateLog.tsx', '--to', 'reducer', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const { proof } = JSON.parse(run.stdout) as { proof: { types: string; play: string } };
    expect(proof).toMatchObject({ types: 'same', play: 'same' });
    expect((await home.run('undo')).code).toBe(0);
    expect(home.read('src/CrateLog.tsx')).toBe(component);
  });
});

describe('several controls of one name', () => {
  it('are a list in the order of the page', async () => {
    const after = await previewed('src/GraftRequest.jsx', 'field-state');
    expect(after).toContain('const [graft, setGraft] = useState([]);');
    expect(after).toMatch(/setGraft\(\(before\) =>\s+\['whip', 'bark', 'bud'\]\.filter\(/);
    expect(after).toContain('const colours = graft;');
    // what only took a value goes; the control is still the page’s to focus
    expect(after).not.toContain("data.get('variety')");
    expect(after).toContain("event.currentTarget.elements.namedItem('amount').focus()");
    expect(after).toContain('setGraft([]);');
  });
});

describe('lines that a rewrite made too long', () => {
  it('are broken as a formatter would, and no others', async () => {
    const before = home.read('src/GraftRequest.jsx');
    const after = await previewed('src/GraftRequest.jsx', 'object-state');
    const known = new Set(before.split('\n'));
    for (const line of after.split('\n')) if (!known.has(line)) expect(line.length, line).toBeLessThanOrEqual(120);
    expect(after).toContain(
      [
        '      <select',
        '        name="variety"',
        '        value={variety}',
        '        onChange={(event) => setValues((prev) => ({ ...prev, variety: event.target.value }))}',
        '      >',
      ].join('\n'),
    );
  });
});
