import { memo } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import type { SeedOrder } from './seeds';

interface LinesProps {
  most: number;
}

function Lines(props: LinesProps) {
  const { control, register, getValues, formState: { errors } } = useFormContext<SeedOrder>();
  const lines = useFieldArray({ control, name: 'lines' });
  return (
    <ul>
      {lines.fields.map((field, idx) => {
        const wrong = errors.lines?.[idx];
        return (
          <li key={field.id}>
            <input aria-label={`Seed ${idx + 1}`} {...register(`lines.${idx}.seed` as const, { required: `Line ${idx + 1} needs a seed.` })} />
            {wrong?.seed && <b>{wrong.seed.message}</b>}
            <input aria-label={`Bags ${idx + 1}`} {...register(`lines.${idx}.bags` as const)} />
            <button type="button" onClick={() => lines.insert(idx + 1, { ...getValues(`lines.${idx}`) })}>Twice {idx + 1}</button>
            <button type="button" onClick={() => lines.remove(idx)}>Drop {idx + 1}</button>
          </li>
        );
      })}
      {lines.fields.length < props.most && (
        <li><button type="button" onClick={() => lines.append({ seed: '', bags: '' })}>One more</button></li>
      )}
    </ul>
  );
}
export default memo(Lines);
