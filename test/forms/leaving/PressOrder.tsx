import { useForm } from 'react-hook-form';

interface Order {
  grower: { name: string; village: string };
  apples: { sort: string; kilos: number; washed: boolean };
  note: string;
}

export function PressOrder({ onSend }: { onSend: (order: Order) => Promise<void> }) {
  const {
    register,
    handleSubmit,
    watch,
    reset,
    setError,
    formState: { errors, isSubmitting },
  } = useForm<Order>({
    defaultValues: { grower: { name: '', village: '' }, apples: { sort: '', kilos: 50, washed: false }, note: '' },
  });

  const send = async (order: Order) => {
    try {
      await onSend(order);
      reset();
    } catch {
      setError('root.server', { message: 'The press does not answer.' });
    }
  };

  return (
    <form onSubmit={handleSubmit(send)} noValidate>
      {errors.root?.server && <p role="alert">{errors.root.server.message}</p>}
      <input placeholder="Name" {...register('grower.name', { required: 'Who brings apples?' })} />
      {errors.grower?.name && <span>{errors.grower.name.message}</span>}
      <input placeholder="Village" {...register('grower.village')} />
      <select aria-label="Sort" {...register('apples.sort', { required: 'Which sort?' })}>
        <option value="">Choose</option>
        <option>Boskoop</option>
        <option>Topaz</option>
      </select>
      {errors.apples?.sort?.message && <span>{errors.apples.sort.message}</span>}
      <input type="number" placeholder="Kilos" {...register('apples.kilos', { valueAsNumber: true, min: { value: 50, message: 'Fifty at least.' } })} />
      {errors.apples?.kilos && <span>{errors.apples.kilos.message}</span>}
      <label>
        <input type="checkbox" {...register('apples.washed')} /> Washed
      </label>
      <p>{watch('apples.kilos') * 0.6} litres about</p>
      <textarea placeholder="Note" {...register('note')} />
      <button disabled={isSubmitting}>Book the press</button>
    </form>
  );
}
