import * as React from 'react';

interface HailForm {
  place: string;
  size: number | '';
  when: string;
  harm: string[];
}

const kinds = ['fruit', 'leaves', 'nets'] as const;

export default function HailCurry({ send }: { send: (form: HailForm) => Promise<{ number: number }> }) {
  const [form, setForm] = React.useState<HailForm>(() => ({ place: '', size: '', when: 'today', harm: [] }));
  const [state, setState] = React.useState<'idle' | 'busy' | 'done' | 'failed'>('idle');
  const [number, setNumber] = React.useState<number>();

  const update =
    <K extends keyof HailForm>(key: K) =>
    (value: HailForm[K]) =>
      setForm((old) => ({ ...old, [key]: value }));

  const toggle = (kind: string) =>
    setForm((old) => ({
      ...old,
      harm: old.harm.includes(kind) ? old.harm.filter((k) => k !== kind) : [...old.harm, kind],
    }));

  const bad = form.size !== '' && form.size > 10;

  return (
    <form
      onSubmit={async (event) => {
        event.preventDefault();
        if (bad) return;
        setState('busy');
        try {
          const answer = await send(form);
          setNumber(answer.number);
          setState('done');
        } catch {
          setState('failed');
        }
      }}
    >
      <input aria-label="Place" value={form.place} onChange={(e) => update('place')(e.target.value)} />
      <input
        aria-label="Size in cm"
        type="number"
        value={form.size}
        onChange={(e) => update('size')(e.target.value === '' ? '' : e.target.valueAsNumber)}
      />
      {bad && <strong>No hail is that big</strong>}
      {['today', 'yesterday'].map((day) => (
        <label key={day}>
          <input type="radio" name="when" checked={form.when === day} onChange={() => update('when')(day)} />
          {day}
        </label>
      ))}
      {kinds.map((kind) => (
        <label key={kind}>
          <input type="checkbox" checked={form.harm.includes(kind)} onChange={() => toggle(kind)} /> {kind}
        </label>
      ))}
      <button disabled={state === 'busy' || bad}>{state === 'busy' ? 'Sending…' : 'Send'}</button>
      {state === 'done' && <p>Kept as {number}</p>}
      {state === 'failed' && <p role="alert">Not sent</p>}
    </form>
  );
}
