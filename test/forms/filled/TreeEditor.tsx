import { useEffect, useState, type FormEvent } from 'react';

interface Tree {
  sort: string;
  rootstock: string;
  planted: number;
  wild: boolean;
}

interface TreeEditorProps {
  id: string;
  load: (id: string) => Promise<Tree>;
  save: (id: string, tree: Tree) => Promise<void>;
}

export function TreeEditor({ id, load, save }: TreeEditorProps) {
  const [tree, setTree] = useState<Tree | null>(null);
  const [saved, setSaved] = useState(false);

  useEffect(() => {
    let current = true;
    load(id).then((found) => {
      if (current) setTree(found);
    });
    return () => {
      current = false;
    };
  }, [id, load]);

  if (tree === null) return <p>Looking for the tree…</p>;

  const handleSubmit = async (event: FormEvent) => {
    event.preventDefault();
    await save(id, tree);
    setSaved(true);
  };

  return (
    <form onSubmit={handleSubmit}>
      <label>
        Sort
        <input value={tree.sort} onChange={(e) => setTree({ ...tree, sort: e.target.value })} />
      </label>
      <label>
        Rootstock
        <select value={tree.rootstock} onChange={(e) => setTree({ ...tree, rootstock: e.target.value })}>
          <option value="M9">M9</option>
          <option value="M26">M26</option>
        </select>
      </label>
      <label>
        Planted
        <input type="number" value={tree.planted} onChange={(e) => setTree({ ...tree, planted: Number(e.target.value) })} />
      </label>
      <label>
        <input type="checkbox" checked={tree.wild} onChange={(e) => setTree({ ...tree, wild: e.target.checked })} />
        Wild
      </label>
      <button type="submit">Save</button>
      {saved && <p role="status">Written down.</p>}
    </form>
  );
}
