import { Formik, Form, useField } from 'formik';

const Line = ({ label, ...props }) => {
  const [field, meta] = useField(props);
  return (
    <>
      <label htmlFor={props.id || props.name}>{label}</label>
      <input className="line" {...field} {...props} />
      {meta.touched && meta.error ? <div className="error">{meta.error}</div> : null}
    </>
  );
};

const Tick = ({ children, ...props }) => {
  const [field, meta] = useField({ ...props, type: 'checkbox' });
  return (
    <div>
      <label>
        <input type="checkbox" {...field} {...props} />
        {children}
      </label>
      {meta.touched && meta.error ? <div className="error">{meta.error}</div> : null}
    </div>
  );
};

export const PestNote = ({ onSend }) => (
  <Formik
    initialValues={{ pest: '', tree: '', sure: false }}
    validate={(values) => {
      const errors = {};
      if (!values.pest) errors.pest = 'What did you see?';
      if (!/^[A-Z]\d+$/.test(values.tree)) errors.tree = 'A row and a number, like B7';
      if (!values.sure) errors.sure = 'Look twice, please';
      return errors;
    }}
    onSubmit={(values, { resetForm }) => {
      onSend(values);
      resetForm();
    }}
  >
    <Form>
      <Line label="Pest" name="pest" type="text" placeholder="codling moth" />
      <Line label="Tree" name="tree" type="text" />
      <Tick name="sure">I am sure</Tick>
      <button type="submit">Send</button>
    </Form>
  </Formik>
);
