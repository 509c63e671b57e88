import React from 'react';
import { useForm, useFieldArray } from 'react-hook-form';

export default function HarvestCrates({ plot, save }) {
  const form = useForm({
    mode: 'onBlur',
    defaultValues: { picker: '', crates: [{ kilos: '10', ripe: true }] },
  });
  const crates = useFieldArray({ control: form.control, name: 'crates' });
  const { errors, isDirty } = form.formState;
  const [big, setBig] = React.useState(false);

  async function send(values) {
    await save(values);
    form.reset();
  }

  return (
    <section className={big ? 'big' : ''}>
      <button type="button" onClick={() => setBig(!big)}>Size</button>
      <form onSubmit={form.handleSubmit(send)}>
        <input placeholder="Picker" {...form.register('picker', { required: true })} />
        {errors.picker && <i>Who picked?</i>}
        <ul>
          {crates.fields.map((item, i) => (
            <li key={item.id}>
              <input placeholder={'Kilos ' + (i + 1)} {...form.register(`crates.${i}.kilos`, { required: 'How heavy?', pattern: { value: /^\d+$/, message: 'In whole kilos.' } })} />
              <label><input type="checkbox" {...form.register(`crates.${i}.ripe`)} /> Ripe {i + 1}</label>
              {errors.crates?.[i]?.kilos && <b>{errors.crates[i].kilos.message}</b>}
              <button type="button" onClick={() => crates.remove(i)}>Away {i + 1}</button>
            </li>
          ))}
        </ul>
        {crates.fields.length === 0 && <em>No crates on {plot}.</em>}
        <button type="button" onClick={() => crates.append({ kilos: '', ripe: false }, { shouldFocus: false })}>Crate</button>
        <button disabled={!isDirty}>Save</button>
      </form>
    </section>
  );
}
