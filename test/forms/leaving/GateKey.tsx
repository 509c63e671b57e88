import { useForm } from 'react-hook-form';

interface GateKey {
  holder: string;
  gate: string;
  until: string;
}

export function GateKeyForm({ hand }: { hand: (key: GateKey) => void }) {
  const {
    register,
    handleSubmit,
    resetField,
    setFocus,
    formState: { errors },
  } = useForm<GateKey>({ mode: 'onChange', defaultValues: { holder: '', gate: 'north', until: '' } });

  const clear = () => {
    resetField('holder');
    setFocus('holder');
  };

  return (
    <form onSubmit={handleSubmit(hand)} noValidate>
      <input aria-label="Holder" {...register('holder', { required: 'Who gets it?' })} />
      {errors.holder && <em>{errors.holder.message}</em>}
      <button type="button" onClick={clear}>
        Somebody else
      </button>
      <select aria-label="Gate" {...register('gate')}>
        <option value="north">North</option>
        <option value="mill">Mill</option>
      </select>
      <input aria-label="Until" type="date" {...register('until', { required: 'Until when?' })} />
      {errors.until && <em>{errors.until.message}</em>}
      <button>Hand over</button>
    </form>
  );
}
