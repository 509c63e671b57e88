import { useFormContext } from 'react-hook-form';
import type { SeedOrder } from './seeds';

export function AddressBlock() {
  const { register, formState } = useFormContext<SeedOrder>();
  const { errors } = formState;
  return (
    <div>
      <input aria-label="Street" {...register('address.street')} />
      <input aria-label="Town" {...register('address.town', { required: 'Which town?' })} />
      {errors.address?.town && <i>{errors.address.town.message}</i>}
    </div>
  );
}
