import { useState } from 'react';
import type { FormEvent } from 'react';

export function StakeOrder({ order, largest }: { order: (stakes: { row: string; pieces: number; wood: string; tar: boolean; when: string }) => void; largest: number }) {
  // on the map's grid
  const [row, setRow] = useState('');
  const [pieces, setPieces] = useState('10');
  const [wood, setWood] = useState('chestnut');
  const [tar, setTar] = useState(false);
  const [when, setWhen] = useState('spring'); // or autumn
  const [problem, setProblem] = useState<string>();

  function handleOrder(event: FormEvent) {
    event.preventDefault();
    if (row.trim() === '') return setProblem('Which row?');
    if (Number(pieces) > largest) {
      setProblem(`At most ${largest}`);
      return;
    }
    setProblem(undefined);
    order({ row, pieces: Number(pieces), wood, tar, when });
    setRow('');
    setPieces('10');
    setWood('chestnut');
    setTar(false);
    setWhen('spring');
  }

  return (
    <form onSubmit={handleOrder}>
      <label>
        Row <input name="row" value={row} onChange={(e) => setRow(e.target.value)} />
      </label>
      <label>
        Pieces <input type="number" value={pieces} onChange={(e) => setPieces(e.target.value)} />
      </label>
      <select aria-label="Wood" value={wood} onChange={({ target }) => setWood(target.value)}>
        <option value="oak">Oak</option>
        <option value="chestnut">Chestnut</option>
      </select>
      <label>
        <input type="checkbox" checked={tar} onChange={() => setTar(!tar)} /> tarred
      </label>
      <label>
        <input type="radio" name="when" value="spring" checked={when === 'spring'} onChange={(e) => setWhen(e.target.value)} /> spring
      </label>
      <label>
        <input type="radio" name="when" value="autumn" checked={when === 'autumn'} onChange={(e) => setWhen(e.target.value)} /> autumn
      </label>
      {problem && <p role="alert">{problem}</p>}
      <button>Order</button>
    </form>
  );
}
