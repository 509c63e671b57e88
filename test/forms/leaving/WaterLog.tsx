import { useForm } from '@tanstack/react-form';
import type { AnyFieldApi } from '@tanstack/react-form';

function FieldInfo({ field }: { field: AnyFieldApi }) {
  return (
    <>
      {field.state.meta.isTouched && !field.state.meta.isValid ? <em>{field.state.meta.errors.join(', ')}</em> : null}
      {field.state.meta.isValidating ? 'Validating...' : null}
    </>
  );
}

export default function WaterLog({ log }: { log: (entry: { meter: string; litres: number }) => void }) {
  const form = useForm({
    defaultValues: { meter: '', litres: 0 },
    onSubmit: async ({ value }) => {
      log(value);
    },
  });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        e.stopPropagation();
        form.handleSubmit();
      }}
    >
      <div>
        <form.Field
          name="meter"
          validators={{
            onChange: ({ value }) => (!value ? 'Which meter?' : value.length < 3 ? 'Three letters at least' : undefined),
          }}
          children={(field) => (
            <>
              <label htmlFor={field.name}>Meter</label>
              <input
                id={field.name}
                name={field.name}
                value={field.state.value}
                onBlur={field.handleBlur}
                onChange={(e) => field.handleChange(e.target.value)}
              />
              <FieldInfo field={field} />
            </>
          )}
        />
      </div>
      <form.Field name="litres">
        {(field) => (
          <label>
            Litres
            <input
              type="number"
              value={field.state.value}
              onBlur={field.handleBlur}
              onChange={(e) => field.handleChange(e.target.valueAsNumber)}
            />
            <FieldInfo field={field} />
          </label>
        )}
      </form.Field>
      <form.Subscribe
        selector={(state) => [state.canSubmit, state.isSubmitting]}
        children={([canSubmit, isSubmitting]) => (
          <button type="submit" disabled={!canSubmit}>
            {isSubmitting ? '...' : 'Log'}
          </button>
        )}
      />
    </form>
  );
}
