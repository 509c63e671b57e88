import { FC, useState } from 'react';
import { PlotStep, WaterStep } from './parts/PlotSteps';

export interface Plot {
  holder: string;
  size: string;
  water: { meter: string; shared: boolean };
}

const empty: Plot = { holder: '', size: 'small', water: { meter: '', shared: false } };

export const PlotWizard: FC<{ onDone(plot: Plot): void }> = ({ onDone }) => {
  const [step, setStep] = useState<number>(0);
  const [data, setData] = useState<Plot>(empty);

  function updateFields(fields: Partial<Plot>) {
    setData((prev) => {
      return { ...prev, ...fields };
    });
  }

  const titles = ['Plot', 'Water', 'Check'];

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (step < 2) return setStep((i) => i + 1);
        onDone(data);
        setData(empty);
        setStep(0);
      }}
    >
      <h2>
        {step + 1} / {titles.length} {titles[step]}
      </h2>
      {step === 0 && <PlotStep {...data} updateFields={updateFields} />}
      {step === 1 && <WaterStep water={data.water} onWater={(water) => updateFields({ water })} />}
      {step === 2 && (
        <dl>
          <dt>Holder</dt>
          <dd>{data.holder}</dd>
          <dt>Meter</dt>
          <dd>
            {data.water.meter} {data.water.shared && '(shared)'}
          </dd>
        </dl>
      )}
      {step > 0 && (
        <button type="button" onClick={() => setStep((i) => i - 1)}>
          Back
        </button>
      )}
      <button type="submit">{step === 2 ? 'Book' : 'Next'}</button>
    </form>
  );
};
