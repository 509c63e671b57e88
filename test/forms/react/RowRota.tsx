import { useState, type FormEvent } from 'react';
import { useCrew } from './parts/crew';

/** Who prunes which row, and for how long. */
export const RowRota = () => {
  const crew = useCrew();
  const [row, setRow] = useState('');
  const [hours, setHours] = useState(2);
  const [told, setTold] = useState('');

  const book = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const { id } = await crew.book(row, hours);
      setTold(`booked as ${id}`);
      setRow(''); // the hours are mostly the same
    } catch {
      setTold('not booked');
    }
  };

  return (
    <form onSubmit={book}>
      <h3>{crew.name}</h3>
      <select aria-label="Row" required value={row} onChange={(e) => setRow(e.target.value)}>
        <option value="">Which row?</option>
        {crew.rows.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
      <input aria-label="Hours" type="number" min={1} value={hours} onChange={(e) => setHours(Number(e.target.value))} />
      <output>{told}</output>
      <button disabled={!row}>Book</button>
    </form>
  );
};
