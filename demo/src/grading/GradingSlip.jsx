import { useState } from 'react';

const empty = { class: 'I', kilos: '', bruised: false };

// apples are sold by class: extra, I and II
export function GradingSlip({ onGraded }) {
  const [slip, setSlip] = useState(empty);

  function grade(event) {
    event.preventDefault();
    onGraded({ ...slip, kilos: Number(slip.kilos) });
    setSlip(empty);
  }

  return (
    <form onSubmit={grade}>
      <label>
        Class
        <select value={slip.class} onChange={(e) => setSlip({ ...slip, class: e.target.value })}>
          <option>extra</option>
          <option>I</option>
          <option>II</option>
        </select>
      </label>
      <label>
        Kilos
        <input inputMode="numeric" value={slip.kilos} onChange={(e) => setSlip({ ...slip, kilos: e.target.value })} />
      </label>
      <label>
        <input
          type="checkbox"
          checked={slip.bruised}
          onChange={(e) => setSlip({ ...slip, bruised: e.target.checked })}
        />
        Some are bruised
      </label>
      <button disabled={!slip.kilos}>Grade</button>
    </form>
  );
}
