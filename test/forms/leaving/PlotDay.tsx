import { Form, Formik, useFormikContext, type FormikHelpers } from 'formik';
import * as Yup from 'yup';
import { SelectLine, TextLine } from './parts/lines';

export interface Booking {
  plot: string;
  day: string;
  helpers: string;
}

const schema = Yup.object({
  plot: Yup.string().required('Choose a plot'),
  day: Yup.string().required('Which day?'),
});

function Summary() {
  const { values, isSubmitting } = useFormikContext<Booking>();
  return (
    <p>
      {values.plot || 'No plot'} on {values.day || 'no day'} {isSubmitting && '(sending)'}
    </p>
  );
}

export function PlotDay({ plots, book }: { plots: string[]; book(booking: Booking): Promise<void> }) {
  const initialValues: Booking = { plot: '', day: '', helpers: '' };

  async function onSubmit(values: Booking, { resetForm }: FormikHelpers<Booking>) {
    await book(values);
    resetForm();
  }

  return (
    <Formik initialValues={initialValues} validationSchema={schema} onSubmit={onSubmit}>
      <Form noValidate>
        <SelectLine name="plot" label="Plot" options={plots} />
        <TextLine name="day" label="Day" type="date" />
        <TextLine name="helpers" label="Helpers" />
        <Summary />
        <button type="submit">Book</button>
      </Form>
    </Formik>
  );
}
