import * as React from "react";

type Props = {
  invite: (guest: { guest: string; litres: number }) => void;
  hire: (press: { press: string; hours: string; deposit: boolean }) => Promise<string>;
};

export default function CiderDay({ invite, hire }: Props) {
  const [guest, setGuest] = React.useState("");
  const [litres, setLitres] = React.useState(2);
  const [guests, setGuests] = React.useState<string[]>([]);

  const [press, setPress] = React.useState("small");
  const [hours, setHours] = React.useState("1");
  const [deposit, setDeposit] = React.useState(false);
  const [answer, setAnswer] = React.useState<string | undefined>();

  function inviteGuest(e: React.FormEvent) {
    e.preventDefault();
    invite({ guest, litres });
    setGuests([...guests, guest]);
    setGuest("");
  }

  async function hirePress(e: React.FormEvent) {
    e.preventDefault();
    setAnswer("asking…");
    const text = await hire({ press, hours, deposit });
    setAnswer(text ?? "hired");
    setHours("1");
    setDeposit((paid) => !paid);
  }

  return (
    <div>
      <form id="guests" onSubmit={inviteGuest}>
        <input placeholder="Guest" value={guest} onChange={(e) => setGuest(e.target.value)} />
        <input type="number" aria-label="Litres" value={litres} onChange={(e) => setLitres(Number(e.target.value))} />
        <button>Invite</button>
        <ul>
          {guests.map((one, index) => (
            <li key={index}>{one}</li>
          ))}
        </ul>
      </form>
      {/* the press belongs to all of us */}
      <form id="press" onSubmit={hirePress}>
        <select aria-label="Press" value={press} onChange={(e) => setPress(e.target.value)}>
          <option value="small">Small press</option>
          <option value="large">Large press</option>
        </select>
        <input aria-label="Hours" value={hours} onChange={(e) => setHours(e.target.value.replace(/\D/g, ""))} />
        <label>
          <input type="checkbox" checked={deposit} onChange={(e) => setDeposit(e.target.checked)} /> Deposit paid
        </label>
        <button>Hire</button>
        {answer && <p>{answer}</p>}
      </form>
    </div>
  );
}
