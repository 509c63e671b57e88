import { FormProvider, useForm } from 'react-hook-form';
import { HandList } from './parts/HandList';
import PlotHead from './parts/PlotHead';
import type { Team } from './parts/team';

type Props = { onSave: (team: Team) => void };

export default function PlotTeam({ onSave }: Props) {
  const methods = useForm<Team>({
    mode: 'onTouched',
    defaultValues: { plot: '', day: '', hands: [{ name: '', hours: '4' }], note: '' },
  });
  const { handleSubmit, register, formState, reset } = methods;

  return (
    <FormProvider {...methods}>
      <form onSubmit={handleSubmit(onSave)} noValidate>
        <PlotHead title="Plot" />
        <HandList />
        <textarea aria-label="Note" {...register('note')} />
        <button type="submit" disabled={!formState.isDirty}>
          Save
        </button>
        <button type="button" onClick={() => reset()}>
          Clear
        </button>
      </form>
    </FormProvider>
  );
}
