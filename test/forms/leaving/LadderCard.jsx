import { useFormik } from 'formik';
import { today } from './parts/today';

export const LadderCard = ({ ladder, keep }) => {
  const formik = useFormik({
    initialValues: {
      rungs: String(ladder?.rungs ?? 12),
      shed: ladder?.shed ?? '',
      // seen on the day it is opened
      checkedOn: today(),
    },
    validate: (values) => {
      const errors = {};
      if (!values.shed) errors.shed = 'In which shed?';
      return errors;
    },
    onSubmit: async (values, { resetForm }) => {
      await keep(values);
      resetForm();
    },
  });
  const { values, errors, touched } = formik;
  return (
    <form onSubmit={formik.handleSubmit} onReset={formik.handleReset}>
      <label>
        Rungs <input name="rungs" value={values.rungs} onChange={formik.handleChange} onBlur={formik.handleBlur} />
      </label>
      <label>
        Shed <input name="shed" value={values.shed} onChange={formik.handleChange} onBlur={formik.handleBlur} />
      </label>
      {touched.shed && errors.shed && <i>{errors.shed}</i>}
      <label>
        Checked on <input name="checkedOn" type="date" value={values.checkedOn} onChange={formik.handleChange} />
      </label>
      <button type="submit" disabled={!formik.dirty}>Keep</button>
      <button type="reset">Back</button>
    </form>
  );
};
