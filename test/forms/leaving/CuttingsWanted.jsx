import { FormProvider, useForm } from 'react-hook-form';
import { TextLine } from './parts/TextLine';

export function CuttingsWanted({ send, varieties }) {
  const methods = useForm({ defaultValues: { grower: '', variety: '', sticks: '' }, mode: 'onBlur' });

  return (
    <FormProvider {...methods}>
      <form onSubmit={methods.handleSubmit((data) => send(data))}>
        <TextLine name="grower" label="Grower" rules={{ required: 'Who asks for it?' }} />
        <TextLine name="sticks" label="Sticks" rules={{ required: 'How many?', min: { value: 1, message: 'One at least' } }} type="number" />
        <label>
          Variety
          <select {...methods.register('variety', { required: 'Choose one' })}>
            <option value="">-</option>
            {varieties.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        {methods.formState.errors.variety && <span>{methods.formState.errors.variety.message}</span>}
        <button type="submit">Ask</button>
      </form>
    </FormProvider>
  );
}
