import React, { useCallback, useState } from 'react';

export interface Tool {
  mark: string;
  shelf: string;
  sharp: boolean;
  lentTo: string | null;
}

type Wrong = { [Name in keyof Tool]?: string };

const noTool: Tool = { mark: '', shelf: 'north', sharp: true, lentTo: null };

interface ToolCardProps {
  /** A copy of another tool, or nothing for a new one. */
  like?: Partial<Tool>;
  keep: (tool: Tool) => Promise<Wrong | undefined>;
}

export function ToolCard({ like, keep }: ToolCardProps) {
  const [tool, setTool] = useState<Tool>({ ...noTool, ...like, mark: '' });
  const [wrong, setWrong] = useState<Wrong>({});
  const [busy, setBusy] = useState(false);

  const change = useCallback(<Name extends keyof Tool>(name: Name, value: Tool[Name]) => {
    setTool((old) => ({ ...old, [name]: value }));
    setWrong((old) => ({ ...old, [name]: undefined }));
  }, []);

  const submit = async (event: React.FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    if (busy) return;
    if (!/^[A-Z]\d{2}$/.test(tool.mark)) {
      setWrong({ mark: 'A letter and two digits' });
      return;
    }
    setBusy(true);
    const answer = await keep(tool);
    setBusy(false);
    if (answer) setWrong(answer);
    else setTool({ ...noTool, ...like, mark: '' });
  };

  return (
    <form onSubmit={submit} noValidate>
      <label htmlFor="mark">Mark</label>
      <input id="mark" value={tool.mark} onChange={(e) => change('mark', e.target.value.toUpperCase())} />
      {wrong.mark && <p>{wrong.mark}</p>}
      <select aria-label="Shelf" value={tool.shelf} onChange={(e) => change('shelf', e.target.value)}>
        <option value="north">North wall</option>
        <option value="south">South wall</option>
      </select>
      <input type="checkbox" aria-label="Sharp" checked={tool.sharp} onChange={(e) => change('sharp', e.target.checked)} />
      <input
        aria-label="Lent to"
        value={tool.lentTo ?? ''}
        onChange={(e) => change('lentTo', e.target.value === '' ? null : e.target.value)}
      />
      {wrong.lentTo && <p>{wrong.lentTo}</p>}
      <button disabled={busy}>Keep</button>
    </form>
  );
}
