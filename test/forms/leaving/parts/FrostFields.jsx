export function FrostFields({ formik, towers }) {
  const { values, errors, touched } = formik;
  return (
    <>
      <select name="tower" value={values.tower} onChange={formik.handleChange} onBlur={formik.handleBlur}>
        {towers.map((t) => (
          <option key={t}>{t}</option>
        ))}
      </select>
      <input name="low" placeholder="low" value={values.low} onChange={formik.handleChange} onBlur={formik.handleBlur} />
      {touched.low && errors.low && <i>{errors.low}</i>}
      {['none', 'some', 'all'].map((d) => (
        <label key={d}>
          <input type="radio" name="damage" value={d} checked={values.damage === d} onChange={formik.handleChange} />
          {d}
        </label>
      ))}
      <label>
        <input type="checkbox" checked={values.photos} onChange={(e) => formik.setFieldValue('photos', e.target.checked)} />
        Photos
      </label>
    </>
  );
}
