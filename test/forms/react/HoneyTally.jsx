import { useState } from "react";

export function HoneyTally(props) {
  const [hive, setHive] = useState("");
  const [frames, setFrames] = useState(0);   // full ones only
  const [comb, setComb] = useState(false);
  const [more, setMore] = useState(false);

  // one handler for all of them
  function handleChange(e) {
    const { name, value, checked } = e.target;
    switch (name) {
      case "hive":
        setHive(value);
        break;
      case "frames":
        setFrames(Number(value));
        break;
      default:
        setComb(checked);
    }
  }

  const reset = () => {
    setHive("");
    setFrames(0);
    setComb(false);
  };

  return (
    <form onSubmit={(e) => { e.preventDefault(); props.onTally({ hive, frames, comb }); reset(); }}>
      <input name="hive" aria-label="Hive" value={hive} onChange={handleChange} />
      <input name="frames" aria-label="Frames" type="number" value={frames} onChange={handleChange} />
      <label><input name="comb" type="checkbox" checked={comb} onChange={handleChange} /> Comb honey</label>
      <button type="button" onClick={() => setMore(!more)}>More</button>
      {more ? <p>Frames are counted after spinning.</p> : null}
      <button>Tally</button>
      <button type="button" onClick={reset}>Reset</button>
    </form>
  );
}