import { useRef, useState, type FormEvent } from 'react';

interface Loan {
  who: string;
  metres: number;
  until: string;
}

export function HoseReel({ lend, longest = 50 }: { lend: (loan: Loan) => Promise<void>; longest?: number }) {
  const whoRef = useRef<HTMLInputElement>(null);
  const metresRef = useRef<HTMLInputElement>(null);
  const until = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState('');

  const handle = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const who = whoRef.current!.value;
    const metres = Number(metresRef.current?.value ?? '');
    if (!who) {
      setProblem('Who takes it?');
      whoRef.current?.focus();
      return;
    }
    if (metres > longest) return setProblem(`At most ${longest} m`);
    setProblem('');
    await lend({ who, metres, until: until.current?.value ?? '' });
    if (whoRef.current) whoRef.current.value = '';
  };

  return (
    <form onSubmit={handle} noValidate>
      <input ref={whoRef} placeholder="Who" />
      <input ref={metresRef} type="number" placeholder="Metres" defaultValue={longest} onChange={() => setProblem('')} />
      <input ref={until} type="date" aria-label="Until" />
      {problem && <strong>{problem}</strong>}
      <button type="submit">Lend</button>
    </form>
  );
}
