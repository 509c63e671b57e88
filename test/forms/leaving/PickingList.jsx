import React from 'react';
import { Formik, Form, Field, FieldArray, ErrorMessage } from 'formik';
import * as yup from 'yup';

const schema = yup.object({
  day: yup.string().required('Pick a day'),
  pickers: yup.array().of(
    yup.object({ name: yup.string().required('Who?').max(12, 'Too long'), crates: yup.number().min(1, 'At least one').required('How many?') }),
  ),
});

export default function PickingList(props) {
  const [note, setNote] = React.useState('');
  return (
    <div className="picking">
      <Formik
        initialValues={{ day: '', rain: false, pickers: [{ name: '', crates: 1 }] }}
        validationSchema={schema}
        onSubmit={(values, { setSubmitting }) => {
          props.onSave(values);
          setSubmitting(false);
        }}
      >
        {({ values, isSubmitting }) => (
          <Form>
            <Field type="date" name="day" aria-label="Day" />
            <ErrorMessage name="day" />
            <label><Field type="checkbox" name="rain" /> Rain</label>
            <FieldArray
              name="pickers"
              render={(helpers) => (
                <ul>
                  {values.pickers.length > 0 ? values.pickers.map((picker, i) => (
                    <li key={i}>
                      <Field name={`pickers.${i}.name`} aria-label={'Name ' + i} />
                      <ErrorMessage name={`pickers.${i}.name`} component="em" />
                      <Field name={`pickers.${i}.crates`} type="number" aria-label={'Crates ' + i} />
                      <ErrorMessage name={`pickers.${i}.crates`}>{(message) => <em>{message}</em>}</ErrorMessage>
                      <button type="button" onClick={() => helpers.remove(i)}>-{i}</button>
                    </li>
                  )) : <li>Nobody</li>}
                  <button type="button" onClick={() => helpers.push({ name: '', crates: 1 })}>+</button>
                </ul>
              )}
            />
            <p>{values.pickers.reduce((sum, p) => sum + Number(p.crates), 0)} crates</p>
            <button type="submit" disabled={isSubmitting}>Save</button>
          </Form>
        )}
      </Formik>
      <input value={note} onChange={(e) => setNote(e.target.value)} aria-label="Note" />
    </div>
  );
}
