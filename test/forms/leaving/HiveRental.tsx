import { useState } from 'react';
import { useForm, type SubmitHandler } from 'react-hook-form';
import { zodResolver } from '@hookform/resolvers/zod';
import { z } from 'zod';

const rentalSchema = z
  .object({
    keeper: z.string().trim().min(1, 'Who keeps the bees?').max(20, 'A shorter name, please'),
    hives: z.number({ message: 'How many hives?' }).int('Whole hives only').min(1, 'At least one hive'),
    from: z.string().min(1, 'From which day?'),
    until: z.string().min(1, 'Until which day?'),
    kind: z.enum(['apple', 'cherry']),
    // the insurance wants to know
    stings: z.boolean().refine((known) => known, 'Bees sting: please say so'),
  })
  .refine(({ from, until }) => from === '' || until === '' || until >= from, {
    path: ['until'],
    message: 'It ends before it begins',
  });

type Rental = z.infer<typeof rentalSchema>;

interface HiveRentalProps {
  rent: (rental: Rental) => Promise<string>;
}

export function HiveRental({ rent }: HiveRentalProps) {
  const [receipt, setReceipt] = useState('');
  const {
    register,
    handleSubmit,
    reset,
    setError,
    formState: { errors, isSubmitting },
  } = useForm<Rental>({
    resolver: zodResolver(rentalSchema),
    mode: 'onTouched',
    defaultValues: { keeper: '', hives: 2, from: '', until: '', kind: 'apple', stings: false },
  });

  const onSubmit: SubmitHandler<Rental> = async (data) => {
    try {
      setReceipt(await rent(data));
      reset();
    } catch {
      setError('root', { message: 'The apiary did not answer' });
    }
  };

  return (
    <form onSubmit={handleSubmit(onSubmit)} noValidate>
      {errors.root && <p role="alert">{errors.root.message}</p>}
      <label>
        Keeper
        <input {...register('keeper')} />
      </label>
      {errors.keeper && <p>{errors.keeper.message}</p>}
      <label>
        Hives
        <input type="number" {...register('hives', { valueAsNumber: true })} />
      </label>
      {errors.hives && <p>{errors.hives.message}</p>}
      <label>
        From
        <input type="date" {...register('from')} />
      </label>
      {errors.from && <p>{errors.from.message}</p>}
      <label>
        Until
        <input type="date" {...register('until')} />
      </label>
      {errors.until && <p>{errors.until.message}</p>}
      <label>
        Blossom
        <select {...register('kind')}>
          <option value="apple">Apple</option>
          <option value="cherry">Cherry</option>
        </select>
      </label>
      <label>
        <input type="checkbox" {...register('stings')} /> I know that bees sting
      </label>
      {errors.stings && <p>{errors.stings.message}</p>}
      <button type="submit" disabled={isSubmitting}>
        Rent
      </button>
      {receipt && <output>{receipt}</output>}
    </form>
  );
}
