import { useReducer } from 'react';

type State = {
  pest: string;
  tree: string;
  leaves: number;
  spreading: boolean;
  treatment: 'none' | 'soap' | 'lime';
  tried: boolean;
};

type Action =
  | { type: 'field'; name: 'pest' | 'tree'; value: string }
  | { type: 'leaves'; by: number }
  | { type: 'spreading' }
  | { type: 'treated'; with: State['treatment'] }
  | { type: 'tried' }
  | { type: 'sent' };

const nothing: State = { pest: '', tree: '', leaves: 0, spreading: false, treatment: 'none', tried: false };

function sighting(state: State, action: Action): State {
  switch (action.type) {
    case 'field':
      return { ...state, [action.name]: action.value };
    case 'leaves':
      // never fewer than none
      return { ...state, leaves: Math.max(0, state.leaves + action.by) };
    case 'spreading':
      return { ...state, spreading: !state.spreading };
    case 'treated':
      return { ...state, treatment: action.with };
    case 'tried':
      return { ...state, tried: true };
    case 'sent':
      return nothing;
  }
}

export function PestSighting({ onSighted }: { onSighted: (seen: Omit<State, 'tried'>) => void }) {
  const [state, dispatch] = useReducer(sighting, nothing);
  const { pest, tree, leaves, spreading } = state;
  const missing = state.tried && !pest;

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (!pest) {
          dispatch({ type: 'tried' });
          return;
        }
        onSighted({ pest, tree, leaves, spreading, treatment: state.treatment });
        dispatch({ type: 'sent' });
      }}
    >
      <label>
        Pest
        <input
          value={pest}
          aria-invalid={missing}
          onChange={(e) => dispatch({ type: 'field', name: 'pest', value: e.target.value })}
        />
      </label>
      {missing && <p role="alert">What did you see?</p>}

      <label>
        Tree
        <input value={tree} onChange={(e) => dispatch({ type: 'field', name: 'tree', value: e.target.value.trim() })} />
      </label>

      <p>
        Leaves: {leaves}
        <button type="button" onClick={() => dispatch({ type: 'leaves', by: 1 })}>
          One more
        </button>
        <button type="button" onClick={() => dispatch({ type: 'leaves', by: -10 })}>
          Ten fewer
        </button>
      </p>

      <label>
        <input type="checkbox" checked={spreading} onChange={() => dispatch({ type: 'spreading' })} /> Spreading
      </label>

      <label>
        Treatment
        <select
          value={state.treatment}
          onChange={(e) => {
            const given = e.target.value;
            if (given === 'none' || given === 'soap' || given === 'lime') dispatch({ type: 'treated', with: given });
          }}
        >
          <option value="none">None yet</option>
          <option value="soap">Soft soap</option>
          <option value="lime">Lime wash</option>
        </select>
      </label>

      <button>Report</button>
    </form>
  );
}
