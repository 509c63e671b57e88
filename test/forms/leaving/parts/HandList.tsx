import { useFieldArray, useFormContext } from 'react-hook-form';
import type { Team } from './team';

export const HandList = () => {
  const form = useFormContext<Team>();
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'hands' });
  const errors = form.formState.errors.hands;
  return (
    <>
      {fields.map((hand, i) => (
        <div key={hand.id}>
          <input aria-label={`Hand ${i + 1}`} {...form.register(`hands.${i}.name`, { required: 'Who?' })} />
          {errors?.[i]?.name && <small>{errors[i]?.name?.message}</small>}
          <input aria-label={`Hours ${i + 1}`} {...form.register(`hands.${i}.hours`)} />
          <button type="button" onClick={() => remove(i)}>
            Remove {i + 1}
          </button>
        </div>
      ))}
      <button type="button" onClick={() => append({ name: '', hours: '' })}>
        Add a hand
      </button>
    </>
  );
};
