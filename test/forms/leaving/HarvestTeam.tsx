import { useEffect } from 'react';
import { useFieldArray, useForm, type Control, type UseFormRegister, type FieldErrors } from 'react-hook-form';

interface Team {
  day: string;
  pickers: { name: string; own: boolean }[];
}

function Pickers({ control, register, errors }: { control: Control<Team>; register: UseFormRegister<Team>; errors: FieldErrors<Team> }) {
  const { fields, append, remove } = useFieldArray({ control, name: 'pickers' });
  return (
    <ul>
      {fields.map((item, index) => (
        <li key={item.id}>
          <input aria-label={`Picker ${index + 1}`} {...register(`pickers.${index}.name`, { required: 'Name?' })} />
          {errors.pickers?.[index]?.name?.message}
          <label>
            <input type="checkbox" {...register(`pickers.${index}.own`)} /> own basket
          </label>
          <button type="button" onClick={() => remove(index)}>−</button>
        </li>
      ))}
      <button type="button" onClick={() => append({ name: '', own: true })}>+</button>
    </ul>
  );
}

export function HarvestTeam({ team, save }: { team?: Team; save: (team: Team) => void }) {
  const { control, register, handleSubmit, reset, formState: { errors, isDirty } } = useForm<Team>({
    defaultValues: { day: '', pickers: [] },
  });

  useEffect(() => {
    if (team) reset(team);
  }, [team, reset]);

  return (
    <form onSubmit={handleSubmit(save)}>
      <input type="date" aria-label="Day" {...register('day', { required: true })} />
      {errors.day?.type === 'required' && <span>Which day?</span>}
      <Pickers control={control} register={register} errors={errors} />
      <button disabled={!isDirty}>Save</button>
    </form>
  );
}
