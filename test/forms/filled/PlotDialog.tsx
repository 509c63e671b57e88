import { useReducer, useState } from 'react';

type Plot = { name: string; rows: string; note: string };

type Action =
  | { type: 'opened'; plot: Plot }
  | { type: 'typed'; key: keyof Plot; value: string }
  | { type: 'closed' };

function reducer(state: Plot | null, action: Action): Plot | null {
  switch (action.type) {
    case 'opened':
      return action.plot;
    case 'typed':
      return state && { ...state, [action.key]: action.value };
    case 'closed':
      return null;
  }
}

export function PlotDialog({ plots, onBook }: { plots: Plot[]; onBook(plot: Plot): void }) {
  const [plot, dispatch] = useReducer(reducer, null);
  const [booked, setBooked] = useState(0);

  return (
    <div>
      {plots.map((one) => (
        <button key={one.name} type="button" onClick={() => dispatch({ type: 'opened', plot: one })}>
          {one.name}
        </button>
      ))}
      {plot && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            onBook(plot);
            setBooked(booked + 1);
            dispatch({ type: 'closed' });
          }}
        >
          <input aria-label="Name" value={plot.name} onChange={(e) => dispatch({ type: 'typed', key: 'name', value: e.target.value })} />
          <input aria-label="Rows" value={plot.rows} onChange={(e) => dispatch({ type: 'typed', key: 'rows', value: e.target.value })} />
          <input aria-label="Note" value={plot.note} onChange={(e) => dispatch({ type: 'typed', key: 'note', value: e.target.value })} />
          <button type="submit">Book</button>
        </form>
      )}
      <p>{booked} booked</p>
    </div>
  );
}
