import { useState } from 'react';
import { useForm } from 'react-hook-form';

type Plan = { plot: string; trees: string; month: string; helper: string };

export const PruningPlan = ({ submitPlan }: { submitPlan: (plan: Plan) => Promise<void> }) => {
  const [step, setStep] = useState(1);
  const { register, handleSubmit, trigger, getValues, formState } = useForm<Plan>({
    defaultValues: { plot: '', trees: '', month: '', helper: '' },
  });
  const { errors, isSubmitting } = formState;

  const next = async () => {
    const ok = await trigger(['plot', 'trees']);
    if (ok) setStep(2);
  };

  return (
    <form onSubmit={handleSubmit(async (plan) => submitPlan(plan))}>
      {step === 1 && (
        <>
          <input aria-label="Plot" {...register('plot', { required: 'Which plot?' })} />
          {errors.plot && <i>{errors.plot.message}</i>}
          <input aria-label="Trees" {...register('trees', { required: 'How many trees?' })} />
          {errors.trees && <i>{errors.trees.message}</i>}
          <button type="button" onClick={next}>
            Next
          </button>
        </>
      )}
      {step === 2 && (
        <>
          <p>{getValues('trees')} trees</p>
          <input aria-label="Month" type="month" {...register('month', { required: 'When?' })} />
          {errors.month && <i>{errors.month.message}</i>}
          <input aria-label="Helper" {...register('helper')} />
          <button type="button" onClick={() => setStep(1)}>
            Back
          </button>
          <button type="submit" disabled={isSubmitting}>
            Plan
          </button>
        </>
      )}
    </form>
  );
};
