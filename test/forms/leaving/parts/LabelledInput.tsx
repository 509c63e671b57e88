import { forwardRef, useId, type InputHTMLAttributes } from 'react';

interface LabelledInputProps extends InputHTMLAttributes<HTMLInputElement> {
  label: string;
  error?: string;
}

export const LabelledInput = forwardRef<HTMLInputElement, LabelledInputProps>(function LabelledInput(
  { label, error, ...rest },
  ref,
) {
  const id = useId();
  return (
    <div className="line">
      <label htmlFor={id}>{label}</label>
      <input id={id} ref={ref} aria-invalid={!!error} {...rest} />
      {error && <em>{error}</em>}
    </div>
  );
});
