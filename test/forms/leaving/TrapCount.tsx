import { useForm, SubmitHandler } from 'react-hook-form';

type Inputs = {
  row: string;
  count: number;
  kind: 'larva' | 'moth';
};

export function TrapCount({ save }: { save: (inputs: Inputs) => void }) {
  const { register, handleSubmit, watch, reset, formState: { errors, isSubmitSuccessful } } = useForm<Inputs>();
  const onSubmit: SubmitHandler<Inputs> = (data) => {
    save(data);
    reset();
  };
  return (
    <form onSubmit={handleSubmit(onSubmit)}>
      <label htmlFor="row">Row</label>
      <input id="row" {...register('row', { required: 'Which row?' })} />
      {errors.row && <p>{errors.row.message}</p>}
      <label htmlFor="count">Count</label>
      <input id="count" type="number" {...register('count', { valueAsNumber: true, min: { value: 1, message: 'One at least' } })} />
      {errors.count && <p>{errors.count.message}</p>}
      <label htmlFor="kind">Kind</label>
      <select id="kind" {...register('kind')}>
        <option value="larva">Larva</option>
        <option value="moth">Moth</option>
      </select>
      {watch('kind') === 'moth' && <p>Hang a trap.</p>}
      <button type="submit">Save</button>
    </form>
  );
}
