import { useState, useEffect } from 'react';
import { loadLog, saveLog } from './parts/logs';

const defaults = () => ({ tree: '', crates: 1, ripe: false, picker: 'nobody' });

// One log is edited at a time.
export default function HarvestEdit(props) {
  const { id, pickers, onDone } = props;
  const [log, setLog] = useState(defaults());
  const [problems, setProblems] = useState([]);
  const [state, setState] = useState('idle');

  useEffect(() => {
    let gone = false;
    if (!id) return undefined;
    setState('loading');
    loadLog(id).then((found) => {
      if (gone) return;
      setLog({ ...defaults(), ...found });
      setState('idle');
    });
    return () => {
      gone = true;
    };
  }, [id]);

  function set(patch) {
    setLog((l) => ({ ...l, ...patch }));
  }

  function validate() {
    const found = [];
    if (!log.tree) found.push('Which tree?');
    if (log.crates < 1 || log.crates > 40) found.push('Between 1 and 40 crates');
    return found;
  }

  async function onSubmit(ev) {
    ev.preventDefault();
    const found = validate();
    setProblems(found);
    if (found.length) return;
    setState('saving');
    try {
      await saveLog(id, log);
      onDone();
    } catch (e) {
      setProblems([e.message]);
    }
    setState('idle');
  }

  if (state === 'loading') return <p>Loading…</p>;
  return (
    <form onSubmit={onSubmit}>
      {problems.map((p) => (
        <p key={p} className="problem">
          {p}
        </p>
      ))}
      <input placeholder="Tree" value={log.tree} onChange={(ev) => set({ tree: ev.target.value.toUpperCase() })} />
      <input type="number" placeholder="Crates" value={log.crates} onChange={(ev) => set({ crates: +ev.target.value })} />
      <input type="checkbox" checked={log.ripe} onChange={() => set({ ripe: !log.ripe })} /> Ripe
      <select value={log.picker} onChange={(ev) => set({ picker: ev.target.value })}>
        {pickers.map((p) => (
          <option key={p} value={p}>
            {p}
          </option>
        ))}
      </select>
      <button type="button" onClick={() => { setLog(defaults()); setProblems([]); }}>Clear</button>
      <button type="submit" disabled={state === 'saving'}>Save</button>
    </form>
  );
}
