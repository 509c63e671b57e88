import { ErrorMessage, Field, Form, Formik } from 'formik';
import * as Yup from 'yup';

interface Booking {
  grower: { name: string; phone: string };
  kilos: number | '';
  note: string;
}

const start: Booking = { grower: { name: '', phone: '' }, kilos: 50, note: '' };

const rules = Yup.object({
  grower: Yup.object({
    name: Yup.string().required('Who comes?'),
    phone: Yup.string().min(5, 'Too short.'),
  }),
  kilos: Yup.number().min(50, 'Fifty at least.').required('How much?'),
});

export function PressBooking({ book }: { book: (booking: Booking) => void }) {
  return (
    <Formik
      initialValues={start}
      validationSchema={rules}
      onSubmit={(values, { resetForm }) => {
        book(values);
        resetForm();
      }}
    >
      {({ values, errors, touched }) => (
        <Form>
          <Field name="grower.name" placeholder="Name" />
          <ErrorMessage name="grower.name" component="p" />
          <Field name="grower.phone" placeholder="Phone" />
          {errors.grower?.phone && touched.grower?.phone && <p>{errors.grower.phone}</p>}
          <Field name="kilos" type="number" placeholder="Kilos" />
          <ErrorMessage name="kilos" />
          <p>{values.grower.name || 'Nobody'} brings {values.kilos} kilos</p>
          <Field as="textarea" name="note" placeholder="Note" />
          <button type="submit">Book</button>
        </Form>
      )}
    </Formik>
  );
}
