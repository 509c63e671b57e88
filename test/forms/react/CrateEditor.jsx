import React, { useState } from 'react';

const blank = { row: '', kilos: 0, ripe: false };

export default function CrateEditor({ crate, onSave, onCancel }) {
  const [form, setForm] = useState(crate ? { ...blank, ...crate } : blank);

  const handleChange = (e) => {
    const { name, value, type, checked } = e.target;
    setForm((prev) => ({ ...prev, [name]: type === 'checkbox' ? checked : value }));
  };

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onSave(form);
      }}
    >
      <input name="row" value={form.row} onChange={handleChange} />
      <input name="kilos" type="number" value={form.kilos} onChange={handleChange} />
      <input name="ripe" type="checkbox" checked={form.ripe} onChange={handleChange} />
      <button type="button" onClick={() => setForm(crate ?? blank)}>Undo</button>
      <button type="button" onClick={onCancel}>Cancel</button>
      <button>Save</button>
    </form>
  );
}
