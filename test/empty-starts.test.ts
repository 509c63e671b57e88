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

  it.each(['field-state', 'own-hook', 'declared-schema'])('are left by hand on the way to %s', async (to) => {
    const run = await home.run('preview', 'src/TreeFile.tsx', '--to', to, '--format', 'json');
    expect(run.code).toBe(1);
    const { ledger } = JSON.parse(run.stdout) as { ledger: { entry: string; line: number; why: string }[] };
    const entries = ledger.filter(({ entry }) => entry === 'by-hand');
    expect(entries).toContainEqual(
      expect.objectContaining({ why: expect.stringContaining('there are no values until it is filled') as string }),
    );
  });
});
