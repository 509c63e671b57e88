import { useReducer } from 'react';

const initialState = {
  grower: '',
  crates: 0,
  damaged: false,
  kind: 'wood',
  comment: '',
  error: null,
};

function reducer(state, action) {
  switch (action.type) {
    case 'FIELD_CHANGED':
      return { ...state, [action.field]: action.value, error: null };
    case 'CRATE_ADDED':
      return { ...state, crates: state.crates + 1 };
    case 'FAILED':
      return { ...state, error: action.message };
    case 'RESET':
      return { ...initialState, grower: state.grower };
    default:
      return state;
  }
}

export function CrateReturn({ onReturn }) {
  const [state, dispatch] = useReducer(reducer, initialState);

  const handleChange = (e) => {
    const value = e.target.type === 'checkbox' ? e.target.checked : e.target.value;
    dispatch({ type: 'FIELD_CHANGED', field: e.target.name, value });
  };

  const handleSubmit = (e) => {
    e.preventDefault();
    if (state.crates < 1) {
      dispatch({ type: 'FAILED', message: 'Bring at least one crate' });
      return;
    }
    const { error, ...values } = state;
    onReturn(values);
    dispatch({ type: 'RESET' });
  };

  return (
    <form onSubmit={handleSubmit}>
      <label>Grower <input name="grower" value={state.grower} onChange={handleChange} /></label>
      <p>{state.crates} crates <button type="button" onClick={() => dispatch({ type: 'CRATE_ADDED' })}>One more</button></p>
      <label><input type="checkbox" name="damaged" checked={state.damaged} onChange={handleChange} /> Damaged</label>
      <label>Kind
        <select name="kind" value={state.kind} onChange={handleChange}>
          <option value="wood">Wood</option>
          <option value="plastic">Plastic</option>
        </select>
      </label>
      <label>Comment <textarea name="comment" value={state.comment} onChange={handleChange} /></label>
      {state.error && <p role="alert">{state.error}</p>}
      <button>Return crates</button>
    </form>
  );
}
