import { useForm, type FieldError, type UseFormRegisterReturn } from 'react-hook-form';

type Loan = { who: string; ladder: string; days: string };

interface RowProps {
  label: string;
  field: UseFormRegisterReturn;
  error?: FieldError;
}

function Row({ label, field, error }: RowProps) {
  return (
    <div className={error ? 'row row--wrong' : 'row'}>
      <label htmlFor={field.name}>{label}</label>
      <input id={field.name} {...field} />
      {error && <small>{error.message}</small>}
    </div>
  );
}

export default function LadderForm({ lend }: { lend: (loan: Loan) => void }) {
  const { register, handleSubmit, formState } = useForm<Loan>({ mode: 'onBlur', defaultValues: { who: '', ladder: '', days: '1' } });
  const { errors } = formState;
  const onSubmit = handleSubmit((loan) => lend(loan));
  return (
    <form onSubmit={onSubmit}>
      <Row label="Who" field={register('who', { required: 'Who takes it?' })} error={errors.who} />
      <Row label="Ladder" field={register('ladder', { required: 'Which one?' })} error={errors.ladder} />
      <Row label="Days" field={register('days', { pattern: { value: /^\d$/, message: 'Nine days at most.' } })} error={errors.days} />
      <button type="submit">Lend</button>
    </form>
  );
}
