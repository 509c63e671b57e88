import { useFormik } from 'formik';

export default function Windfalls({ onCount }) {
  const formik = useFormik({
    initialValues: { tree: '', kilos: '' },
    validate: (v) => (v.tree ? {} : { tree: 'Which tree?' }),
    onSubmit: (v) => {
      onCount(v);
    },
  });
  return (
    <div>
      <input name="tree" value={formik.values.tree} onChange={formik.handleChange} onBlur={formik.handleBlur} />
      {formik.touched.tree && formik.errors.tree}
      <input name="kilos" value={formik.values.kilos} onChange={formik.handleChange} />
      <button type="button" onClick={() => formik.handleSubmit()}>
        Count
      </button>
      <button type="button" onClick={formik.submitForm}>
        Count again
      </button>
    </div>
  );
}
