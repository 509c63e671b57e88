import { useReducer } from 'react';

const TYPES = { EDIT: 'edit', EGGS: 'eggs', CLEAR: 'clear' };

const clean = { box: '', owls: 'barn', eggs: 0, seen: '' };

export default function OwlBox({ onSeen, boxes }) {
  const [form, dispatch] = useReducer((form, action) => {
    switch (action.type) {
      case TYPES.EDIT:
        return { ...form, [action.name]: action.value };
      case TYPES.EGGS:
        return Object.is(action.eggs, form.eggs) ? form : { ...form, eggs: action.eggs };
      case TYPES.CLEAR:
        return { ...clean, owls: form.owls };
      default:
        return form;
    }
  }, clean);

  const edit = (name, value) => dispatch({ type: TYPES.EDIT, name, value });

  return (
    <form onSubmit={(e) => { e.preventDefault(); onSeen(form); dispatch({ type: TYPES.CLEAR }); }}>
      <select aria-label="Box" value={form.box} onChange={(e) => edit('box', e.target.value)}>
        <option value="">which box?</option>
        {boxes.map((box) => <option key={box}>{box}</option>)}
      </select>
      <label><input type="radio" checked={form.owls === 'barn'} onChange={() => edit('owls', 'barn')} /> Barn owl</label>
      <label><input type="radio" checked={form.owls === 'tawny'} onChange={() => edit('owls', 'tawny')} /> Tawny owl</label>
      <input aria-label="Seen by" value={form.seen} onChange={(e) => edit('seen', e.target.value)} />
      <button>Seen</button>
    </form>
  );
}
