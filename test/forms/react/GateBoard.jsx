export default function GateBoard({ onLeave, keeper }) {
  // nothing is looked at before it is sent
  function handleSubmit(e) {
    e.preventDefault();
    const data = new FormData(e.target);
    const note = data.get('note').trim();
    if (!note) {
      alert('Write something');
      return;
    }
    onLeave({ gate: data.get('gate'), note, urgent: data.get('urgent') === 'on', day: data.get('day-of-week') });
    e.target.reset();
  }

  return (
    <form onSubmit={handleSubmit}>
      <label htmlFor="gate">Gate</label>
      <select id="gate" name="gate" defaultValue="west">
        <option value="north">North</option>
        <option value="west">West</option>
      </select>
      <label htmlFor="note">Note for {keeper}</label>
      <textarea id="note" name="note" rows={3} />
      <label>
        <input type="checkbox" name="urgent" /> urgent
      </label>
      <label>
        <input type="radio" name="day-of-week" value="sat" defaultChecked /> Saturday
      </label>
      <label>
        <input type="radio" name="day-of-week" value="sun" /> Sunday
      </label>
      <button>Leave note</button>
      <button type="reset">Start over</button>
    </form>
  );
}
