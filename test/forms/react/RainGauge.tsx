import React from "react";

type Reading = { id: number; mm: string };
type GaugeState = {
  station: string;
  readings: Reading[];
  sending: boolean;
  sent: boolean;
  problem: string;
};
type GaugeAction =
  | { type: "STATION"; station: string }
  | { type: "READING_ADDED" }
  | { type: "READING_CHANGED"; id: number; mm: string }
  | { type: "READING_REMOVED"; id: number }
  | { type: "SEND" }
  | { type: "SENT" }
  | { type: "FAILED"; problem: string };

function gaugeReducer(state: GaugeState, action: GaugeAction): GaugeState {
  switch (action.type) {
    case "STATION":
      return { ...state, station: action.station };
    case "READING_ADDED":
      return { ...state, readings: [...state.readings, { id: state.readings.length + 1, mm: "" }] };
    case "READING_CHANGED":
      return {
        ...state,
        readings: state.readings.map((reading) => (reading.id === action.id ? { ...reading, mm: action.mm } : reading)),
      };
    case "READING_REMOVED":
      return { ...state, readings: state.readings.filter(({ id }) => id !== action.id) };
    case "SEND":
      return { ...state, sending: true, sent: false, problem: "" };
    case "SENT":
      return { ...state, sending: false, sent: true, readings: [] };
    case "FAILED":
      return { ...state, sending: false, problem: action.problem };
    default:
      return state;
  }
}

export function RainGauge({ send }: { send: (station: string, readings: Reading[]) => Promise<void> }) {
  const [state, dispatch] = React.useReducer(gaugeReducer, { station: "", readings: [], sending: false, sent: false, problem: "" });
  const total = state.readings.reduce((sum, reading) => sum + (Number(reading.mm) || 0), 0);

  const submit = async (event: React.FormEvent) => {
    event.preventDefault();
    if (!state.station) {
      dispatch({ type: "FAILED", problem: "Which station?" });
      return;
    }
    dispatch({ type: "SEND" });
    try {
      await send(state.station, state.readings);
      dispatch({ type: "SENT" });
    } catch {
      dispatch({ type: "FAILED", problem: "Nobody answered" });
    }
  };

  return (
    <form onSubmit={submit}>
      <label>
        Station <input value={state.station} onChange={(e) => dispatch({ type: "STATION", station: e.target.value.toUpperCase() })} />
      </label>
      {state.readings.map((reading, index) => (
        <p key={reading.id}>
          <input aria-label={`Reading ${index + 1}`} value={reading.mm} onChange={(e) => dispatch({ type: "READING_CHANGED", id: reading.id, mm: e.target.value })} />
          <button type="button" onClick={() => dispatch({ type: "READING_REMOVED", id: reading.id })}>
            Remove {index + 1}
          </button>
        </p>
      ))}
      <button type="button" onClick={() => dispatch({ type: "READING_ADDED" })}>
        Add reading
      </button>
      <p>{total} mm in all</p>
      {state.problem && <p role="alert">{state.problem}</p>}
      {state.sent && <p>Sent.</p>}
      <button disabled={state.sending}>{state.sending ? "Sending…" : "Send readings"}</button>
    </form>
  );
}
