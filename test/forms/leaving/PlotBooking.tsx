import { useForm, type SubmitHandler } from 'react-hook-form';

type Booking = {
  plot: string;
  keeper: string;
  beds: number;
  from: string;
  tools: string[];
  shared: boolean;
};

const TOOLS = ['spade', 'fork', 'hose'];

const isPlot = (plot: string) => /^[A-F]\d{1,2}$/.test(plot) || 'Like B7';

export function PlotBooking({ book }: { book: (booking: Booking) => Promise<string> }) {
  const form = useForm<Booking>({
    // the co-operative lends two beds at first
    defaultValues: { plot: '', keeper: '', beds: 2, from: '', tools: [], shared: false },
    mode: 'onTouched',
  });
  const { errors, isSubmitting } = form.formState;
  const beds = form.watch('beds');

  const send: SubmitHandler<Booking> = async (booking) => {
    const key = await book(booking);
    if (key === '') form.setError('plot', { message: 'That plot is taken' });
    else form.reset();
  };

  return (
    <form onSubmit={form.handleSubmit(send)}>
      <label>
        Plot
        <input {...form.register('plot', { required: 'Which plot?', validate: isPlot })} />
      </label>
      {errors.plot && <strong>{errors.plot.message}</strong>}
      <label>
        Keeper
        <input
          autoComplete="name"
          {...form.register('keeper', {
            // the list at the gate has room for that
            maxLength: { value: 12, message: 'Twelve letters' },
          })}
        />
      </label>
      <strong>{errors.keeper?.message}</strong>
      <label>
        Beds
        <input
          type="number"
          {...form.register('beds', { valueAsNumber: true, min: { value: 1, message: 'One bed at least' } })}
        />
      </label>
      {errors.beds ? <strong>{errors.beds.message}</strong> : <span>{beds} beds</span>}
      <input type="date" aria-label="From" {...form.register('from')} />
      {TOOLS.map((tool) => (
        <label key={tool}>
          <input type="checkbox" value={tool} {...form.register('tools')} />
          {tool}
        </label>
      ))}
      <label>
        <input type="checkbox" {...form.register('shared')} /> Shared
      </label>
      <button disabled={isSubmitting}>Book</button>
      <button type="button" onClick={() => form.setValue('beds', 4)}>
        Four beds
      </button>
      <button type="button" onClick={() => form.reset()}>
        Clear
      </button>
    </form>
  );
}
