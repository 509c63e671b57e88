import { useReducer } from 'react';
import reducer, { initial } from './parts/cuttingReducer';

export default function CuttingDesk({ kinds, request }) {
  const [state, dispatch] = useReducer(reducer, initial);
  const { kind, count, rush, note, sent } = state;

  const handle = (e) => dispatch({ type: 'FIELD', payload: { name: e.target.name, value: e.target.value } });

  const submit = (e) => {
    e.preventDefault();
    if (!kind || count < 1) {
      dispatch({ type: 'COMPLAIN', payload: 'Kind and count are needed' });
      return;
    }
    request({ kind, count: Number(count), rush, note });
    dispatch({ type: 'DONE' });
  };

  return (
    <form onSubmit={submit}>
      <select name="kind" value={kind} onChange={handle}>
        <option value="">Which?</option>
        {kinds.map((k) => <option key={k} value={k}>{k}</option>)}
      </select>
      <input name="count" type="number" value={count} onChange={handle} />
      <button type="button" onClick={() => dispatch({ type: 'STEP', payload: 1 })}>+</button>
      <button type="button" onClick={() => dispatch({ type: 'STEP', payload: -1 })}>-</button>
      <label><input type="checkbox" checked={rush} onChange={() => dispatch({ type: 'TOGGLE', payload: 'rush' })} /> Rush</label>
      <textarea name="note" value={note} onChange={handle} />
      {state.complaint && <p>{state.complaint}</p>}
      <button>Ask for it</button>
      {sent > 0 && <p>{sent} asked for</p>}
    </form>
  );
}
