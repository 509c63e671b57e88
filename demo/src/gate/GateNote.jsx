/** A note for whoever opens the gate in the morning; read off the page when it is sent. */
export function GateNote({ leaveNote }) {
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const data = new FormData(event.currentTarget);
        leaveNote({ from: data.get('from'), note: data.get('note') });
        event.currentTarget.reset();
      }}
    >
      <label>From <input name="from" /></label>
      <label>Note <textarea name="note" defaultValue="Please close the gate." /></label>
      <button>Leave note</button>
    </form>
  );
}
