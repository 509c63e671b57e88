import { useForm } from 'react-hook-form';

interface Rack {
  keeper: string;
  jars: string;
}

type Props = { rent: (rack: Rack) => Promise<void>; onDone: () => void };

export const RackRental = ({ rent, onDone }: Props) => {
  const form = useForm<Rack>({ defaultValues: { keeper: '', jars: '' } });

  // the rack is held for a day
  const handleSubmit = form.handleSubmit(async (rack) => {
    await rent(rack);
    onDone();
  });

  return (
    <form onSubmit={handleSubmit} className="rack">
      <input aria-label="Keeper" {...form.register('keeper', { required: 'Who are you?' })} />
      {form.formState.errors.keeper && <b>{form.formState.errors.keeper.message}</b>}
      <input aria-label="Jars" {...form.register('jars', { pattern: { value: /^\d+$/, message: 'Count them' } })} />
      {form.formState.errors['jars'] !== undefined && <b>{form.formState.errors['jars'].message}</b>}
      <button disabled={form.formState.isSubmitting || !form.formState.isDirty}>Rent</button>
    </form>
  );
};
