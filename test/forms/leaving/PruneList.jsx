import { yupResolver } from '@hookform/resolvers/yup';
import { useFieldArray, useForm } from 'react-hook-form';
import * as yup from 'yup';

const schema = yup.object({
  crew: yup.string().required('Which crew?'),
  rows: yup.array().of(yup.object({ row: yup.string().matches(/^[A-F]\d+$/, 'Like B7.'), ladders: yup.string() })),
});

export function PruneList(props) {
  const { register, control, handleSubmit, setValue, getValues, formState: { errors } } = useForm({
    resolver: yupResolver(schema),
    defaultValues: { crew: '', rows: [{ row: 'A1', ladders: '2' }, { row: '', ladders: '' }] },
  });
  const { fields, prepend, insert, remove } = useFieldArray({ name: 'rows', control });

  return (
    <form onSubmit={handleSubmit(props.onPlan)} noValidate>
      <label>Crew <input {...register('crew')} /></label>
      {errors.crew?.message}
      {fields.map((f, i) => (
        <p key={f.id}>
          <input aria-label={`Row ${i}`} {...register(`rows.${i}.row`)} />
          <span>{errors.rows?.[i]?.row?.message}</span>
          <input aria-label={`Ladders ${i}`} {...register(`rows.${i}.ladders`)} />
          <button type="button" onClick={() => insert(i + 1, getValues(`rows.${i}`), { shouldFocus: false })}>Same again {i}</button>
          <button type="button" onClick={() => setValue(`rows.${i}.ladders`, '0')}>No ladder {i}</button>
          <button type="button" onClick={() => remove(i)}>Drop {i}</button>
        </p>
      ))}
      <button type="button" onClick={() => prepend({ row: '', ladders: '' })}>First</button>
      <button>Plan</button>
    </form>
  );
}
