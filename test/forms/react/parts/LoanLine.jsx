import { useState } from 'react';

export default function LoanLine({ label, help, onChange, ...rest }) {
  const [left, setLeft] = useState(false);
  return (
    <p className={left ? 'line line-left' : 'line'}>
      <label>
        {label} <input {...rest} onChange={onChange} onBlur={() => setLeft(true)} />
      </label>
      {help && <small>{help}</small>}
    </p>
  );
}
