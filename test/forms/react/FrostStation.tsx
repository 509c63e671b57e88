import { useState } from 'react';
import type { FormEvent } from 'react';

export interface Watch {
  station: string;
  low: number | null;
  note: string;
}

interface Saved {
  station: string;
  low?: number;
}

function toForm(saved: Saved): Watch {
  return { station: saved.station, low: saved.low ?? null, note: '' };
}

export function FrostStation({ saved, keep }: { saved: Saved; keep: (watch: Watch) => void }) {
  const [watch, setWatch] = useState(() => toForm(saved));
  const [tried, setTried] = useState(false);

  function change<K extends keyof Watch>(key: K, value: Watch[K]) {
    setWatch((old) => ({ ...old, [key]: value }));
  }

  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (!watch.station) return;
    keep(watch);
    setWatch(toForm(saved));
    setTried(false);
  };

  return (
    <form onSubmit={submit}>
      <label>
        Station
        <input value={watch.station} onChange={(e) => change('station', e.target.value)} />
      </label>
      {tried && !watch.station && <p>Which station?</p>}
      <input
        type="number"
        aria-label="Lowest"
        value={watch.low ?? ''}
        onChange={(e) => change('low', e.target.value === '' ? null : Number(e.target.value))}
      />
      <textarea value={watch.note} onChange={(e) => setWatch({ ...watch, note: e.target.value })} />
      <button type="button" onClick={() => setWatch(toForm(saved))}>
        Back
      </button>
      <button>Keep</button>
    </form>
  );
}
