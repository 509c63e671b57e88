import { useState } from 'react';
import { Formik, Form, useField, useFormikContext } from 'formik';
import { StarRating } from './parts/StarRating';

const Rating = ({ name, title }) => {
  const [{ value }, { error, touched }, { setValue }] = useField(name);
  return (
    <div>
      <h4>{title}</h4>
      <StarRating stars={value} onPick={(n) => setValue(n)} />
      {touched && error && <span>{error}</span>}
    </div>
  );
};

function Line(props) {
  const [field, meta] = useField(props.name);
  return (
    <p>
      <label htmlFor={field.name}>{props.title}</label>
      <input id={field.name} type="text" {...field} />
      {meta.error && meta.touched && <span>{meta.error}</span>}
      <small>{field.value.length} of 20</small>
    </p>
  );
}

const Send = ({ children }) => {
  const { isSubmitting, isValid } = useFormikContext();
  return (
    <button type="submit" disabled={isSubmitting || !isValid}>
      {children}
    </button>
  );
};

export function GraftLog({ store }) {
  const [done, setDone] = useState(null);
  return (
    <>
      {done && <p role="status">{done} is in the book.</p>}
      <Formik
        initialValues={{ scion: '', stock: '', quality: 0 }}
        validate={({ scion, stock, quality }) => {
          const errors = {};
          if (!scion) errors.scion = 'Which scion?';
          else if (scion.length > 20) errors.scion = 'Too long';
          if (!stock) errors.stock = 'On which stock?';
          if (!quality) errors.quality = 'How good is it?';
          return errors;
        }}
        onSubmit={async (values, actions) => {
          await store(values);
          setDone(values.scion);
          actions.resetForm();
        }}
      >
        <Form className="graft">
          <Line name="scion" title="Scion" />
          <Line name="stock" title="Stock" />
          <Rating name="quality" title="Quality" />
          <Send>Store</Send>
        </Form>
      </Formik>
    </>
  );
}
