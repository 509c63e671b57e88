import { Formik, Form, Field, useFormikContext, ErrorMessage } from 'formik';
import { ComponentProps } from 'react';

type Spray = {
  rows: string;
  agent: string;
  windy: boolean;
  remark: string;
};

const TextBox = (props: ComponentProps<'input'> & { caption: string }) => {
  const { caption, ...rest } = props;
  return (
    <label className="box">
      {caption}
      <input {...rest} />
    </label>
  );
};

const Details = () => {
  const { values } = useFormikContext<Spray>();
  return (
    <fieldset>
      <legend>Details for {values.agent || 'an agent'}</legend>
      <label>
        <Field type="checkbox" name="windy" /> It is windy
      </label>
      {values.windy && <p>Wait for a still evening.</p>}
      <label htmlFor="remark">Remark</label>
      <Field as="textarea" id="remark" name="remark" rows={3} />
    </fieldset>
  );
};

const agents = ['sulphur', 'clay', 'soap'];

export const SprayPlan = ({ onPlan }: { onPlan: (spray: Spray) => void }) => {
  return (
    <section>
      <h2>Spraying</h2>
      <Formik<Spray>
        initialValues={{ rows: '', agent: '', windy: false, remark: '' }}
        validate={(values) => {
          const errors: Partial<Record<keyof Spray, string>> = {};
          if (!values.rows.trim()) errors.rows = 'Which rows?';
          if (!values.agent) errors.agent = 'With what?';
          return errors;
        }}
        onSubmit={(values) => onPlan(values)}
      >
        {({ isValid, dirty }) => (
          <Form>
            <Field as={TextBox} name="rows" caption="Rows" placeholder="3 to 7" />
            <ErrorMessage name="rows" />
            <label htmlFor="agent">Agent</label>
            <Field as="select" name="agent" id="agent">
              <option value="">none</option>
              {agents.map((agent) => (
                <option key={agent} value={agent}>
                  {agent}
                </option>
              ))}
            </Field>
            <ErrorMessage name="agent">{(text) => <strong>{text}</strong>}</ErrorMessage>
            <Details />
            <button type="submit" disabled={!dirty || !isValid}>
              Plan
            </button>
          </Form>
        )}
      </Formik>
    </section>
  );
};
