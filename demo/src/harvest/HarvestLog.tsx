import { useEffect, useMemo, useState } from "react";
import type { ChangeEvent, FormEvent } from "react";
import { gradeFor, type Grade } from "./grades";

type Crate = "wood" | "plastic" | "sack";

export type HarvestEntry = {
  row: string;
  variety: string;
  pickedOn: string;
  picker: string;
  kilos: number | null;
  crates: number;
  crate: Crate;
  sugar: string;
  windfall: boolean;
  buyers: string[];
  remark: string;
};

type HarvestLogProps = {
  pickers: string[];
  today: string;
  save: (entry: HarvestEntry, grade: Grade) => Promise<{ number: number }>;
  onSaved?: (number: number) => void;
};

/**
 * One line of the harvest log, filled in at the scales.
 */
const HarvestLog = ({ pickers, today, save, onSaved }: HarvestLogProps) => {
  // where
  const [row, setRow] = useState("");
  const [variety, setVariety] = useState("");
  const [pickedOn, setPickedOn] = useState(today);
  const [picker, setPicker] = useState(() => pickers[0] ?? "");

  // how much
  const [kilos, setKilos] = useState<number | null>(null);
  const [crates, setCrates] = useState(0);
  const [crate, setCrate] = useState<Crate>("wood");
  const [sugar, setSugar] = useState(""); /* degrees Oechsle, as read off the glass */

  const [windfall, setWindfall] = useState(false);
  const [buyers, setBuyers] = useState<string[]>([]);
  const [remark, setRemark] = useState("");

  const [errors, setErrors] = useState<Partial<Record<keyof HarvestEntry, string>>>({});
  const [saving, setSaving] = useState(false);
  const [lastNumber, setLastNumber] = useState<number>();

  const grade = useMemo(() => gradeFor(kilos ?? 0, windfall), [kilos, windfall]);

  useEffect(() => {
    // windfall never goes into wooden crates
    if (windfall && crate === "wood") setCrate("plastic");
  }, [windfall, crate]);

  const check = () => {
    const found: typeof errors = {};
    if (!/^[A-F]\d{1,2}$/.test(row)) found.row = "Rows are named like B7";
    if (!variety) found.variety = "Name the variety";
    if (kilos === null) found.kilos = "Weigh the crates first";
    else if (kilos <= 0) found.kilos = "More than nothing, please";
    if (sugar && Number.isNaN(parseFloat(sugar))) found.sugar = "A number of degrees";
    return found;
  };

  const changeKilos = (event: ChangeEvent<HTMLInputElement>) => {
    const { value } = event.target;
    setKilos(value === "" ? null : Number(value));
    setCrates(Math.ceil(Number(value) / 18));
  };

  const clear = () => {
    setRow("");
    setVariety("");
    setPickedOn(today);
    setKilos(null);
    setCrates(0);
    setSugar("");
    setWindfall(false);
    setBuyers([]);
    setRemark("");
    setErrors({});
  };

  const handleSubmit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const found = check();
    setErrors(found);
    if (Object.keys(found).length > 0) return;

    setSaving(true);
    try {
      const { number } = await save({ row, variety, pickedOn, picker, kilos, crates, crate, sugar, windfall, buyers, remark }, grade);
      setLastNumber(number);
      onSaved?.(number);
      clear();
    } catch {
      setErrors({ remark: "The office did not answer; the entry is still here" });
    } finally {
      setSaving(false);
    }
  };

  return (
    <section className="harvest">
      <h2>Harvest log</h2>
      {lastNumber !== undefined && <p>Last entry: {lastNumber}</p>}

      <form onSubmit={handleSubmit} noValidate>
        <div className={errors.row ? "field field--bad" : "field"}>
          <label htmlFor="row">Row</label>
          <input id="row" value={row} onChange={(e) => setRow(e.target.value.toUpperCase())} />
          {errors.row && <em>{errors.row}</em>}
        </div>

        <div className={errors.variety ? "field field--bad" : "field"}>
          <label htmlFor="variety">Variety</label>
          <input id="variety" list="varieties" value={variety} onChange={({ target }) => setVariety(target.value)} />
          <datalist id="varieties">
            <option>Ribston</option>
            <option>Medlar</option>
          </datalist>
          {errors.variety && <em>{errors.variety}</em>}
        </div>

        <label htmlFor="pickedOn">Picked on</label>
        <input id="pickedOn" type="date" value={pickedOn} max={today} onChange={(e) => setPickedOn(e.target.value)} />

        <label htmlFor="picker">Picker</label>
        <select id="picker" value={picker} onChange={(e) => setPicker(e.target.value)}>
          {pickers.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </select>

        <label htmlFor="kilos">Kilos</label>
        <input id="kilos" type="number" step="0.5" value={kilos ?? ""} onChange={changeKilos} />
        <output>Grade {grade}</output>
        {errors.kilos && <em>{errors.kilos}</em>}

        <label htmlFor="crates">Crates</label>
        <input id="crates" type="number" value={crates} onChange={(e) => setCrates(e.target.valueAsNumber || 0)} />

        <fieldset>
          <legend>Kind of crate</legend>
          {(["wood", "plastic", "sack"] as const).map((kind) => (
            <label key={kind}>
              <input type="radio" name="crate" checked={crate === kind} onChange={() => setCrate(kind)} />
              {kind}
            </label>
          ))}
        </fieldset>

        <label htmlFor="sugar">Sugar</label>
        <input id="sugar" inputMode="decimal" value={sugar} onChange={(e) => setSugar(e.target.value.replace(",", "."))} />
        {errors.sugar && <em>{errors.sugar}</em>}

        <label>
          <input type="checkbox" checked={windfall} onChange={(e) => setWindfall(e.target.checked)} /> Windfall
        </label>

        <label htmlFor="buyers">Buyers</label>
        <select
          id="buyers"
          multiple
          value={buyers}
          onChange={(e) => setBuyers(Array.from(e.target.selectedOptions, (option) => option.value))}
        >
          <option value="cider">Cider press</option>
          <option value="market">Market stall</option>
          <option value="school">School kitchen</option>
        </select>

        <label htmlFor="remark">Remark</label>
        <textarea id="remark" value={remark} onChange={(e) => setRemark(e.target.value)} />
        {errors.remark && <em>{errors.remark}</em>}

        <button type="submit" disabled={saving}>
          {saving ? "Saving…" : "Save entry"}
        </button>
        <button type="button" onClick={clear} disabled={saving}>
          Clear
        </button>
      </form>
    </section>
  );
};

export default HarvestLog;
