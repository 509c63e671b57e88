import { useState as useLocal, type FC } from "react";

type Props = { tree: string; lastCount?: number; onCounted(count: { open: number; closed: number; by: string; sunny: boolean }): void };

const NOBODY = "";

export const BlossomCount: FC<Props> = (props) => {
  const [open, setOpen] = useLocal(props.lastCount ?? 0);
  const [closed, setClosed] = useLocal(0);
  const [by, setBy] = useLocal<string>(NOBODY);
  const [sunny, setSunny] = useLocal(false);

  const total = open + closed;

  return (
    <form
      aria-label="Blossom count"
      onSubmit={function (event) {
        event.preventDefault();
        props.onCounted({ open, closed, by, sunny });
        setOpen(0), setClosed(0);
      }}
    >
      <h3>
        {props.tree}: {total} seen
      </h3>
      <label>
        Open <input type="number" value={open} onChange={(e) => setOpen(+e.target.value)} />
      </label>
      <button type="button" onClick={() => setOpen((o) => o + 1)}>
        +1
      </button>
      <button type="button" onClick={() => setOpen((o) => o + 10)}>
        +10
      </button>
      <label>
        Closed <input type="number" value={closed} onChange={({ target: { valueAsNumber } }) => setClosed(Number.isNaN(valueAsNumber) ? 0 : valueAsNumber)} />
      </label>
      <label>
        Counted by <input value={by} onChange={(e) => setBy(e.currentTarget.value)} />
      </label>
      <label>
        <input type="checkbox" checked={sunny} onChange={() => setSunny((s) => !s)} /> Sunny
      </label>
      <button disabled={!by || total === 0}>Write down</button>
      <button type="button" onClick={() => { setOpen(props.lastCount ?? 0); setClosed(0); setBy(NOBODY); setSunny(false); }}>
        Start over
      </button>
    </form>
  );
};
