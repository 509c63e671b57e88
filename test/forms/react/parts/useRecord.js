import { useReducer, useState } from 'react';

const turned = (record, patch) => ({ ...record, ...patch });

// keeps a record and what was said about it
export default function useRecord(blank, { check = () => ({}), send }) {
  const [record, patch] = useReducer(turned, blank);
  const [said, setSaid] = useState({});
  const [busy, setBusy] = useState(false);

  async function onSubmit(e) {
    e.preventDefault();
    const now = check(record);
    setSaid(now);
    if (Object.keys(now).length > 0) return;
    setBusy(true);
    await send(record);
    setBusy(false);
    patch(blank);
  }

  const bind = (key) => ({
    name: key,
    value: record[key],
    onChange: (e) => patch({ [key]: e.target.value }),
  });

  return { record, patch, said, busy, onSubmit, bind };
}
