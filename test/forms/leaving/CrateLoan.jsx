import React from 'react';
import { useFormik, FormikProvider, Form, Field, ErrorMessage } from 'formik';

function Labelled({ name, label, ...rest }) {
  return (
    <div>
      <label htmlFor={name}>{label}</label>
      <Field id={name} name={name} {...rest} />
      <ErrorMessage name={name} component="em" />
    </div>
  );
}

export default function CrateLoan({ lend }) {
  const formik = useFormik({
    initialValues: { who: '', crates: '', back: '' },
    validate: (v) => {
      const e = {};
      if (!v.who) e.who = 'Who borrows them?';
      if (!/^\d+$/.test(v.crates)) e.crates = 'A number, please';
      return e;
    },
    onSubmit: (v) => lend(v),
  });

  return (
    <FormikProvider value={formik}>
      <Form>
        <Labelled name="who" label="Who" />
        <Labelled name="crates" label="Crates" inputMode="numeric" />
        <Labelled name="back" label="Back on" type="date" />
        <button type="submit">Lend</button>
      </Form>
    </FormikProvider>
  );
}
