import { useForm } from 'react-hook-form';

export interface Tag {
  code: string;
  row: number;
  grafted: boolean;
}

type TagFields = { code: string; row: number; grafted: boolean };

export function TreeTagEdit({ tag, save, leave }: { tag: Tag; save(tag: Tag): Promise<void>; leave(): void }) {
  const form = useForm<TagFields>({
    defaultValues: { code: tag.code, row: tag.row, grafted: tag.grafted ?? false },
    mode: 'onChange',
  });
  const { register, formState } = form;

  const submit = form.handleSubmit(async (fields) => {
    await save({ ...tag, ...fields });
    leave();
  });

  return (
    <form onSubmit={submit}>
      <h3>Tree {tag.code}</h3>
      <input aria-label="Code" {...register('code', { required: 'A tree needs its code' })} />
      {formState.errors.code ? <small>{formState.errors.code.message}</small> : null}
      <input
        aria-label="Row"
        type="number"
        {...register('row', { valueAsNumber: true, min: { value: 1, message: 'Rows begin at one' } })}
      />
      {formState.errors.row ? <small>{formState.errors.row.message}</small> : null}
      <label>
        <input type="checkbox" {...register('grafted')} />
        Grafted
      </label>
      <button disabled={!formState.isDirty || formState.isSubmitting}>Save</button>
      <button type="button" onClick={() => form.reset()}>Undo</button>
    </form>
  );
}
