import { ErrorMessage, Field, Form, Formik } from 'formik';
import * as Yup from 'yup';

interface FrostReport {
  plot: string;
  lowest: string;
  seenAt: string;
  notes: string;
}

const empty: FrostReport = { plot: '', lowest: '', seenAt: 'dawn', notes: '' };

const FrostSchema = Yup.object().shape({
  plot: Yup.string().required('Which plot?').matches(/^[A-F]\d$/, 'Plots look like B7'),
  lowest: Yup.number().typeError('Degrees as a number').required('How cold was it?').max(4, 'That is no frost'),
  seenAt: Yup.string().oneOf(['dusk', 'night', 'dawn']),
  notes: Yup.string().min(5, 'A few words more').max(40),
});

export const SpringFrost = ({ report }: { report: (frost: FrostReport) => Promise<void> }) => (
  <section>
    <h2>Spring frost</h2>
    <Formik
      initialValues={empty}
      validationSchema={FrostSchema}
      onSubmit={async (frost, { resetForm }) => {
        await report(frost);
        resetForm();
      }}
    >
      {({ isSubmitting, touched, errors }) => (
        <Form noValidate>
          <label htmlFor="plot">Plot</label>
          <Field id="plot" name="plot" className={touched.plot && errors.plot ? 'bad' : undefined} />
          <ErrorMessage name="plot" component="p" className="why" />
          <label htmlFor="lowest">Lowest</label>
          <Field id="lowest" name="lowest" />
          <ErrorMessage name="lowest">{(text) => <p className="why">{text}</p>}</ErrorMessage>
          <label htmlFor="seenAt">Seen at</label>
          <Field as="select" id="seenAt" name="seenAt">
            <option value="dusk">Dusk</option>
            <option value="night">Night</option>
            <option value="dawn">Dawn</option>
          </Field>
          <label htmlFor="notes">Notes</label>
          <Field as="textarea" id="notes" name="notes" />
          <ErrorMessage name="notes" component="p" className="why" />
          <button type="submit" disabled={isSubmitting}>
            {isSubmitting ? 'Sending' : 'Report'}
          </button>
        </Form>
      )}
    </Formik>
  </section>
);
