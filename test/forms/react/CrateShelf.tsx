import { useState } from 'react';
const blank = { row: '', kilos: '' };
export function CrateShelf({ send }: { send: (crate: { row: string; kilos: string }) => void }) {
  const [crate, setCrate] = useState(blank);
  const [sent, setSent] = useState(false);
  const clear = () => {
    if (sent) setCrate({ row: 'A', kilos: '1' });

  };
  return (
    <form onSubmit={(e) => { e.preventDefault(); send(crate); setSent(true); }}>
      <input value={crate.row} onChange={(e) => setCrate({ ...crate, row: e.target.value })} />
      <input value={crate.kilos} onChange={(e) => setCrate({ ...crate, kilos: e.target.value })} />
      <button type="button" onClick={clear}>Clear</button>
      <button>Send</button>
    </form>
  );
}
