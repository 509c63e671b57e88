import * as React from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';

function Crates({ count, onCount }) {
  return (
    <span>
      <button type="button" onClick={() => onCount(count - 1)}>
        less
      </button>
      <output>{count}</output>
      <button type="button" onClick={() => onCount(count + 1)}>
        more
      </button>
    </span>
  );
}

export function HarvestLog(props) {
  const { register, control, handleSubmit, reset, formState } = useForm({
    defaultValues: { row: '', crates: 0, windfall: false, share: '' },
    reValidateMode: 'onSubmit',
    shouldFocusError: false,
  });
  const windfall = useWatch({ control, name: 'windfall' });

  function keep(entry) {
    props.onKeep(entry);
    reset();
  }

  return (
    <form onSubmit={handleSubmit(keep)}>
      <input placeholder="Row" {...register('row', { required: 'Which row?', pattern: { value: /^[A-D]/, message: 'A to D' } })} />
      {formState.errors.row && <i>{formState.errors.row.message}</i>}
      <Controller
        control={control}
        name="crates"
        rules={{ validate: (crates) => (crates > 0 ? true : 'At least one crate') }}
        render={({ field, fieldState }) => (
          <p>
            <Crates count={field.value} onCount={(next) => field.onChange(next)} />
            {fieldState.error && <i>{fieldState.error.message}</i>}
          </p>
        )}
      />
      <label>
        <input type="checkbox" {...register('windfall')} /> Windfall
      </label>
      {windfall && (
        <label>
          Share
          <select {...register('share', { required: 'Who gets it?' })}>
            <option value="">-</option>
            <option value="press">The press</option>
            <option value="pigs">The pigs</option>
          </select>
          {formState.errors.share && <i>{formState.errors.share.message}</i>}
        </label>
      )}
      <button>Keep</button>
    </form>
  );
}
