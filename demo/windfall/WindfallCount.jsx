import { useState } from 'react';

// a crate holds twelve kilos of windfall
export function WindfallCount({ report }) {
  const [kilos, setKilos] = useState(0);
  const [crates, setCrates] = useState(0);
  const [row, setRow] = useState('');

  const more = () =>
    setKilos((old) => {
      setCrates(Math.ceil((old + 1) / 12));
      return old + 1;
    });

  function send(event) {
    event.preventDefault();
    report({ row, kilos, crates });
  }

  return (
    <form onSubmit={send}>
      <label>
        Row <input value={row} onChange={(e) => setRow(e.target.value)} />
      </label>
      <label>
        Crates <input type="number" value={crates} onChange={(e) => setCrates(Number(e.target.value))} />
      </label>
      <p>{kilos} kg</p>
      <button type="button" onClick={more}>
        One kilo more
      </button>
      <button disabled={row === ''}>Report</button>
    </form>
  );
}
