import * as React from 'react';
import { useForm } from 'react-hook-form';
import { LabelledInput } from './parts/LabelledInput';

interface Harvest {
  plot: string;
  crates: string;
  note: string;
}

type Props = { onSave: (harvest: Harvest) => void };

export default function HarvestEntry({ onSave }: Props) {
  const {
    register,
    handleSubmit,
    reset,
    formState: { errors, isSubmitting },
  } = useForm<Harvest>({ defaultValues: { plot: '', crates: '', note: '' } });
  const [open, setOpen] = React.useState(false);

  const save = (harvest: Harvest) => {
    onSave(harvest);
    reset();
  };

  return (
    <form onSubmit={handleSubmit(save)} className="harvest">
      <LabelledInput
        label="Plot"
        {...register('plot', { required: 'Which plot was it?' })}
        error={errors.plot?.message}
      />
      <LabelledInput
        label="Crates"
        inputMode="numeric"
        {...register('crates', { required: 'How many crates?', pattern: { value: /^\d+$/, message: 'Figures only' } })}
        error={errors.crates?.message}
      />
      {/* notes are seldom read */}
      <LabelledInput label="Note" {...register('note')} />
      <button type="button" onClick={() => setOpen(!open)}>
        Help
      </button>
      {open && <p>Count full crates only.</p>}
      <button disabled={isSubmitting}>Save</button>
    </form>
  );
}
