import { useCallback, useReducer, type ChangeEvent } from "react";

interface Barrel {
  cellar: string;
  litres: number;
  variety: string;
  sealed: boolean;
}

type Change = { type: "set"; key: keyof Barrel; value: Barrel[keyof Barrel] } | { type: "clear" } | { type: "topUp"; litres: number };

const EMPTY: Barrel = { cellar: "old", litres: 50, variety: "", sealed: false };

const barrelReducer = (barrel: Barrel, change: Change): Barrel => {
  if (change.type === "set") {
    return { ...barrel, [change.key]: change.value };
  } else if (change.type === "topUp") {
    if (barrel.litres >= 220) return barrel;
    return { ...barrel, litres: Math.min(220, barrel.litres + change.litres) };
  }
  return EMPTY;
};

export const BarrelLog = ({ onLog, label }: { onLog: (barrel: Barrel) => void; label: string }) => {
  const [barrel, change] = useReducer(barrelReducer, EMPTY);

  const set = (key: keyof Barrel) => (e: ChangeEvent<HTMLInputElement | HTMLSelectElement>) => change({ type: "set", key, value: e.target.value });

  const seal = useCallback((sealed: boolean) => change({ type: "set", key: "sealed", value: sealed }), [change]);

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onLog(barrel);
      }}
    >
      <h4>{label}</h4>
      <label>
        Cellar
        <select value={barrel.cellar} onChange={set("cellar")}>
          <option>old</option>
          <option>new</option>
        </select>
      </label>
      <label>
        Variety <input value={barrel.variety} onChange={set("variety")} />
      </label>
      <p>
        {barrel.litres} litres
        <button type="button" onClick={() => change({ type: "topUp", litres: 60 })}>
          Top up
        </button>
      </p>
      <label>
        <input type="checkbox" checked={barrel.sealed} onChange={(e) => seal(e.target.checked)} /> Sealed
      </label>
      <button disabled={!barrel.variety}>Log barrel</button>
    </form>
  );
};
