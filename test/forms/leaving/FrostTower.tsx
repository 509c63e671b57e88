import { useForm, useController, type Control, type FieldValues, type Path } from 'react-hook-form';

type Watch = { tower: string; degrees: string };

interface BoxProps<T extends FieldValues> {
  control: Control<T>;
  name: Path<T>;
  title: string;
}

function Box<T extends FieldValues>({ control, name, title }: BoxProps<T>) {
  const { field, fieldState } = useController({ control, name, rules: { required: 'Fill this in' } });
  return (
    <label>
      {title}
      <input {...field} />
      {fieldState.error && <b>{fieldState.error.message}</b>}
    </label>
  );
}

export const FrostTower = ({ report }: { report(watch: Watch): Promise<void> }) => {
  const { control, handleSubmit } = useForm<Watch>({ defaultValues: { tower: '', degrees: '' } });
  const onSubmit = handleSubmit(async (watch) => {
    await report(watch);
  });
  return (
    <form onSubmit={onSubmit}>
      <Box control={control} name="tower" title="Tower" />
      <Box control={control} name="degrees" title="Degrees" />
      <button>Report</button>
    </form>
  );
};
