import { useEffect, useId, useRef, useState } from "react";
import type { Graft } from "./parts/graft";
import { readDraft } from "./parts/graft";

interface Props {
  graft?: Graft;
  onKeep: (graft: Graft, photo: File | null) => void;
}

export function GraftNote({ graft, onKeep }: Props) {
  const id = useId();
  const scionRef = useRef<HTMLInputElement>(null);
  const [scion, setScion] = useState(graft?.scion ?? "");
  const [stock, setStock] = useState<Graft["stock"]>("M9");
  const [on, setOn] = useState<Date | null>(null);
  const [method, setMethod] = useState<"whip" | "cleft" | undefined>();
  const [photo, setPhoto] = useState<File | null>(null);
  const [draft, setDraft] = useState(() => readDraft());
  const [seen, setSeen] = useState(0);

  useEffect(() => {
    scionRef.current?.focus();
  }, []);

  useEffect(() => {
    if (graft) {
      setScion(graft.scion);
      setStock(graft.stock);
    }
  }, [graft]);

  useEffect(() => {
    setSeen((n) => n + 1);
  }, [draft]);

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onKeep({ scion, stock, on: on ? on.toISOString().slice(0, 10) : "", method, draft }, photo);
        scionRef.current?.focus();
      }}
      onReset={(e) => {
        e.preventDefault();
        setScion("");
        setStock("M9");
        setOn(null);
        setMethod(undefined);
        setPhoto(null);
      }}
    >
      <label htmlFor={`${id}-scion`}>Scion</label>
      <input ref={scionRef} id={`${id}-scion`} value={scion} onChange={(e) => setScion(e.target.value)} />
      <label htmlFor={`${id}-stock`}>Stock</label>
      <select id={`${id}-stock`} value={stock} onChange={(e) => setStock(e.target.value === "M26" ? "M26" : "M9")}>
        <option>M9</option>
        <option>M26</option>
      </select>
      <label>
        Grafted on
        <input type="date" value={on ? on.toISOString().slice(0, 10) : ""} onChange={(e) => setOn(e.target.valueAsDate)} />
      </label>
      <label>
        Method
        <select value={method ?? ""} onChange={(e) => setMethod(e.target.value ? (e.target.value as "whip" | "cleft") : undefined)}>
          <option value="">unknown</option>
          <option value="whip">Whip and tongue</option>
          <option value="cleft">Cleft</option>
        </select>
      </label>
      <label>
        Photo <input type="file" onChange={(e) => setPhoto(e.target.files?.[0] ?? null)} />
      </label>
      {photo && <p>{photo.name}</p>}
      <label>
        Notes <textarea value={draft} onChange={(e) => setDraft(e.target.value)} />
      </label>
      <small>changed {seen} times</small>
      <button type="reset">Empty</button>
      <button type="submit">Keep</button>
    </form>
  );
}
