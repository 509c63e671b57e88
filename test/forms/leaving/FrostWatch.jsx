import React from 'react';
import { Formik, Form, Field, ErrorMessage } from 'formik';

const start = { station: '', degrees: '', rings: [], night: '' };

function wrongIn(watch) {
  const found = {};
  if (!watch.station) found.station = 'Which station?';
  if (Number(watch.degrees) > 4) found.degrees = 'That is no frost';
  if (watch.rings.length > 2) found.rings = 'Two at most';
  return found;
}

/* Tells the night watch when to light the fires. */
export default function FrostWatch({ save }) {
  const [open, setOpen] = React.useState(true);

  return (
    <section>
      <button type="button" onClick={() => setOpen(!open)}>
        {open ? 'Hide the map' : 'Show the map'}
      </button>
      {open && <pre>[north] [south]</pre>}
      <Formik
        initialValues={start}
        validate={wrongIn}
        onSubmit={(watch, { setSubmitting, resetForm }) => {
          save(watch);
          setSubmitting(false);
          resetForm();
        }}
      >
        {(formik) => (
          <Form>
            <label htmlFor="station">Station</label>
            <Field name="station" id="station" as="select">
              <option value="">Choose</option>
              <option value="n">North gate</option>
              <option value="s">South gate</option>
            </Field>
            <ErrorMessage name="station" component="small" />
            <label htmlFor="degrees">Degrees</label>
            <Field name="degrees" id="degrees" />
            <ErrorMessage name="degrees">{(text) => <small className="bad">{text}</small>}</ErrorMessage>
            {['Ida', 'Jon', 'Lea'].map((who) => (
              <label key={who}>
                <Field type="checkbox" name="rings" value={who} />
                {who}
              </label>
            ))}
            <ErrorMessage name="rings" component="small" />
            {/* only those who are rung up say when */}
            {formik.values.rings.length > 0 && (
              <p>
                <label htmlFor="night">Night</label>
                <Field type="date" id="night" name="night" />
              </p>
            )}
            <button type="submit" disabled={formik.isSubmitting}>
              Set the watch
            </button>
            <button type="button" onClick={() => formik.setFieldValue('station', 'n')}>
              North
            </button>
            <button type="reset">Clear</button>
          </Form>
        )}
      </Formik>
    </section>
  );
}
