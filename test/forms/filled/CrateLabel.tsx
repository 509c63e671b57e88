import * as React from 'react';
import type { ChangeEvent } from 'react';

export type Crate = {
  number: number;
  sort: 'Boskoop' | 'Topaz';
  weight: number | null;
  remark?: string;
};

type Props = {
  crates: Crate[];
  onPrint: (crate: Crate) => void;
};

const CrateLabel: React.FC<Props> = ({ crates, onPrint }) => {
  const [chosen, setChosen] = React.useState<Crate>();
  const [copies, setCopies] = React.useState(1);

  const choose = (event: ChangeEvent<HTMLSelectElement>) => {
    const found = crates.find((crate) => crate.number === Number(event.target.value));
    setChosen(found);
  };

  // only what is on the label
  const print = () => {
    if (!chosen) return;
    onPrint(chosen);
  };

  return (
    <div>
      <select aria-label="Crate" defaultValue="" onChange={choose}>
        <option value="">none</option>
        {crates.map((crate) => (
          <option key={crate.number} value={crate.number}>
            {crate.number}
          </option>
        ))}
      </select>
      {chosen !== undefined && (
        <fieldset>
          <select
            aria-label="Sort"
            value={chosen.sort}
            onChange={(e) => setChosen({ ...chosen, sort: e.target.value as Crate['sort'] })}
          >
            <option>Boskoop</option>
            <option>Topaz</option>
          </select>
          <input
            aria-label="Weight"
            value={chosen.weight ?? ''}
            onChange={(e) => setChosen({ ...chosen, weight: e.target.value === '' ? null : Number(e.target.value) })}
          />
          <input aria-label="Remark" value={chosen.remark ?? ''} onChange={(e) => setChosen({ ...chosen, remark: e.target.value })} />
        </fieldset>
      )}
      <input aria-label="Copies" type="number" value={copies} onChange={(e) => setCopies(Number(e.target.value))} />
      <button type="button" onClick={print} disabled={!chosen}>
        Print
      </button>
      <button type="button" onClick={() => setChosen(undefined)}>
        None
      </button>
    </div>
  );
};

export default CrateLabel;
