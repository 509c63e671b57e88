import React from 'react';
import { useForm } from 'react-hook-form';
import { yupResolver } from '@hookform/resolvers/yup';
import { stallRules } from './parts/stallRules';

// A stall at the apple market, for a day.
export default function StallBooking(props) {
  const { register, handleSubmit, watch, reset, formState } = useForm({
    defaultValues: { grower: '', metres: '3', power: false, watts: '' },
    resolver: yupResolver(stallRules),
  });
  const { errors, isDirty } = formState;
  const power = watch('power');

  return (
    <form
      noValidate
      onSubmit={handleSubmit((values) => {
        props.book(values);
        reset();
      })}
    >
      <label htmlFor="grower">Grower</label>
      <input id="grower" {...register('grower')} className={errors.grower ? 'wrong' : ''} />
      {errors.grower && <span className="hint">{errors.grower.message}</span>}
      <label htmlFor="metres">Metres</label>
      <input id="metres" inputMode="numeric" {...register('metres')} />
      <span className="hint">{errors.metres?.message}</span>
      <label>
        <input type="checkbox" {...register('power')} /> Needs power
      </label>
      {power && (
        <>
          <label htmlFor="watts">Watts</label>
          <input id="watts" {...register('watts')} />
          {errors.watts ? <span className="hint">{errors.watts.message}</span> : null}
        </>
      )}
      <button disabled={!isDirty}>Book</button>
      <button type="button" onClick={() => reset()}>
        Start over
      </button>
    </form>
  );
}
