import { useCallback, useEffect, useState, type Dispatch, type SetStateAction } from "react";

const SHIFTS = { dawn: "05:30", noon: "11:00" } as const;

function useRemembered(key: string, value: string, set: (value: string) => void) {
  useEffect(() => {
    const kept = window.sessionStorage.getItem(key);
    if (kept) set(kept);
  }, [key, set]);
  useEffect(() => {
    window.sessionStorage.setItem(key, value);
  }, [key, value]);
}

function Stepper({ label, value, setValue }: { label: string; value: number; setValue: Dispatch<SetStateAction<number>> }) {
  return (
    <p>
      {label}: {value}
      <button type="button" onClick={() => setValue((v) => v + 1)}>
        {label} up
      </button>
      <button type="button" onClick={() => setValue(0)}>
        {label} none
      </button>
    </p>
  );
}

const Text = ({ label, value, onText }: { label: string; value: string; onText: (text: string) => void }) => (
  <label>
    {label} <input value={value} onChange={(e) => onText(e.target.value)} />
  </label>
);

export const PickersRota = ({ onRota }: { onRota: (rota: object) => void }) => {
  const [leader, setLeader] = useState("");
  const [pickers, setPickers] = useState(4);
  const [baskets, setBaskets] = useState(0);
  const [begins, setBegins] = useState<string>(SHIFTS.dawn);
  const [row, setRow] = useState("");

  useRemembered("leader", leader, setLeader);

  // baskets follow the pickers
  useEffect(() => {
    setBaskets(pickers * 2);
  }, [pickers]);

  useEffect(() => {
    setRow(row.toUpperCase());
  });

  const clear = useCallback(() => {
    setLeader("");
    setPickers(4);
  }, [setLeader, setPickers]);

  const canSend = leader !== "" && pickers > 0;

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (canSend) onRota({ leader, pickers, baskets, begins, row });
      }}
    >
      <Text label="Leader" value={leader} onText={setLeader} />
      <Stepper label="Pickers" value={pickers} setValue={setPickers} />
      <label>
        Baskets <input type="number" value={baskets} onChange={(e) => setBaskets(Number(e.target.value))} />
      </label>
      <select aria-label="Begins" value={begins} onChange={(e) => setBegins(e.target.value)}>
        {Object.entries(SHIFTS).map(([key, time]) => (
          <option key={key} value={time}>
            {key}
          </option>
        ))}
      </select>
      <Text label="Row" value={row} onText={setRow} />
      <button type="button" onClick={clear}>
        Clear
      </button>
      <button disabled={!canSend}>Publish</button>
    </form>
  );
};
