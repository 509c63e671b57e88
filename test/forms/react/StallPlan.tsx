import { memo, useCallback, useEffect, useMemo, useState } from "react";

export interface Stall {
  market: string;
  from: string;
  crates: number;
  helper: string | null;
}

interface StallPlanProps {
  markets: readonly string[];
  load: () => Promise<Stall>;
  onPlan: (stall: Stall) => void;
}

const Crates = memo(function Crates({ value, onMore }: { value: number; onMore: () => void }) {
  return (
    <p>
      {value} crates
      <button type="button" onClick={onMore}>
        One more crate
      </button>
    </p>
  );
});

/** Where we sell on Saturday. */
export function StallPlan({ markets, load, onPlan }: StallPlanProps) {
  const [stall, setStall] = useState<Stall>({ market: "", from: "08:00", crates: 6, helper: null });

  // last week's stall, if there was one
  useEffect(() => {
    let gone = false;
    load().then((last) => {
      if (!gone && last) setStall((now) => ({ ...now, crates: now.crates + 1 }));
    });
    return () => {
      gone = true;
    };
  }, [load]);

  const more = useCallback(() => setStall((now) => ({ ...now, crates: Math.min(now.crates + 1, 30) })), []);
  const early = useMemo(() => stall.from < "07:00", [stall.from]);

  return (
    <form
      aria-label="Stall"
      onSubmit={(e) => {
        e.preventDefault();
        if (stall.market) onPlan(stall);
      }}
    >
      <select aria-label="Market" value={stall.market} onChange={(e) => setStall({ ...stall, market: e.target.value })}>
        <option value="">Which market?</option>
        {markets.map((market) => (
          <option key={market} value={market}>
            {market}
          </option>
        ))}
      </select>
      <input aria-label="From" type="time" value={stall.from} onChange={(e) => setStall({ ...stall, from: e.target.value })} />
      {early && <p>Somebody has to get up early</p>}
      <Crates value={stall.crates} onMore={more} />
      <input
        aria-label="Helper"
        value={stall.helper ?? ""}
        onChange={(e) => setStall({ ...stall, helper: e.target.value || null })}
      />
      <button type="submit" disabled={stall.market === ""}>
        Plan the stall
      </button>
    </form>
  );
}
