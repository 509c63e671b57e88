import { useFormik } from 'formik';

const check = ({ place, metres }: { place: string; metres: string }) => {
  const errors: { place?: string; metres?: string } = {};
  if (!place) errors.place = 'Where does it hang?';
  if (metres !== '' && isNaN(Number(metres))) errors.metres = 'A number, please';
  return errors;
};

export function SwarmNotice({ send }: { send: (swarm: { place: string; metres: string }) => Promise<{ taken: boolean }> }) {
  const formik = useFormik({
    initialValues: { place: '', metres: '' },
    validate: check,
    validateOnBlur: false,
    validateOnChange: false,
    onSubmit: async (values, { setFieldError, setStatus, resetForm }) => {
      setStatus('');
      const answer = await send(values);
      if (answer.taken) {
        setFieldError('place', 'Somebody is there already');
        return;
      }
      resetForm();
      setStatus('A keeper is on the way');
    },
  });

  return (
    <form onSubmit={formik.handleSubmit}>
      {formik.status && <p role="status">{formik.status}</p>}
      <input aria-label="Place" {...formik.getFieldProps('place')} />
      {formik.errors.place && <p className="wrong">{formik.errors.place}</p>}
      <input aria-label="Metres" className={formik.errors.metres ? 'wrong' : undefined} {...formik.getFieldProps('metres')} />
      <button type="submit">Tell the keepers</button>
      <button type="button" onClick={formik.handleReset}>
        Forget it
      </button>
    </form>
  );
}
