import { useState } from 'react';

interface PressDay {
  keeper: string;
  kilos: number;
  bottles: boolean;
  sort: 'sweet' | 'dry';
  remark: string;
}

// One day at the press.
export default function CiderPress({ onPress, keepers }: { onPress: (day: PressDay) => void; keepers: string[] }) {
  const [day, setDay] = useState<PressDay>({
    keeper: keepers[0] ?? '',
    kilos: 50, // what fits into the press
    bottles: true,
    sort: 'dry',
    remark: '',
  });
  const [open, setOpen] = useState(false);

  function update<K extends keyof PressDay>(key: K, value: PressDay[K]) {
    setDay((current) => ({ ...current, [key]: value }));
  }

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onPress({ ...day, remark: day.remark.trim() });
        setDay((current) => ({ ...current, kilos: 50, remark: '' }));
      }}
    >
      <label>
        Keeper
        <select value={day.keeper} onChange={(event) => update('keeper', event.target.value)}>
          {keepers.map((keeper) => (
            <option key={keeper}>{keeper}</option>
          ))}
        </select>
      </label>
      <label>
        Kilos
        <input type="number" value={day.kilos} onChange={(event) => update('kilos', Number(event.target.value))} />
      </label>
      <button type="button" onClick={() => setDay((current) => ({ ...current, kilos: current.kilos + 10 }))}>
        Ten more
      </button>
      <label>
        <input type="checkbox" checked={day.bottles} onChange={(event) => update('bottles', event.target.checked)} />
        In bottles
      </label>
      <label>
        <input type="radio" checked={day.sort === 'sweet'} onChange={() => update('sort', 'sweet')} /> Sweet
      </label>
      <label>
        <input type="radio" checked={day.sort === 'dry'} onChange={() => update('sort', 'dry')} /> Dry
      </label>
      <button type="button" onClick={() => setOpen(!open)}>
        Remark
      </button>
      {open && <textarea aria-label="Remark" value={day.remark} onChange={(event) => update('remark', event.target.value)} />}
      <p>{day.kilos > 100 ? 'Bring a second keeper' : `About ${day.kilos / 2} litres`}</p>
      <button disabled={!day.keeper || day.kilos < 1}>Press</button>
    </form>
  );
}
