import React from 'react';

// the sheet is loaded when a hive is chosen
export default function HiveSheet({ hive, fetchSheet, onSave }) {
  const [sheet, setSheet] = React.useState();
  const [busy, setBusy] = React.useState(false);

  React.useEffect(() => {
    Promise.resolve(fetchSheet(hive)).then(setSheet);
  }, [hive, fetchSheet]);

  function change(event) {
    const { name, value } = event.target;
    setSheet((prev) => ({ ...prev, [name]: value }));
  }

  async function submit(event) {
    event.preventDefault();
    setBusy(true);
    try {
      await onSave({ ...sheet, hive });
    } finally {
      setBusy(false);
    }
  }

  return (
    <section>
      <h3>Hive {hive}</h3>
      {sheet ? (
        <form onSubmit={submit}>
          <input name="queen" aria-label="Queen" value={sheet.queen} onChange={change} />
          <input name="frames" aria-label="Frames" value={sheet.frames} onChange={change} />
          <textarea name="notes" aria-label="Notes" value={sheet.notes} onChange={change} />
          <button disabled={busy}>Save</button>
        </form>
      ) : (
        <p>Loading</p>
      )}
    </section>
  );
}
