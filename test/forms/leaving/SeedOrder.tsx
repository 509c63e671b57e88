import * as React from 'react';
import { FormProvider, useForm } from 'react-hook-form';
import { AddressBlock as Where } from './parts/AddressBlock';
import Lines from './parts/Lines';
import { emptyOrder, type SeedOrder as Values } from './parts/seeds';

// what the seed store sends out
const SeedOrder: React.FC<{ onOrder: (order: Values) => void; express?: boolean }> = ({ onOrder, express = false }) => {
  const form = useForm<Values>({ defaultValues: emptyOrder, mode: 'onChange' });
  const [open, setOpen] = React.useState(true);
  const total = form.watch('lines').length;
  return (
    <FormProvider {...form}>
      <form onSubmit={form.handleSubmit((order) => onOrder(order))} className="order" noValidate>
        <h3>Seeds {express && '(express)'}</h3>
        <button type="button" onClick={() => setOpen((now) => !now)}>{open ? 'Fold' : 'Unfold'}</button>
        <input aria-label="Customer" {...form.register('customer', { required: 'Who orders?' })} />
        {form.formState.errors.customer && <span>{form.formState.errors.customer.message}</span>}
        {open && <Where />}
        <Lines most={3} />
        <p>{total} lines</p>
        <button disabled={form.formState.isSubmitting}>Order</button>
        <button type="button" onClick={() => form.reset()}>Start again</button>
      </form>
    </FormProvider>
  );
};

export default SeedOrder;
