import * as yup from 'yup';

const WIDEST = 6;

export const stallRules = yup.object({
  grower: yup.string().trim().required('Whose stall is it?').max(12, 'At most twelve letters'),
  metres: yup
    .string()
    .required('How wide?')
    .matches(/^\d+$/, 'Whole metres')
    .test('fits', `At most ${WIDEST} metres`, (value) => !value || Number(value) <= WIDEST),
  power: yup.boolean(),
  watts: yup.string().when('power', {
    is: true,
    then: (schema) => schema.required('How much power?').matches(/^\d+$/, 'A number of watts'),
  }),
});
