import { Controller, useController, useForm, useFormState, type Control } from 'react-hook-form';

type Sighting = { pest: string; leaves: number; where: string; seen: string };

function Stepper({ control }: { control: Control<Sighting> }) {
  const { field, fieldState } = useController({ control, name: 'leaves', rules: { min: { value: 1, message: 'One leaf at least.' } } });
  return (
    <div>
      <button type="button" onClick={() => field.onChange(field.value - 1)}>Fewer</button>
      <output>{field.value}</output>
      <button type="button" onClick={() => field.onChange(field.value + 1)}>More</button>
      {fieldState.error && <em>{fieldState.error.message}</em>}
    </div>
  );
}

function Told({ control }: { control: Control<Sighting> }) {
  const { errors, isDirty } = useFormState({ control });
  if (!isDirty) return <p>Nothing yet</p>;
  return <p>{errors.pest ? errors.pest.message : 'Fine so far'}</p>;
}

export function SightingForm({ report }: { report: (sighting: Sighting) => void }) {
  const { control, register, handleSubmit } = useForm<Sighting>({
    defaultValues: { pest: '', leaves: 0, where: '', seen: '' },
  });
  return (
    <form onSubmit={handleSubmit(report)}>
      <Controller
        name="pest"
        control={control}
        rules={{ required: 'Which pest?' }}
        render={({ field, fieldState: { error } }) => (
          <label>
            Pest <input {...field} />
            {error && <em>{error.message}</em>}
          </label>
        )}
      />
      <Stepper control={control} />
      <input aria-label="Where" {...register('where')} />
      <input type="date" aria-label="Seen" {...register('seen')} />
      <Told control={control} />
      <button>Report</button>
    </form>
  );
}
