import { useField } from 'formik';
import type { InputHTMLAttributes } from 'react';

type TextLineProps = { label: string; name: string } & InputHTMLAttributes<HTMLInputElement>;

export function TextLine({ label, ...props }: TextLineProps) {
  const [field, meta] = useField(props.name);
  const bad = Boolean(meta.touched && meta.error);
  return (
    <label className={bad ? 'line bad' : 'line'}>
      {label}
      <input {...props} {...field} />
      {bad && <small>{meta.error}</small>}
    </label>
  );
}

export function SelectLine({ name, label, options }: { name: string; label: string; options: string[] }) {
  const [field, { touched, error }] = useField<string>({ name });
  return (
    <label>
      {label}
      <select {...field}>
        <option value="">choose</option>
        {options.map((option) => (
          <option key={option} value={option}>
            {option}
          </option>
        ))}
      </select>
      {touched && error && <small>{error}</small>}
    </label>
  );
}
