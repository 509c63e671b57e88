import { useReducer } from 'react';

function init() {
  return { hedge: '', metres: 10, height: 1.5, birds: false, when: new Date(Date.UTC(2026, 9, 1)).toISOString().slice(0, 10) };
}

// nothing is cut while birds are nesting
function hedgeReducer(state, { type, payload }) {
  switch (type) {
    case 'hedge':
      return { ...state, hedge: payload };
    case 'longer':
      return { ...state, metres: state.metres + payload };
    case 'height':
    case 'low':
      return { ...state, height: payload };
    case 'birds':
      return { ...state, birds: !state.birds };
    case 'when':
      return { ...state, when: payload };
    case 'again':
      return init();
    default:
      throw new Error('unknown ' + type);
  }
}

export function HedgeCut({ onCut }) {
  const [state, dispatch] = useReducer(hedgeReducer, undefined, init);


  return (
    <form onSubmit={(e) => { e.preventDefault(); if (state.birds) return; onCut({ ...state, metres: Number(state.metres) }); dispatch({ type: 'again' }); }}>
      <label>Hedge <input value={state.hedge} onChange={(e) => dispatch({ type: 'hedge', payload: e.target.value })} /></label>
      <button type="button" onClick={() => dispatch({ type: 'longer', payload: 5 })}>{state.metres} m</button>
      <label>Height <input type="number" value={state.height} onChange={(e) => dispatch({ type: 'height', payload: e.target.valueAsNumber || 0 })} /></label>
      <button type="button" onClick={() => dispatch({ type: 'low', payload: 1 })}>Low</button>
      <label><input type="checkbox" checked={state.birds} onChange={() => dispatch({ type: 'birds' })} /> Birds nesting</label>
      <label>When <input type="date" value={state.when} onChange={({ target }) => dispatch({ type: 'when', payload: target.value })} /></label>
      {state.birds && <p>Wait for the birds.</p>}
      <button>Cut</button>
    </form>
  );
}
