import * as React from 'react';

export type Checks<T> = (draft: T) => Partial<Record<keyof T, string>>;

/** Text values of a draft, with a rule for each and the fields that were left. */
export function useDraft<T extends Record<string, string>>(initial: T, checks: Checks<T>, onSend: (draft: T) => void) {
  const [draft, setDraft] = React.useState(initial);
  const [left, setLeft] = React.useState<Partial<Record<keyof T, boolean>>>({});

  const errors = checks(draft);
  const valid = Object.values(errors).every((error) => !error);

  // everything one input needs
  const field = (name: keyof T & string) => ({
    name,
    value: draft[name],
    onChange: (event: React.ChangeEvent<HTMLInputElement>) => setDraft((old) => ({ ...old, [name]: event.target.value })),
    onBlur: () => setLeft((old) => ({ ...old, [name]: true })),
  });

  const send = (event: React.FormEvent) => {
    event.preventDefault();
    if (!valid) return;
    onSend(draft);
    setDraft(initial);
    setLeft({});
  };

  return { draft, errors, left, valid, field, send };
}
