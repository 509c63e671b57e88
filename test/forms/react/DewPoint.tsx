import { useReducer, type ChangeEvent, type FormEvent } from 'react';

type Values = { station: string; degrees: string; fog: boolean };

function useReading(start: Values, options: { onDone: (values: Values) => Promise<void>; onFail?: (why: string) => void }) {
  const [values, change] = useReducer((old: Values, part: Partial<Values>) => ({ ...old, ...part }), start);
  const onText = (event: ChangeEvent<HTMLInputElement>) => change({ [event.target.name]: event.target.value });
  const onTick = (event: ChangeEvent<HTMLInputElement>) => change({ fog: event.target.checked });
  async function onSubmit(event: FormEvent) {
    event.preventDefault();
    try {
      await options.onDone(values);
      change(start);
    } catch (error) {
      options.onFail?.(String(error));
    }
  }
  return { values, onText, onTick, onSubmit };
}

export default function DewPoint({ done }: { done: (values: Values) => Promise<void> }) {
  const { values, onText, onTick, onSubmit } = useReading({ station: 'Hill', degrees: '', fog: false }, { onDone: done });
  return (
    <form onSubmit={onSubmit}>
      <input name="station" aria-label="Station" value={values.station} onChange={onText} />
      <input name="degrees" aria-label="Degrees" value={values.degrees} onChange={onText} />
      <label>
        <input type="checkbox" checked={values.fog} onChange={onTick} /> fog
      </label>
      <button type="submit">Note</button>
    </form>
  );
}
