import { useCallback, useMemo, useState, type ChangeEvent } from 'react';

type Errors<T> = Partial<Record<keyof T, string>>;

function useLampEntry<T extends object>(initial: T, validate: (values: T) => Errors<T>) {
  const [values, setValues] = useState(initial);
  const [seen, setSeen] = useState<Partial<Record<keyof T, boolean>>>({});
  const errors = useMemo(() => validate(values), [values, validate]);
  const set = useCallback(<K extends keyof T>(key: K, value: T[K]) => setValues((v) => ({ ...v, [key]: value })), []);
  const bind = (key: keyof T) => ({
    name: String(key),
    value: String(values[key]),
    onChange: (e: ChangeEvent<HTMLInputElement>) => set(key, e.target.value as T[typeof key]),
    onBlur: () => setSeen((s) => ({ ...s, [key]: true })),
  });
  const reset = () => {
    setValues(initial);
    setSeen({});
  };
  return { values, errors, seen, set, bind, reset, valid: Object.keys(errors).length === 0 };
}

interface Watch {
  post: string;
  from: string;
  until: string;
}

const blank: Watch = { post: '', from: '22:00', until: '06:00' };

const problems = (w: Watch): Errors<Watch> => ({
  ...(w.post ? {} : { post: 'Which post?' }),
  ...(w.from === w.until ? { until: 'Too short' } : {}),
});

export const WireLamp = ({ enter }: { enter(watch: Watch): void }) => {
  const { values, errors, seen, bind, reset, valid } = useLampEntry(blank, problems);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (!valid) return;
        enter(values);
        reset();
      }}
    >
      <input placeholder="Post" {...bind('post')} />
      {seen.post && errors.post && <i>{errors.post}</i>}
      <input type="time" {...bind('from')} />
      <input type="time" {...bind('until')} />
      {errors.until && <i>{errors.until}</i>}
      <button disabled={!valid}>Enter</button>
    </form>
  );
};
