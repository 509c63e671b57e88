import { useEffect, useState, type FormEvent } from 'react';

interface Slot {
  id: number;
  title: string;
  start: string;
  end: string;
  people: number;
  open: boolean;
}

interface SlotEditProps {
  slotId: number;
  load(id: number): Promise<Slot>;
  save(slot: Slot): Promise<void>;
}

const blank = { title: '', start: '', end: '', people: 0, open: false };

export default function SlotEdit({ slotId, load, save }: SlotEditProps) {
  const [title, setTitle] = useState(blank.title);
  const [start, setStart] = useState(blank.start);
  const [end, setEnd] = useState(blank.end);
  const [people, setPeople] = useState(blank.people);
  const [open, setOpen] = useState(blank.open);
  const [loading, setLoading] = useState(true);
  const [saved, setSaved] = useState(false);
  const [problems, setProblems] = useState<string[]>([]);

  useEffect(() => {
    let cancelled = false;
    setLoading(true);
    load(slotId).then((slot) => {
      if (cancelled) return;
      setTitle(slot.title);
      setStart(slot.start);
      setEnd(slot.end);
      setPeople(slot.people);
      setOpen(slot.open);
      setLoading(false);
    });
    return () => {
      cancelled = true;
    };
  }, [slotId, load]);

  const check = () => {
    const list: string[] = [];
    if (title.trim() === '') list.push('A slot needs a title.');
    if (start && end && end < start) list.push('It ends before it starts.');
    if (!(people >= 1 && people <= 12)) list.push('Between 1 and 12 people.');
    setProblems(list);
    return list.length === 0;
  };

  const handle = async (e: FormEvent) => {
    e.preventDefault();
    setSaved(false);
    if (!check()) return;
    await save({ id: slotId, title: title.trim(), start, end, people, open });
    setSaved(true);
  };

  if (loading) return <p>Loading…</p>;

  return (
    <form onSubmit={handle} className={problems.length ? 'slot slot-bad' : 'slot'}>
      {problems.length > 0 && (
        <ul role="alert">
          {problems.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </ul>
      )}
      <label>
        Title <input value={title} maxLength={40} onChange={(e) => setTitle(e.target.value)} />
      </label>
      <span>{40 - title.length} left</span>
      <label>
        Start <input type="date" value={start} onChange={(e) => setStart(e.target.value)} />
      </label>
      <label>
        End <input type="date" min={start} value={end} onChange={(e) => setEnd(e.target.value)} />
      </label>
      <label>
        People <input type="number" value={people} onChange={(e) => setPeople(parseInt(e.target.value, 10) || 0)} />
      </label>
      <label>
        <input type="checkbox" checked={open} onChange={(e) => setOpen(e.target.checked)} /> Open to guests
      </label>
      <button type="submit">Save</button>
      {saved && <em>Saved</em>}
    </form>
  );
}
