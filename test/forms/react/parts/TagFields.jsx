function Fields({ formData, setFormData }) {
  return (
    <div>
      <input aria-label="Tree" value={formData.tree} onChange={(e) => setFormData({ ...formData, tree: e.target.value })} />
      <input aria-label="Row" value={formData.row} onChange={(e) => setFormData({ ...formData, row: e.target.value })} />
      <input aria-label="Ripe" type="checkbox" checked={formData.ripe} onChange={(e) => setFormData({ ...formData, ripe: e.target.checked })} />
    </div>
  );
}
export default Fields;
