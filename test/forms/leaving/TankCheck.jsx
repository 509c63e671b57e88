import { FormProvider, useForm, useFormContext, Controller } from 'react-hook-form';

const Row = ({ name, children, ...rest }) => {
  const form = useFormContext();
  const error = form.formState.errors[name];
  return (
    <div className="row">
      {children}
      <input {...form.register(name)} {...rest} aria-invalid={error ? 'true' : 'false'} />
    </div>
  );
};

const Level = ({ name, title }) => {
  const { control } = useFormContext();
  return (
    <Controller
      name={name}
      control={control}
      rules={{ required: 'Choose a level' }}
      render={({ field, fieldState: { error } }) => (
        <div>
          <span>{title}</span>
          {['low', 'half', 'full'].map((one) => (
            <button key={one} type="button" aria-pressed={field.value === one} onClick={() => field.onChange(one)}>
              {one}
            </button>
          ))}
          {error && <em>{error.message}</em>}
        </div>
      )}
    />
  );
};

export const TankCheck = ({ onDone }) => {
  const form = useForm({ defaultValues: { tank: '', guard: '', water: '', lime: '' } });
  const save = form.handleSubmit((v) => onDone(v));
  return (
    <FormProvider {...form}>
      <form onSubmit={save}>
        <Row name="tank">Tank</Row>
        <Row name="guard" placeholder="who looked">
          Guard
        </Row>
        <Level name="water" title="Water" />
        <Level name="lime" title="Lime" />
        <button>Done</button>
      </form>
    </FormProvider>
  );
};
