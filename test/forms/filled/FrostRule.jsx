import { useEffect, useState } from 'react';
import { loadRule } from './parts/rules';

/** Loads the rule of a station and lets a person change it. */
export function FrostRule({ station, saveRule }) {
  const [rule, setRule] = useState(null);
  const [error, setError] = useState('');

  useEffect(() => {
    async function run() {
      try {
        const answer = await loadRule(station);
        setRule({ limit: answer.limit, mobile: answer.mobile, active: answer.active });
      } catch {
        setError('The station does not answer.');
      }
    }
    run();
  }, [station]);

  const submit = async (e) => {
    e.preventDefault();
    const answer = await saveRule(station, rule);
    if (answer === 'late') setError('Somebody else changed it.');
    else setRule(null);
  };

  if (error) return <p className="error">{error}</p>;
  if (!rule) return null;

  return (
    <form className="rule" onSubmit={submit}>
      <label>
        Warn below
        <input type="number" value={rule.limit} onChange={(e) => setRule({ ...rule, limit: e.target.valueAsNumber })} />
      </label>
      <label>
        Mobile
        <input value={rule.mobile} onChange={({ target }) => setRule((r) => ({ ...r, mobile: target.value }))} />
      </label>
      <label>
        <input type="checkbox" checked={rule.active} onChange={() => setRule((r) => ({ ...r, active: !r.active }))} /> on
      </label>
      <button>Save</button>
    </form>
  );
}
