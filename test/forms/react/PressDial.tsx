import { useReducer, useState } from "react";

type Fruit = "apple" | "pear";

interface Press {
  fruit: Fruit;
  pressure: number;
  minutes: number;
  remark: string;
  filter: boolean;
}

type Turn =
  | { type: "choose"; fruit: Fruit }
  | { type: "turn"; dial: "pressure" | "minutes"; by: number }
  | { type: "say"; remark: string }
  | { type: "filter"; on: boolean }
  | { type: "rest" };

const AT_REST: Press = { fruit: "apple", pressure: 0, minutes: 10, remark: "", filter: true };

const bounds = { pressure: [0, 12], minutes: [5, 45] } as const;

function pressReducer(press: Press, turn: Turn): Press {
  switch (turn.type) {
    case "choose":
      return { ...press, fruit: turn.fruit };
    case "turn": {
      // the dial stops at both ends
      const [least, most] = bounds[turn.dial];
      const to = Math.min(most, Math.max(least, press[turn.dial] + turn.by));
      return { ...press, [turn.dial]: to };
    }
    case "say":
      return { ...press, remark: turn.remark };
    case "filter":
      return { ...press, filter: turn.on };
    case "rest":
      return { ...AT_REST, fruit: press.fruit };
    default:
      return press;
  }
}

export function PressDial({ name, onPress }: { name: string; onPress: (press: Press) => void }) {
  const [press, turn] = useReducer(pressReducer, AT_REST);
  const [complaint, setComplaint] = useState<string | null>(null);

  function start(event: React.FormEvent) {
    event.preventDefault();
    if (press.pressure === 0) return setComplaint("Nothing is pressed without pressure");
    setComplaint(null);
    onPress(press);
    turn({ type: "rest" });
  }

  return (
    <form onSubmit={start} aria-label={name}>
      <select
        aria-label="Fruit"
        value={press.fruit}
        onChange={(event) => turn({ type: "choose", fruit: event.target.value === "pear" ? "pear" : "apple" })}
      >
        <option value="apple">Apples</option>
        <option value="pear">Pears</option>
      </select>
      <p>
        {press.pressure} bar for {press.minutes} minutes
      </p>
      <button type="button" onClick={() => turn({ type: "turn", dial: "pressure", by: -1 })}>
        Less pressure
      </button>
      <button type="button" onClick={() => turn({ type: "turn", dial: "pressure", by: 1 })}>
        More pressure
      </button>
      <button type="button" onClick={() => turn({ type: "turn", dial: "minutes", by: 5 })}>
        Longer
      </button>
      <input aria-label="Remark" value={press.remark} onChange={(e) => turn({ type: "say", remark: e.target.value })} />
      <label>
        <input type="checkbox" checked={press.filter} onChange={(e) => turn({ type: "filter", on: e.target.checked })} />
        Filter
      </label>
      {complaint !== null && <p role="alert">{complaint}</p>}
      <button>Press</button>
    </form>
  );
}
