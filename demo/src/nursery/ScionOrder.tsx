import { useState } from 'react';
import { useForm } from 'react-hook-form';

interface ScionOrder {
  variety: string;
  bundles: string;
  collect: 'market' | 'gate';
  day: string;
  labelled: boolean;
}

interface Props {
  order(scions: ScionOrder): Promise<void>;
}

/** Orders scion wood from the nursery for the grafting days. */
export function ScionOrderForm({ order }: Props) {
  const [ordered, setOrdered] = useState(0);
  const {
    register,
    handleSubmit,
    reset,
    watch,
    formState: { errors, isSubmitting },
  } = useForm<ScionOrder>({
    defaultValues: { variety: '', bundles: '1', collect: 'market', day: '', labelled: false },
  });
  const collect = watch('collect');

  const send = async (scions: ScionOrder) => {
    await order(scions);
    setOrdered((count) => count + 1);
    reset();
  };

  return (
    <form onSubmit={handleSubmit(send)} noValidate>
      <label htmlFor="variety">Variety</label>
      <input
        id="variety"
        {...register('variety', {
          required: 'Which variety?',
          maxLength: { value: 24, message: 'The label has room for 24 letters' },
        })}
      />
      {errors.variety && <p role="alert">{errors.variety.message}</p>}

      <label htmlFor="bundles">Bundles</label>
      <input
        id="bundles"
        inputMode="numeric"
        {...register('bundles', {
          // a bundle is ten sticks
          validate: (bundles) => /^[1-9]\d?$/.test(bundles) || 'Between 1 and 99 bundles',
        })}
      />
      {errors.bundles && <p role="alert">{errors.bundles.message}</p>}

      <label>
        <input type="radio" value="market" {...register('collect')} /> At the market
      </label>
      <label>
        <input type="radio" value="gate" {...register('collect')} /> At the gate
      </label>

      {collect === 'gate' && (
        <>
          <label htmlFor="day">Day</label>
          <input id="day" type="date" {...register('day', { required: 'Which day do you come?' })} />
          {errors.day && <p role="alert">{errors.day.message}</p>}
        </>
      )}

      <label>
        <input type="checkbox" {...register('labelled')} /> With labels
      </label>

      <button type="submit" disabled={isSubmitting}>
        {isSubmitting ? 'Ordering…' : 'Order'}
      </button>
      <p>{ordered} ordered today</p>
    </form>
  );
}
