import { useState } from 'react';
import Fields from './parts/TagFields';
export default function TreeTag({ save }) {
  const [formData, setFormData] = useState({ tree: '', row: '1', ripe: false });
  return (
    <form onSubmit={(e) => { e.preventDefault(); save(formData); }}>
      <Fields formData={formData} setFormData={setFormData} />
      <button>Save</button>
    </form>
  );
}
