import { zodResolver } from '@hookform/resolvers/zod';
import { useFieldArray, useForm } from 'react-hook-form';
import { z } from 'zod';

const mixSchema = z.object({
  field: z.string().min(2, 'Which field?'),
  parts: z
    .array(z.object({ agent: z.string().min(1, 'Name it.'), litres: z.number('How much?').max(20, 'The tank takes 20.') }))
    .min(1, 'A mix has parts.'),
});
type Mix = z.infer<typeof mixSchema>;

export const SprayMix = ({ onMix }: { onMix(mix: Mix): void }) => {
  const { control, register, handleSubmit, reset, formState } = useForm<Mix>({
    resolver: zodResolver(mixSchema),
    defaultValues: { field: '', parts: [] },
  });
  const parts = useFieldArray({ control, name: 'parts' });
  const { errors } = formState;

  return (
    <form
      noValidate
      onSubmit={handleSubmit((mix) => {
        onMix(mix);
        reset();
      })}
    >
      <input aria-label="Field" {...register('field')} />
      {errors.field ? <p>{errors.field.message}</p> : null}
      <ol>
        {parts.fields.map(({ id }, at) => (
          <li key={id}>
            <input aria-label={`Agent ${at + 1}`} {...register(`parts.${at}.agent`)} />
            <p>{errors.parts?.[at]?.agent?.message}</p>
            <input type="number" aria-label={`Litres ${at + 1}`} {...register(`parts.${at}.litres`, { valueAsNumber: true })} />
            <p>{errors.parts?.[at]?.litres?.message}</p>
            <button type="button" disabled={at === 0} onClick={() => parts.swap(at, at - 1)}>
              Up {at + 1}
            </button>
            <button type="button" onClick={() => parts.remove(at)}>
              Out {at + 1}
            </button>
          </li>
        ))}
      </ol>
      <p>{errors.parts?.message ?? errors.parts?.root?.message}</p>
      <button type="button" onClick={() => parts.append({ agent: '', litres: 1 })}>
        Part
      </button>
      <button>Mix</button>
    </form>
  );
};
