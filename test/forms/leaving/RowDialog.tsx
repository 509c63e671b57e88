import React from 'react';
import { useForm } from 'react-hook-form';

type Row = { row: string; side: string };

export const RowDialog = ({ close, keep }: { close: () => void; keep: (row: Row) => void }) => {
  const { register, handleSubmit, formState: { errors } } = useForm<Row>({ defaultValues: { row: '', side: 'left' } });
  const save = (row: Row) => {
    keep(row);
    close();
  };
  return (
    <div role="dialog">
      <form>
        <input aria-label="Row" {...register('row', { required: 'Which row?' })} />
        {errors.row && <p>{errors.row.message}</p>}
        <select aria-label="Side" {...register('side')}>
          <option value="left">left</option>
          <option value="right">right</option>
        </select>
      </form>
      <footer>
        <button type="button" onClick={close}>
          Close
        </button>
        <button type="button" onClick={handleSubmit(save)}>
          Keep
        </button>
      </footer>
    </div>
  );
};
