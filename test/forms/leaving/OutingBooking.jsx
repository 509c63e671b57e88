import { useFormik } from 'formik';

function check(v) {
  const errors = {};
  if (!v.guide) errors.guide = 'Who leads?';
  if (v.kind === 'night' && !v.lamp) errors.lamp = 'A lamp at night';
  return errors;
}

export function OutingBooking({ book }) {
  const { values, errors, touched, setValues, handleChange, handleBlur, handleSubmit, isValid } = useFormik({
    initialValues: { kind: 'day', guide: '', lamp: '' },
    validate: check,
    validateOnMount: true,
    onSubmit: async (outing) => {
      await book(outing);
    },
  });
  return (
    <form onSubmit={handleSubmit}>
      <select
        name="kind"
        aria-label="Kind"
        value={values.kind}
        onBlur={handleBlur}
        onChange={(event) => setValues((old) => ({ ...old, kind: event.target.value, lamp: '' }))}
      >
        <option value="day">By day</option>
        <option value="night">By night</option>
      </select>
      <input name="guide" aria-label="Guide" value={values.guide} onChange={handleChange} onBlur={handleBlur} />
      {touched.guide && errors.guide && <b>{errors.guide}</b>}
      {values.kind === 'night' && (
        <input name="lamp" aria-label="Lamp" value={values.lamp} onChange={handleChange} onBlur={handleBlur} />
      )}
      {touched.lamp && errors.lamp && <b>{errors.lamp}</b>}
      <button disabled={!isValid}>Book</button>
    </form>
  );
}
