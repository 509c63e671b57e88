import useRecord from './parts/useRecord.js';

const blank = { row: '', size: 'pea', damage: '' };

export default function HailNote({ onSend, rows }) {
  const note = useRecord(blank, {
    check(values) {
      const out = {};
      if (!values.row) out.row = 'Which row?';
      if (values.damage.length > 80) out.damage = 'At most 80 letters';
      return out;
    },
    send: (values) => onSend({ ...values, damage: values.damage.trim() }),
  });

  return (
    <form onSubmit={note.onSubmit}>
      <label>
        Row
        <select {...note.bind('row')}>
          <option value="">…</option>
          {rows.map((row) => (
            <option key={row}>{row}</option>
          ))}
        </select>
      </label>
      {note.said.row && <em>{note.said.row}</em>}
      <label>
        Size
        <input {...note.bind('size')} />
      </label>
      <label>
        Damage
        <textarea {...note.bind('damage')} />
      </label>
      {note.said.damage && <em>{note.said.damage}</em>}
      <button disabled={note.busy}>Report hail</button>
      <button type="button" onClick={() => note.patch({ row: '', damage: '' })}>
        Empty
      </button>
    </form>
  );
}
