import { useState, type ChangeEvent, type FormEvent } from 'react';

type Trap = { place: string; caught: number; bait: string };
type Problems = { place?: string; caught?: string };

const emptyTrap = (): Trap => ({ place: '', caught: 0, bait: 'juice' });

function problemsOf({ place, caught }: Trap): Problems {
  const problems: Problems = {};
  if (place.trim().length < 3) problems.place = 'Three letters at least';
  if (caught < 0) problems.caught = 'Nothing less than none';
  return problems;
}

export const WaspTrap = ({ onSave }: { onSave(trap: Trap): void }) => {
  const [trap, setTrap] = useState(emptyTrap);
  const [touched, setTouched] = useState({ place: false, caught: false });
  const problems = problemsOf(trap);
  const { place, bait } = trap;

  const placeChanged = ({ target }: ChangeEvent<HTMLInputElement>) => setTrap({ ...trap, place: target.value });

  const save = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    setTouched({ place: true, caught: true });
    if (Object.keys(problems).length > 0) return;
    onSave(trap);
    setTrap(emptyTrap());
    setTouched({ place: false, caught: false });
  };

  return (
    <form onSubmit={save} className="trap" noValidate>
      <label htmlFor="place">Place</label>
      <input id="place" value={place} onChange={placeChanged} onBlur={() => setTouched((t) => ({ ...t, place: true }))} />
      {touched.place && problems.place && <em>{problems.place}</em>}
      <label htmlFor="caught">Caught</label>
      <input
        id="caught"
        type="number"
        value={trap.caught}
        onChange={(event) => setTrap({ ...trap, caught: event.target.valueAsNumber || 0 })}
        onBlur={() => setTouched((t) => ({ ...t, caught: true }))}
      />
      {touched.caught && problems.caught && <em>{problems.caught}</em>}
      <label htmlFor="bait">Bait</label>
      <select id="bait" value={bait} onChange={(event) => setTrap((old) => ({ ...old, bait: event.target.value }))}>
        <option value="juice">Juice</option>
        <option value="beer">Beer</option>
      </select>
      <button>Save the trap</button>
      <p>{`${trap.caught} wasps like ${bait}`}</p>
    </form>
  );
};
