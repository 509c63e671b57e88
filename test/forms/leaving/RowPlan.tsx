import { useState } from 'react';
import { useForm } from 'react-hook-form';

interface RowPlan {
  crop: 'apple' | 'plum' | 'pear';
  stock: string;
  trees: string;
  staked: boolean;
}

const blank: RowPlan = { crop: 'apple', stock: 'M9', trees: '', staked: true };

export default function RowPlanner({ plan }: { plan: (row: RowPlan) => void }) {
  const [hint, setHint] = useState('');
  const { register, handleSubmit, setValue, watch, formState } = useForm<RowPlan>({ defaultValues: blank, mode: 'onBlur' });
  const { errors, touchedFields } = formState;
  const crop = watch('crop');

  function warn() {
    setHint('Something is missing');
  }

  return (
    <form
      onSubmit={handleSubmit((row) => {
        setHint('');
        plan(row);
      }, warn)}
    >
      {hint && <p className="hint">{hint}</p>}
      <label htmlFor="crop">Crop</label>
      <select
        id="crop"
        {...register('crop', {
          // plums are never grafted on M9
          onChange: (e) => {
            setValue('stock', e.target.value === 'plum' ? 'St. Julien' : 'M9');
            setHint('');
          },
        })}
      >
        <option value="apple">Apple</option>
        <option value="plum">Plum</option>
        <option value="pear">Pear</option>
      </select>
      {crop !== 'pear' && <input aria-label="Stock" {...register('stock', { required: 'Which stock?' })} />}
      {errors.stock && <em>{errors.stock.message}</em>}
      <input
        aria-label="Trees"
        className={touchedFields.trees ? 'left' : 'fresh'}
        {...register('trees', {
          required: 'How many trees?',
          pattern: { value: /^\d+$/, message: 'A whole number' },
          onChange: () => setHint(''),
        })}
      />
      {errors.trees && <em>{errors.trees.message}</em>}
      <label>
        <input type="checkbox" {...register('staked', { onChange: (event) => setHint(event.target.checked ? '' : 'Wind!') })} />
        Staked
      </label>
      <button type="submit">Plan</button>
    </form>
  );
}
