import { afterAll, describe, expect, it } from 'vitest';
import { project } from './tools/project.js';

const form = `import { useState } from 'react';
export function CrateSlip({ send }) {
  const [slip, setSlip] = useState({ row: '', kilos: '' });
  const submit = async (e) => {
    e.preventDefault();
    await send(slip);
    setSlip({ ...slip, kilos: '' });
  };
  return (
    <form onSubmit={submit}>
      <input aria-label="Row" value={slip.row} onChange={(e) => setSlip({ ...slip, row: e.target.value })} />
      <input aria-label="Kilos" value={slip.kilos} onChange={(e) => setSlip({ ...slip, kilos: e.target.value })} />
      <button>Send</button>
    </form>
  );
}
`;

describe('a change that puts older values back', () => {
  const home = project({ 'CrateSlip.jsx': form });
  afterAll(() => home.remove());

  it('puts the same older values back where variables hold them', async () => {
    const run = await home.run('preview', 'CrateSlip.jsx', '--to', 'field-state', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const { files } = JSON.parse(run.stdout) as { files: { after: string }[] };
    expect(files[0]?.after).toContain(
      "const next = { ...slip, kilos: '' };\n    setRow(next.row);\n    setKilos(next.kilos);",
    );
  });

  it('stays what it is where one object takes it as a whole', async () => {
    const run = await home.run('preview', 'CrateSlip.jsx', '--to', 'reducer', '--format', 'json');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    const { files } = JSON.parse(run.stdout) as { files: { after: string }[] };
    expect(files[0]?.after).toContain("dispatch({ type: 'replaced', next: { ...slip, kilos: '' } });");
  });

  it('is rewritten where it is built from the previous values', async () => {
    home.write(
      'CrateSlip.jsx',
      form.replace("setSlip({ ...slip, kilos: '' })", "setSlip((old) => ({ ...old, kilos: '' }))"),
    );
    const run = await home.run('apply', '--proof', 'none', 'CrateSlip.jsx', '--to', 'field-state');
    expect(run.code, run.stdout + run.stderr).toBe(0);
    expect(home.read('CrateSlip.jsx')).toContain("setKilos('');");
  });
});
