import { useForm } from '@tanstack/react-form';

export interface Sighting {
  tree: string;
  pest: string;
  heads: string;
  urgent: boolean;
}

const nothing: Sighting = { tree: '', pest: 'aphid', heads: '', urgent: false };

export function PestSighting({ report }: { report: (sighting: Sighting) => Promise<void> }) {
  const form = useForm({
    defaultValues: nothing,
    onSubmit: async ({ value }) => {
      await report(value);
      form.reset();
    },
  });

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void form.handleSubmit();
      }}
    >
      <form.Field
        name="tree"
        validators={{
          // trees have a plate with row and number
          onChange: ({ value }) => (!/^[A-H]-\d+$/.test(value) ? 'Like C-14' : undefined),
        }}
      >
        {(field) => (
          <label>
            Tree
            <input value={field.state.value} onChange={(e) => field.handleChange(e.target.value)} onBlur={field.handleBlur} />
            {field.state.meta.isTouched && field.state.meta.errors.length > 0 && <b>{field.state.meta.errors[0]}</b>}
          </label>
        )}
      </form.Field>
      <form.Field name="pest">
        {({ state, handleChange }) => (
          <select aria-label="Pest" value={state.value} onChange={(e) => handleChange(e.target.value)}>
            <option value="aphid">Aphid</option>
            <option value="moth">Moth</option>
          </select>
        )}
      </form.Field>
      <form.Field
        name="heads"
        validators={{
          onChangeListenTo: ['pest'],
          onChange: ({ value, fieldApi }) => {
            const pest = fieldApi.form.getFieldValue('pest');
            // moths are counted by traps
            if (pest === 'moth') return undefined;
            return Number(value) > 0 ? undefined : 'How many?';
          },
        }}
        children={(field) => {
          const wrong = field.state.meta.isTouched && !field.state.meta.isValid;
          return (
            <label className={wrong ? 'wrong' : ''}>
              Heads
              <input
                inputMode="numeric"
                value={field.state.value}
                onBlur={field.handleBlur}
                onChange={({ target }) => field.handleChange(target.value)}
              />
              {wrong && <b>{field.state.meta.errors.join(' ')}</b>}
            </label>
          );
        }}
      />
      <form.Field name="urgent">
        {(field) => (
          <label>
            <input
              type="checkbox"
              checked={field.state.value}
              onChange={(e) => field.handleChange(e.target.checked)}
            />
            Urgent
          </label>
        )}
      </form.Field>
      <form.Subscribe selector={(state) => ({ can: state.canSubmit, busy: state.isSubmitting })}>
        {({ can, busy }) => (
          <button type="submit" disabled={!can || busy}>
            Report
          </button>
        )}
      </form.Subscribe>
    </form>
  );
}
