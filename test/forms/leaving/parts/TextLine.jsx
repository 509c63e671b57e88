import { useFormContext } from 'react-hook-form';

// one line of a form
export const TextLine = ({ name, label, rules, ...rest }) => {
  const {
    register,
    formState: { errors },
  } = useFormContext();
  const problem = errors[name];

  return (
    <p>
      <label htmlFor={name}>{label}</label>
      <input id={name} {...register(name, rules)} {...rest} className={problem ? 'bad' : ''} />
      {problem && <span role="alert">{problem.message}</span>}
    </p>
  );
};
