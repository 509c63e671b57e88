import React, { useCallback, useEffect, useReducer, useRef } from 'react';
import type { PestKind, Report } from './parts/pests';
import { kinds, sendReport } from './parts/pests';

type FormErrors = Partial<Record<keyof Report, string>>;

interface State {
  values: Report;
  errors: FormErrors;
  touched: Partial<Record<keyof Report, true>>;
  sending: boolean;
}

type Action =
  | { type: 'change'; name: keyof Report; value: string }
  | { type: 'leave'; name: keyof Report }
  | { type: 'send' }
  | { type: 'sent' }
  | { type: 'failed'; errors: FormErrors };

const empty: Report = { plot: '', kind: 'aphid', count: '', note: '' };

function check(values: Report): FormErrors {
  const errors: FormErrors = {};
  if (!/^P\d+$/.test(values.plot)) errors.plot = 'Plots look like P12';
  if (Number(values.count) < 1) errors.count = 'Count at least one';
  return errors;
}

const reducer = (state: State, action: Action): State => {
  switch (action.type) {
    case 'change': {
      const values = { ...state.values, [action.name]: action.value };
      return { ...state, values, errors: state.touched[action.name] ? check(values) : state.errors };
    }
    case 'leave':
      return { ...state, touched: { ...state.touched, [action.name]: true }, errors: check(state.values) };
    case 'send':
      return { ...state, sending: true, errors: {} };
    case 'sent':
      return { values: empty, errors: {}, touched: {}, sending: false };
    case 'failed':
      return { ...state, sending: false, errors: action.errors };
  }
};

export function PestReport({ onSent }: { onSent: (kind: PestKind) => void }) {
  const [{ values, errors, sending }, dispatch] = useReducer(reducer, {
    values: empty,
    errors: {},
    touched: {},
    sending: false,
  });
  const plot = useRef<HTMLInputElement>(null);

  useEffect(() => plot.current?.focus(), []);

  const submit = useCallback(
    async (event: React.FormEvent) => {
      event.preventDefault();
      const found = check(values);
      if (Object.keys(found).length) {
        dispatch({ type: 'failed', errors: found });
        return;
      }
      dispatch({ type: 'send' });
      const answer = await sendReport(values);
      if (answer.ok) {
        dispatch({ type: 'sent' });
        onSent(values.kind);
      } else dispatch({ type: 'failed', errors: answer.errors });
    },
    [values, onSent],
  );

  return (
    <form onSubmit={submit} noValidate>
      <label htmlFor="plot">Plot</label>
      <input
        id="plot"
        ref={plot}
        value={values.plot}
        onChange={(e) => dispatch({ type: 'change', name: 'plot', value: e.target.value })}
        onBlur={() => dispatch({ type: 'leave', name: 'plot' })}
      />
      {errors.plot && <p role="alert">{errors.plot}</p>}
      <select value={values.kind} onChange={(e) => dispatch({ type: 'change', name: 'kind', value: e.target.value })}>
        {kinds.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      <input
        aria-label="Count"
        value={values.count}
        onChange={(e) => dispatch({ type: 'change', name: 'count', value: e.target.value })}
        onBlur={() => dispatch({ type: 'leave', name: 'count' })}
      />
      {errors.count && <p role="alert">{errors.count}</p>}
      <textarea value={values.note} onChange={(e) => dispatch({ type: 'change', name: 'note', value: e.target.value })} />
      <button disabled={sending}>{sending ? 'Sending' : 'Send'}</button>
    </form>
  );
}
