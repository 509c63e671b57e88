import React, { memo, useCallback, useState } from 'react';

interface LadderCheckProps {
  name: string;
  rungs: number[];
  onChecked: (result: { ladder: string; status: string; broken: number[]; length: number; event: string }) => void;
}

/** Every ladder is looked over in spring. */
export const LadderCheck = memo(function LadderCheck({ name, rungs, onChecked }: LadderCheckProps) {
  // the ladder in hand
  const [ladder, setLadder] = useState(name);
  // as painted on its side
  const [status, setStatus] = useState('sound');
  const [broken, setBroken] = useState<number[]>([]);
  const [length, setLength] = useState(4.5); // metres
  const [event, setEvent] = useState('' as string);
  const [touched, setTouched] = useState<Record<string, boolean>>({});

  const dispatch = (what: string) => console.debug(what);
  const state = broken.length > 0 ? 'bad' : 'good';

  const toggle = useCallback(
    (rung: number) => {
      setBroken((before) => {
        // keep them in order
        if (before.includes(rung)) return before.filter((one) => one !== rung);
        return [...before, rung].sort((a, b) => a - b);
      });
    },
    [setBroken],
  );

  const handleSubmit: React.FormEventHandler<HTMLFormElement> = (submitEvent) => {
    submitEvent.preventDefault();
    dispatch('submit');
    const result = { ladder, status, broken, length, event };
    onChecked(result);
    [1, 2].forEach((status) => void status);
    setLadder(name);
    setStatus('sound');
    setBroken([]);
    setLength(4.5);
    setEvent('');
    setTouched({});
  };

  return (
    <form className={`ladder ladder--${state}`} onSubmit={handleSubmit}>
      <label htmlFor="ladder">Ladder</label>
      <input
        id="ladder"
        value={ladder}
        onBlur={() => setTouched((before) => ({ ...before, ladder: true }))}
        onChange={(event) => setLadder(event.target.value)}
      />
      {touched.ladder && !ladder && <span role="alert">Which ladder?</span>}

      {['sound', 'worn', 'firewood'].map((status_) => (
        <label key={status_}>
          <input type="radio" name="status" value={status_} checked={status === status_} onChange={(e) => setStatus(e.target.value)} />
          {status_}
        </label>
      ))}

      {rungs.map((rung) => (
        <label key={rung}>
          <input type="checkbox" checked={broken.includes(rung)} onChange={() => toggle(rung)} /> Rung {rung}
        </label>
      ))}

      <label>
        Length <input type="range" min={2} max={9} step={0.5} value={length} onChange={(e) => setLength(e.target.valueAsNumber)} />
      </label>
      <label>
        Used at <input value={event} onChange={(e) => setEvent(e.target.value)} />
      </label>
      <button type="submit">Checked</button>
    </form>
  );
});
