import * as React from 'react';

type Booking = { plot: number | ''; from: string; to: string; helpers: string[]; tools: { ladder: boolean; cart: boolean } };

const make = (plot?: number): Booking => ({ plot: plot ?? '', from: '', to: '', helpers: [], tools: { ladder: false, cart: false } });

interface PlotBookProps {
  plot?: number;
  people: readonly string[];
  book: (booking: Booking) => Promise<void>;
}

export const PlotBook: React.FC<PlotBookProps> = ({ plot, people, book }) => {
  const [booking, setBooking] = React.useState<Booking>(() => make(plot));
  const [busy, setBusy] = React.useState(false);
  const [problem, setProblem] = React.useState<string>();
  const [open, setOpen] = React.useState(false);

  React.useEffect(() => {
    setBooking(make(plot));
  }, [plot]);

  const patch = (part: Partial<Booking>) => setBooking((b) => ({ ...b, ...part }));
  const toggle = (who: string) =>
    setBooking((b) => ({
      ...b,
      helpers: b.helpers.includes(who) ? b.helpers.filter((h) => h !== who) : [...b.helpers, who],
    }));

  const days = booking.from && booking.to ? (Date.parse(booking.to) - Date.parse(booking.from)) / 864e5 + 1 : 0;

  async function onSubmit(e: React.FormEvent<HTMLFormElement>) {
    e.preventDefault();
    if (booking.plot === '') return setProblem('Which plot?');
    if (days < 1) return setProblem('It ends before it begins');
    setProblem(undefined);
    setBusy(true);
    await book(booking).then(
      () => setBooking(make(plot)),
      (error: Error) => setProblem(error.message),
    );
    setBusy(false);
  }

  return (
    <form onSubmit={onSubmit}>
      <input
        aria-label="Plot"
        type="number"
        value={booking.plot}
        onChange={(e) => patch({ plot: e.target.value === '' ? '' : e.target.valueAsNumber })}
      />
      <input aria-label="From" type="date" value={booking.from} onChange={({ target }) => patch({ from: target.value })} />
      <input aria-label="To" type="date" value={booking.to} min={booking.from} onChange={({ target }) => patch({ to: target.value })} />
      {people.map((who) => (
        <label key={who}>
          <input type="checkbox" checked={booking.helpers.includes(who)} onChange={() => toggle(who)} /> {who}
        </label>
      ))}
      <fieldset hidden={!open}>
        <input
          type="checkbox"
          aria-label="Ladder"
          checked={booking.tools.ladder}
          onChange={(e) => setBooking({ ...booking, tools: { ...booking.tools, ladder: e.target.checked } })}
        />
        <input
          type="checkbox"
          aria-label="Cart"
          checked={booking.tools.cart}
          onChange={(e) => setBooking({ ...booking, tools: { ...booking.tools, cart: e.target.checked } })}
        />
      </fieldset>
      <button type="button" onClick={() => setOpen((o) => !o)}>
        Tools
      </button>
      {problem && <p role="alert">{problem}</p>}
      <p>{days} days</p>
      <button disabled={busy}>Book</button>
    </form>
  );
};
