import { useState, type FormEvent } from 'react';

interface Key {
  keeper: string;
  days: number;
  spare: boolean;
  gate: string;
}

export function GateKey({ lend }: { lend: (key: Key) => Promise<void> }) {
  const [keeper, setKeeper] = useState('');
  const [days, setDays] = useState(1);
  const [spare, setSpare] = useState(false);
  const [gate, setGate] = useState('north');
  const [errors, setErrors] = useState<{ keeper?: string; days?: string }>({});
  const [busy, setBusy] = useState(false);
  const [lent, setLent] = useState(0);

  const send = async (e: FormEvent) => {
    e.preventDefault();
    const found: typeof errors = {};
    if (!keeper.trim()) found.keeper = 'Who keeps the key?';
    if (days > 14) found.days = 'Two weeks at most';
    setErrors(found);
    if (found.keeper || found.days) return;
    setBusy(true);
    await lend({ keeper: keeper.trim(), days, spare, gate });
    setBusy(false);
    setLent((n) => n + 1);
    setKeeper('');
    setDays(1);
    setSpare(false);
  };

  return (
    <form onSubmit={send}>
      <label htmlFor="keeper">Keeper</label>
      <input id="keeper" className={errors.keeper ? 'bad' : 'good'} value={keeper} onChange={(e) => setKeeper(e.target.value)} />
      {errors.keeper && <p>{errors.keeper}</p>}
      <label htmlFor="days">Days</label>
      <input id="days" type="number" value={days} onChange={(e) => setDays(Number(e.target.value))} />
      {errors.days && <p>{errors.days}</p>}
      <label>
        <input type="checkbox" checked={spare} onChange={(e) => setSpare(e.target.checked)} /> Spare key
      </label>
      <select aria-label="Gate" value={gate} onChange={(e) => setGate(e.target.value)}>
        <option value="north">North gate</option>
        <option value="river">River gate</option>
      </select>
      <p>Lent today: {lent}</p>
      <button disabled={busy}>Lend</button>
    </form>
  );
}
