import { FormProvider, useForm, useFormContext } from 'react-hook-form';

interface Watch {
  name: string;
  phone: string;
  posts: string[];
  night: string;
}

/** Who to ring. */
function Reach() {
  const { register, formState } = useFormContext<Watch>();
  return (
    <fieldset>
      <legend>Reach</legend>
      <input aria-label="Name" {...register('name', { required: 'A name, please.' })} />
      {formState.errors.name && <p role="alert">{formState.errors.name.message}</p>}
      <input aria-label="Phone" {...register('phone', { minLength: { value: 5, message: 'Too short.' } })} />
      {formState.errors.phone && <p role="alert">{formState.errors.phone.message}</p>}
    </fieldset>
  );
}

function Night() {
  const { register, watch } = useFormContext<Watch>();
  const night = watch('night');
  return (
    <>
      <input type="date" aria-label="Night" {...register('night')} />
      {night && <output>Watch on {night}</output>}
    </>
  );
}

export function FrostPosts({ onWatch }: { onWatch: (watch: Watch) => Promise<void> }) {
  const methods = useForm<Watch>({ defaultValues: { name: '', phone: '', posts: [], night: '' } });
  return (
    <FormProvider {...methods}>
      <form onSubmit={methods.handleSubmit(onWatch)} noValidate>
        <Reach />
        <Night />
        <label>
          <input type="checkbox" value="north" {...methods.register('posts')} /> North
        </label>
        <label>
          <input type="checkbox" value="gate" {...methods.register('posts')} /> Gate
        </label>
        <button type="submit" disabled={methods.formState.isSubmitting}>
          Watch
        </button>
      </form>
    </FormProvider>
  );
}
