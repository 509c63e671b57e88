import { useCallback, useMemo, useState } from 'react';

export interface Grazing {
  animal: 'sheep' | 'geese';
  count: number;
  plot: { number: string; fenced: boolean };
  since?: string;
}

interface GrazingDialogProps {
  initial?: Partial<Grazing>;
  open: boolean;
  onCancel?: VoidFunction;
  onConfirm(value: Grazing): void;
}

const DEFAULTS: Grazing = { animal: 'sheep', count: 10, plot: { number: '', fenced: true } };

export function GrazingDialog({ initial, open, onCancel, onConfirm }: GrazingDialogProps) {
  const [value, setValue] = useState<Grazing>(() => ({ ...DEFAULTS, ...initial }));
  const [showMore, setShowMore] = useState(false);

  const update = useCallback(<K extends keyof Grazing>(key: K, next: Grazing[K]) => {
    setValue((prev) => ({ ...prev, [key]: next }));
  }, []);

  const updatePlot = (patch: Partial<Grazing['plot']>) => update('plot', { ...value.plot, ...patch });

  const error = useMemo(() => {
    if (!value.plot.number.match(/^\d+$/)) return 'The plot is a number';
    if (value.count <= 0) return 'At least one animal';
    if (value.animal === 'geese' && !value.plot.fenced) return 'Geese need a fence';
    return null;
  }, [value]);

  if (!open) return null;

  return (
    <div role="dialog">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (!error) onConfirm(value);
        }}
        onReset={() => setValue({ ...DEFAULTS, ...initial })}
      >
        <div role="radiogroup">
          {(['sheep', 'geese'] as const).map((a) => (
            <label key={a}>
              <input type="radio" name="animal" checked={value.animal === a} onChange={() => update('animal', a)} /> {a}
            </label>
          ))}
        </div>
        <input type="number" aria-label="How many" value={value.count} onChange={(e) => update('count', +e.target.value)} />
        <input aria-label="Plot" value={value.plot.number} onChange={(e) => updatePlot({ number: e.target.value })} />
        <label>
          <input type="checkbox" checked={value.plot.fenced} onChange={(e) => updatePlot({ fenced: e.target.checked })} />
          Fenced
        </label>
        <button type="button" onClick={() => setShowMore((s) => !s)}>{showMore ? 'Less' : 'More'}</button>
        {showMore && (
          <input
            type="date"
            aria-label="Since"
            value={value.since ?? ''}
            onChange={(e) => update('since', e.target.value || undefined)}
          />
        )}
        {error && <p>{error}</p>}
        <button type="reset">Reset</button>
        <button type="button" onClick={onCancel}>Cancel</button>
        <button type="submit" disabled={!!error}>OK</button>
      </form>
    </div>
  );
}
