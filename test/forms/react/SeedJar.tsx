import { useDraft } from './parts/useDraft';

const empty = { seed: '', shelf: 'A1', grams: '' };

interface Props {
  shelves: string[];
  onStore(jar: { seed: string; shelf: string; grams: number }): void;
}

/* A jar in the seed store */
export const SeedJar = ({ shelves, onStore }: Props) => {
  const jar = useDraft(
    empty,
    ({ seed, grams }) => ({
      seed: seed.trim() ? undefined : 'Name the seed',
      grams: /^\d+$/.test(grams) ? undefined : 'Whole grams only',
    }),
    ({ seed, shelf, grams }) => onStore({ seed, shelf, grams: Number(grams) }),
  );

  return (
    <form onSubmit={jar.send}>
      <input aria-label="Seed" {...jar.field('seed')} />
      {jar.left.seed && jar.errors.seed && <b>{jar.errors.seed}</b>}
      <input aria-label="Shelf" list="shelves" {...jar.field('shelf')} />
      <datalist id="shelves">
        {shelves.map((shelf) => (
          <option key={shelf} value={shelf} />
        ))}
      </datalist>
      <input aria-label="Grams" inputMode="numeric" {...jar.field('grams')} />
      {jar.left.grams && jar.errors.grams && <b>{jar.errors.grams}</b>}
      <p>{jar.draft.seed || 'nothing'} on {jar.draft.shelf}</p>
      <button disabled={!jar.valid}>Store</button>
    </form>
  );
};
