import { useState } from "react";

interface Report {
  trunk: string;
  height: number;
  wet: boolean;
}

interface Props {
  report: (report: Report) => Promise<void>;
}

// moss tells of standing water
export function MossAlarm({ report }: Props) {
  const [trunk, setTrunk] = useState("");
  const [height, setHeight] = useState(10);
  const [wet, setWet] = useState(false);
  const [isSending, setIsSending] = useState(false);
  const [submitted, setSubmitted] = useState(false);
  const [touched, setTouched] = useState({ trunk: false, height: false });

  const problems = {
    trunk: trunk ? undefined : "Which trunk?",
    height: height > 200 ? "Nobody reaches that high" : undefined,
  };
  const shown = (field: "trunk" | "height") => (touched[field] || submitted ? problems[field] : undefined);

  return (
    <form
      noValidate
      onSubmit={async (e) => {
        e.preventDefault();
        setSubmitted(true);
        if (problems.trunk || problems.height) return;
        setIsSending(true);
        await report({ trunk, height, wet });
        setIsSending(false);
        setSubmitted(false);
        setTouched({ trunk: false, height: false });
        setTrunk("");
        setHeight((h) => h / 2);
        setWet(false);
      }}
    >
      <label htmlFor="trunk">Trunk</label>
      <input
        id="trunk"
        className={shown("trunk") ? "bad" : undefined}
        aria-invalid={!!shown("trunk")}
        value={trunk}
        onChange={(e) => {
          setTrunk(e.target.value);
          setTouched((t) => ({ ...t, trunk: true }));
        }}
        onBlur={() => setTouched((t) => ({ ...t, trunk: true }))}
      />
      {shown("trunk") && <p>{shown("trunk")}</p>}
      <label htmlFor="height">Height</label>
      <input
        id="height"
        type="number"
        value={height}
        onChange={(e) => setHeight(e.target.valueAsNumber || 0)}
        onBlur={() => setTouched((t) => ({ ...t, height: true }))}
      />
      {shown("height") && <p>{shown("height")}</p>}
      <label>
        <input type="checkbox" checked={wet} onChange={({ target }) => setWet(target.checked)} /> Wet
      </label>
      <button disabled={isSending}>Report moss</button>
    </form>
  );
}
