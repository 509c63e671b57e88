import { useForm, useStore } from '@tanstack/react-form';

type PressDayProps = { days: string[]; onBook(day: { day: string; kilos: number; jars: string[]; own: boolean }): void };

export default function PressDay({ days, onBook }: PressDayProps) {
  const form = useForm({
    defaultValues: { day: '', kilos: 0, jars: [] as string[], own: true },
    onSubmit: ({ value: booking }) => {
      onBook(booking);
    },
  });
  const kilos = useStore(form.store, (state) => state.values.kilos);

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        form.handleSubmit();
      }}
    >
      <form.Field name="day" validators={{ onBlur: ({ value }) => (value === '' ? 'Choose a day' : undefined) }}>
        {(day) => (
          <p>
            <select value={day.state.value} onBlur={day.handleBlur} onChange={(event) => day.handleChange(event.target.value)}>
              <option value="">…</option>
              {days.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
            {!day.state.meta.isValid && <em>{day.state.meta.errors.join(', ')}</em>}
          </p>
        )}
      </form.Field>
      <form.Field name="kilos">
        {(field) => (
          <input
            type="number"
            value={field.state.value}
            onChange={(event) => field.handleChange(event.target.valueAsNumber || 0)}
          />
        )}
      </form.Field>
      <p>{kilos > 100 ? 'That takes the big press' : `${kilos} kg`}</p>
      <form.Field name="own">
        {(field) => (
          <label>
            <input type="checkbox" checked={field.state.value} onChange={(e) => field.handleChange(e.target.checked)} />
            Own jars
          </label>
        )}
      </form.Field>
      <button type="button" onClick={() => form.setFieldValue('kilos', 50)}>
        Fifty
      </button>
      <button type="submit">Book</button>
    </form>
  );
}
