import { Field, FieldArray, Form, Formik } from 'formik';

type Order = { firm: string; crates: { size: 's' | 'l'; many: number; lids: boolean }[] };

const start: Order = { firm: '', crates: [{ size: 's', many: 1, lids: false }] };

export const CrateOrder = ({ send }: { send: (order: Order) => Promise<void> }) => (
  <Formik initialValues={start} onSubmit={async (order, { resetForm }) => { await send(order); resetForm(); }}>
    {({ values, touched, dirty, handleReset }) => {
      // lids are not counted
      const all = values.crates.reduce((sum, { many }) => sum + many, 0);
      return (
        <Form>
          <label htmlFor="firm">Firm</label>
          <Field id="firm" name="firm" />
          <FieldArray name="crates">
            {({ push, remove, form }) => (
              <>
                {form.values.crates.map((_: unknown, n: number) => (
                  <div key={n}>
                    <Field as="select" name={`crates.${n}.size`} aria-label={`Size ${n}`}><option value="s">Small</option><option value="l">Large</option></Field>
                    <Field type="number" name={`crates.${n}.many`} aria-label={`Many ${n}`} />
                    <label><Field type="checkbox" name={`crates.${n}.lids`} />Lids {n}</label>
                    {values.crates.length > 1 && <button type="button" onClick={() => remove(n)}>Without {n}</button>}
                  </div>
                ))}
                <button type="button" onClick={() => push({ size: 'l', many: 1, lids: true })}>Another</button>
              </>
            )}
          </FieldArray>
          {touched.crates && <small>{all} crates in all</small>}
          <button type="submit">Order</button>
          <button type="button" onClick={handleReset} disabled={!dirty}>Reset</button>
        </Form>
      );
    }}
  </Formik>
);
