import { useEffect, useState } from 'react';

interface HarvestRow {
  block: string;
  crates: number;
}

export function HarvestRowForm({ day, load, keep }: { day: string; load(day: string): Promise<{ block: string; crates: string }>; keep(row: HarvestRow): void }) {
  const [row, setRow] = useState<HarvestRow | null>(null);

  useEffect(() => {
    // the server gives texts
    load(day).then((row) => {
      if (row) setRow({ ...row, crates: Number(row.crates) });
    });
  }, [day, load]);

  return (
    <div>
      {row ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            keep(row);
          }}
        >
          <input aria-label="Block" value={row.block} onChange={(e) => setRow({ ...row, block: e.target.value })} />
          <input aria-label="Crates" type="number" value={row.crates} onChange={(e) => setRow({ ...row, crates: Number(e.target.value) })} />
          <button>Keep</button>
        </form>
      ) : (
        <p>One moment</p>
      )}
    </div>
  );
}
