import { useFormik } from 'formik';
import { FrostFields } from './parts/FrostFields';

export const FrostReport = ({ towers, report }) => {
  const formik = useFormik({
    initialValues: { tower: towers[0], low: '', damage: 'none', photos: false },
    validate: ({ low }) => (low === '' ? { low: 'How cold was it?' } : {}),
    onSubmit: async (values, { setStatus, setSubmitting }) => {
      try {
        await report(values);
        setStatus('sent');
      } catch {
        setStatus('lost');
      }
      setSubmitting(false);
    },
  });

  return (
    <form onSubmit={formik.handleSubmit} onReset={formik.handleReset}>
      <FrostFields formik={formik} towers={towers} />
      <button type="submit" disabled={formik.isSubmitting}>
        Report
      </button>
      <button type="reset">Clear</button>
      {formik.status === 'lost' && <p>Nobody answers, please phone.</p>}
      {formik.status === 'sent' && <p>Thank you.</p>}
    </form>
  );
};
