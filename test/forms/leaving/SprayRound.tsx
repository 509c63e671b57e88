import { useEffect } from 'react';
import { useForm, type SubmitHandler } from 'react-hook-form';

interface Round {
  plot: string;
  agent: 'sulphur' | 'copper' | 'clay';
  end: string;
  windy: boolean;
}

interface Props {
  plots: string[];
  /** The round before, to begin with. */
  last?: Round;
  save(round: Round): Promise<void>;
}

export const SprayRound = ({ plots, last, save }: Props) => {
  const {
    register,
    handleSubmit,
    reset,
    setError,
    setValue,
    formState: { errors, isSubmitting, isSubmitSuccessful },
  } = useForm<Round>({
    defaultValues: last ?? { plot: '', agent: 'sulphur', end: '', windy: false },
  });

  const onSubmit: SubmitHandler<Round> = async (round) => {
    try {
      await save(round);
    } catch (trouble) {
      setError('root', { message: trouble instanceof Error ? trouble.message : 'Not saved' });
    }
  };

  // ready for the next round
  useEffect(() => {
    if (isSubmitSuccessful) reset();
  }, [isSubmitSuccessful, reset]);

  return (
    <form onSubmit={handleSubmit(onSubmit)} noValidate>
      <label htmlFor="plot">Plot</label>
      <select id="plot" {...register('plot', { required: 'Which plot?' })}>
        <option value="">–</option>
        {plots.map((plot) => (
          <option key={plot} value={plot}>
            {plot}
          </option>
        ))}
      </select>
      {errors.plot && <span role="alert">{errors.plot.message}</span>}

      <label htmlFor="agent">Agent</label>
      <select id="agent" {...register('agent')}>
        <option value="sulphur">Sulphur</option>
        <option value="copper">Copper</option>
        <option value="clay">Clay</option>
      </select>

      <label htmlFor="end">Until</label>
      <input id="end" type="time" {...register('end', { required: 'Until when?' })} />
      {errors.end && <span role="alert">{errors.end.message}</span>}
      <button type="button" onClick={() => setValue('end', '18:00', { shouldValidate: true })}>
        Until six
      </button>

      <label>
        <input type="checkbox" {...register('windy')} /> It was windy
      </label>
      {errors.root && <p role="alert">{errors.root.message}</p>}
      <button disabled={isSubmitting}>Save</button>
    </form>
  );
};
