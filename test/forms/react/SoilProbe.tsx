import { useReducer } from 'react';
import type { ChangeEvent, FormEvent } from 'react';
import { probeReducer, emptyProbe, depthChanged, type ProbeState } from './parts/probe';

type Props = { onProbe: (probe: ProbeState) => void };

export function SoilProbe({ onProbe }: Props) {
  const [probe, send] = useReducer(probeReducer, emptyProbe);

  function handleText(event: ChangeEvent<HTMLInputElement>) {
    send({ type: 'text', payload: { plot: event.target.value } });
  }

  const onSubmit = (event: FormEvent) => {
    event.preventDefault();
    onProbe(probe);
    send({ type: 'cleared' });
  };

  return (
    <form onSubmit={onSubmit}>
      <label>
        Plot <input value={probe.plot} onChange={handleText} />
      </label>
      <label>
        Depth
        <input type="number" value={probe.depth} onChange={(e) => send(depthChanged(Number(e.target.value)))} />
      </label>
      <label>
        <input type="checkbox" checked={probe.wet} onChange={() => send({ type: 'wet' })} /> Wet
      </label>
      <button>Keep probe</button>
    </form>
  );
}
