import { useFormContext } from 'react-hook-form';
import type { Team } from './team';

interface HeadProps {
  title: string;
}

export default function PlotHead({ title }: HeadProps) {
  const {
    register,
    formState: { errors },
  } = useFormContext<Team>();
  return (
    <fieldset>
      <legend>{title}</legend>
      <input aria-label="Plot" {...register('plot', { required: 'Which plot?' })} />
      {errors.plot && <p>{errors.plot.message}</p>}
      <input type="date" aria-label="Day" {...register('day')} />
    </fieldset>
  );
}
