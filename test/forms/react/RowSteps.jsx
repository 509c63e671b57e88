import { useState } from 'react';
export default function RowSteps({ save }) {
  const [form, setForm] = useState({ tree: '', row: '1' });
  const handleChange = (input) => (e) => setForm({ ...form, [input]: e.target.value });
  const [step, setStep] = useState(1);
  const nextStep = () => setStep(step + 1);
  const prevStep = () => setStep(step - 1);
  switch (step) {
    case 1:
      return <TreeStep nextStep={nextStep} handleChange={handleChange} values={form} />;
    case 2:
      return <RowStep prevStep={prevStep} handleChange={handleChange} values={form} save={() => save(form)} />;
    default:
      return null;
  }
}
function TreeStep({ nextStep, handleChange, values }) {
  return (
    <div>
      <input placeholder="Tree" defaultValue={values.tree} onChange={handleChange('tree')} />
      <button onClick={nextStep}>Continue</button>
    </div>
  );
}
function RowStep({ prevStep, handleChange, values, save }) {
  return (
    <div>
      <input placeholder="Row" value={values.row} onChange={handleChange('row')} />
      <button onClick={prevStep}>Back</button>
      <button onClick={save}>Confirm</button>
    </div>
  );
}
