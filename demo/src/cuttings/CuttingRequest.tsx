import { useState, type FormEvent } from 'react';

export interface Cutting {
  variety: string;
  rootstock: string;
  count: number;
  grafted: boolean;
  remark: string;
}

interface Props {
  rootstocks: string[];
  onRequest: (cutting: Cutting) => void;
}

// Members ask for cuttings in late winter, before the sap rises.
export function CuttingRequest({ rootstocks, onRequest }: Props) {
  const [variety, setVariety] = useState('');
  const [rootstock, setRootstock] = useState(rootstocks[0] ?? '');
  const [count, setCount] = useState(5); // sold in bundles of five
  const [grafted, setGrafted] = useState(false);
  const [remark, setRemark] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [showHelp, setShowHelp] = useState(false);

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!variety.trim()) {
      setProblem('Name the variety');
      return;
    }
    if (count > 50) {
      setProblem('Fifty cuttings at most');
      return;
    }
    setProblem(null);
    onRequest({ variety: variety.trim(), rootstock, count, grafted, remark });
    setVariety('');
    setCount(5);
    setGrafted(false);
    setRemark('');
  };

  return (
    <form className="cutting" onSubmit={submit}>
      <label htmlFor="variety">Variety</label>
      <input id="variety" value={variety} onChange={(e) => setVariety(e.target.value)} />

      <label htmlFor="rootstock">Rootstock</label>
      <select id="rootstock" value={rootstock} onChange={(e) => setRootstock(e.target.value)}>
        {rootstocks.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>

      <p>
        {count} cuttings
        <button type="button" onClick={() => setCount((n) => n + 5)}>
          More
        </button>
        <button type="button" onClick={() => setCount((n) => Math.max(5, n - 5))}>
          Fewer
        </button>
      </p>

      <label>
        <input type="checkbox" checked={grafted} onChange={(e) => setGrafted(e.target.checked)} /> Grafted already
      </label>

      <label htmlFor="remark">Remark</label>
      <textarea id="remark" value={remark} maxLength={120} onChange={(e) => setRemark(e.target.value)} />
      <small>{120 - remark.length} letters left</small>

      {problem && <p role="alert">{problem}</p>}
      <button type="button" onClick={() => setShowHelp(!showHelp)}>
        Help
      </button>
      {showHelp && <p>Cuttings are wrapped in damp moss.</p>}
      <button type="submit">Ask for cuttings</button>
    </form>
  );
}
