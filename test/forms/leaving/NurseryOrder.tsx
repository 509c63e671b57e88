import { useFieldArray, useForm, type SubmitHandler } from 'react-hook-form';

type Line = { sort: string; count: number; stock: 'M9' | 'M26' | 'wild' };
interface Order {
  grower: string;
  by: string;
  lines: Line[];
}

const blankLine: Line = { sort: '', count: 1, stock: 'M9' };

// what the nursery gets from a grower
export function NurseryOrder({ onOrder }: { onOrder: (order: Order) => void }) {
  const {
    register,
    control,
    handleSubmit,
    watch,
    formState: { errors, isSubmitting },
  } = useForm<Order>({ defaultValues: { grower: '', by: '', lines: [blankLine] } });
  const { fields, append, remove } = useFieldArray({ control, name: 'lines' });

  const lines = watch('lines');
  const trees = lines.reduce((sum, line) => sum + (line.count || 0), 0);

  const onSubmit: SubmitHandler<Order> = (order) => {
    onOrder(order);
  };

  return (
    <form onSubmit={handleSubmit(onSubmit)} noValidate>
      <label htmlFor="grower">Grower</label>
      <input id="grower" {...register('grower', { required: 'Who orders?' })} />
      {errors.grower && <p role="alert">{errors.grower.message}</p>}
      <label htmlFor="by">Needed by</label>
      <input id="by" type="date" {...register('by')} />

      {fields.map((field, index) => (
        <div key={field.id} className="line">
          <input aria-label={`Sort ${index + 1}`} {...register(`lines.${index}.sort`, { required: 'Which sort?' })} />
          {errors.lines?.[index]?.sort && <small>{errors.lines[index]?.sort?.message}</small>}
          <input
            type="number"
            aria-label={`Trees ${index + 1}`}
            {...register(`lines.${index}.count` as const, {
              valueAsNumber: true,
              min: { value: 1, message: 'One tree at least.' },
              max: { value: 60, message: 'No more than sixty of one sort.' },
            })}
          />
          {errors.lines?.[index]?.count && <small>{errors.lines?.[index]?.count?.message}</small>}
          <select aria-label={`Stock ${index + 1}`} {...register(`lines.${index}.stock`)}>
            <option value="M9">M9</option>
            <option value="M26">M26</option>
            <option value="wild">Seedling</option>
          </select>
          {/* one line stays */}
          {fields.length > 1 && (
            <button type="button" onClick={() => remove(index)}>
              Drop line {index + 1}
            </button>
          )}
        </div>
      ))}
      <button type="button" onClick={() => append(blankLine)}>
        Another sort
      </button>
      <p>
        {fields.length} sorts, {trees} trees
      </p>
      <button type="submit" disabled={isSubmitting}>
        Order
      </button>
    </form>
  );
}
