import { afterAll, describe, expect, it } from 'vitest';
import { project } from './tools/project.js';

const form = `import { useEffect, useState } from 'react';

export type TreeRecord = { variety: string; planted: number | null; felled: boolean; remarks?: string };
type Store = { read(number: string): Promise<TreeRecord>; write(record: TreeRecord): Promise<TreeRecord> };

export function TreeFile({ number, store }: { number: string; store: Store }) {
  const [record, setRecord] = useState<null | TreeRecord>(null);
  const [busy, setBusy] = useState(false);

  useEffect(() => {
    let gone = false;
    setRecord(null);
    void store.read(number).then((found) => {
      if (!gone) setRecord(found);
    });
    return () => {
      gone = true;
    };
  }, [number, store]);

  async function onSubmit(event: React.FormEvent) {
    event.preventDefault();
    if (!record || busy) return;
    setBusy(true);
    setRecord(await store.write({ ...record, variety: record.variety.trim() }));
    setBusy(false);
  }

  return (
    <form onSubmit={onSubmit}>
      <h2>{record?.variety ?? 'Looking for the tree'}</h2>
      {record && (
        <>
          <input
            aria-label="Variety"
            value={record.variety}
            onChange={(event) => setRecord({ ...record, variety: event.target.value })}
          />
          <label>
            <input
              type="checkbox"
              checked={record.felled}
              onChange={() => setRecord((old) => (old ? { ...old, felled: !old.felled } : old))}
            />
            Felled
          </label>
          <textarea
            aria-label="Remarks"
            value={record.remarks ?? ''}
            onChange={(event) => setRecord((old) => old && { ...old, remarks: event.target.value })}
          />
        </>
      )}
      <button disabled={!record || busy}>Keep</button>
    </form>
  );
}
`;
const home = project({
  'src/TreeFile.tsx': form,
  'tsconfig.json':
    '{ "compilerOptions": { "strict": true, "jsx": "react-jsx", "module": "esnext", "moduleResolution": "bundler", "target": "es2022", "noEmit": true, "skipLibCheck": true }, "include": ["src"] }',
});
afterAll(() => home.remove());

describe('values that are null until they are filled', () => {
  it('become a reducer that leaves null alone, proven', async () => {
    const run = await home.run('apply', 'src/TreeFile.tsx', '--to', 'reducer', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    expect((JSON.parse(run.stdout) as { proof: object }).proof).toMatchObject({ types: 'same', play: 'same' });
    const after = home.read('src/TreeFile.tsx');
    expect(after).toContain(
      'function treeFileReducer(state: TreeRecord | null, action: TreeFileAction): TreeRecord | null {',
    );
    expect(after).toContain('return state && { ...state, ...action.values };');
    // what is loaded takes the place of everything: laid over null it would be lost
    expect(after).toContain("dispatch({ type: 'replaced', next: found })");
    expect(after).toContain('useReducer(treeFileReducer, null)');
  });

  it('come back as one object', async () => {
    const run = await home.run('apply', 'src/TreeFile.tsx', '--to', 'object-state', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const after = home.read('src/TreeFile.tsx');
    expect(after).toContain('const [record, setRecord] = useState<TreeRecord | null>(null);');
    expect(after).toContain('(prev) => prev && { ...prev, variety: event.target.value }');
  });

  it('are left by hand where no variable of its own can be missing', async () => {
    const run = await home.run('preview', 'src/TreeFile.tsx', '--to', 'field-state', '--format', 'json');
    expect(run.code).toBe(1);
    expect(run.stdout).toContain('it lacks remarks until they are set');
  });
});

interface Proven {
  file: string;
  proof: { types: string; play: string; why: string };
  ledger: { entry: string; why: string }[];
}

describe('forms that are filled later', () => {
  const forms = [
    'TreeEditor.tsx',
    'HiveSheet.jsx',
    'PlotDialog.tsx',
    'CrateLabel.tsx',
    'FrostRule.jsx',
    'HarvestRow.tsx',
  ];
  const filled = project();
  filled.copy('test/forms/filled', 'before');
  afterAll(() => filled.remove());

  it('get a start and a flag, and other ways of holding values have a place for these', async () => {
    const to = 'own-hook';
    filled.copy('test/forms/filled', to);
    const files = forms.map((name) => `${to}/${name}`);
    // soak plays them as well
    const proof = process.env['LIVELY_GRAFT_EVERY_PLAY'] === undefined ? 'types' : 'all';
    const run = await filled.run('apply', ...files, '--to', to, '--proof', proof, '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const results = JSON.parse(run.stdout) as Proven[] | { rewrites: Proven[] };
    const all = Array.isArray(results) ? results : results.rewrites;
    expect(all).toHaveLength(forms.length);
    for (const { proof } of all) {
      expect(proof.types, proof.why).not.toBe('worse');
      expect(proof.play, proof.why).not.toBe('different');
    }
    const editor = filled.read(`${to}/TreeEditor.tsx`);
    expect(editor).toContain('const [filled, setFilled] = useState(false);');
    expect(editor).toContain('if (!filled) return <p>Looking for the tree…</p>;');
    // what may be missing fills nothing
    expect(filled.read(`${to}/CrateLabel.tsx`)).toMatch(
      /if \(found\) \w+\(found\);\n\s+setFilled\(Boolean\(found\)\);/,
    );
    const sheet = filled.read(`${to}/HiveSheet.jsx`);
    expect(sheet).toMatch(/then\(\(found\) => \{\n\s+if \(found\) \w+\(found\);\n\s+setFilled\(Boolean\(found\)\);\n/);
    // a case of a reducer that gives null empties the form
    expect(filled.read(`${to}/PlotDialog.tsx`)).toContain('setFilled(false)');
    expect(filled.read(`${to}/FrostRule.jsx`)).toContain('if (!filled) return null;');
    // what is loaded bears the name of the object, and is another one
    expect(filled.read(`${to}/HarvestRow.tsx`)).toMatch(
      /\(\{ \.\.\.row, crates: Number\(row\.crates\) \}\);\n\s+setFilled\(true\);/,
    );
    const label = await filled.run('preview', 'before/CrateLabel.tsx', '--to', 'formik', '--proof', 'none');
    expect(label.code, label.stdout + label.stderr).toBe(0);
    expect(label.stdout).toContain("initialValues: { number: 0, sort: 'Boskoop', weight: null }");
  }, 120_000);
});
