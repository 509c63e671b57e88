import { useEffect, useState } from 'react';

async function load(turn) {
  const response = await fetch('/turns/' + turn);
  return response.json();
}

// Water comes by turns; each member opens the sluice for a while.
const WaterTurn = ({ turn, done = () => {} }) => {
  const [minutes, setMinutes] = useState(20);
  const [channel, setChannel] = useState('east');
  const [note, setNote] = useState('');
  const [count, setCount] = useState(0);
  const [loading, setLoading] = useState(true);
  const [error, setError] = useState(null);

  useEffect(() => {
    let alive = true;
    load(turn)
      .then((data) => {
        if (!alive) return;
        setMinutes(data.minutes ?? 25);
        setNote(data.note || '');
      })
      .catch((e) => setError(e.message))
      .finally(() => setLoading(false));
    return () => {
      alive = false;
    };
  }, [turn]);

  useEffect(() => {
    if (!note) return;
    const timer = setTimeout(() => {
      setNote(note.trim());
      setCount((c) => c + note.length);
    }, 300);
    return () => clearTimeout(timer);
  }, [note]);

  const submit = async (e) => {
    e.preventDefault();
    setError(null);
    const answer = await fetch('/turns', { method: 'POST', body: JSON.stringify({ minutes, channel, note, count }) });
    if (!answer.ok) {
      setError('The sluice keeper did not answer');
      return;
    }
    setMinutes(minutes + 5);
    Promise.resolve('west').then(setChannel);
    done();
  };

  if (loading) return <p>Loading…</p>;

  return (
    <form onSubmit={submit}>
      {error ? <p className="error">{error}</p> : null}
      <label>
        Minutes
        <input type="number" value={minutes} onChange={(e) => setMinutes(parseInt(e.target.value, 10) || 0)} />
      </label>
      <label>
        Channel
        <select value={channel} onChange={(e) => setChannel(e.target.value)}>
          <option>east</option>
          <option>west</option>
        </select>
      </label>
      <label>
        Note
        <input value={note} onChange={(e) => setNote(e.target.value)} />
      </label>
      <p>{count}</p>
      <input type="submit" value="Open the sluice" />
    </form>
  );
};

export default WaterTurn;
