import { reactApproaches } from '../react/index.js';

/** An approach as people choose it. */
export interface CatalogueEntry {
  id: string;
  framework: string;
  title: string;
  goodFor: string;
  /** `in full`: a form in it can be rewritten; `recognised`: it is only named by the survey. */
  reads: 'in full' | 'recognised';
  writes: boolean;
}

/** Every approach the tool knows, by framework. */
export function allApproaches(): CatalogueEntry[] {
  return reactApproaches.map(({ id, title, goodFor, reads, write }) => ({
    id,
    framework: 'react',
    title,
    goodFor,
    reads: reads ? 'in full' : 'recognised',
    writes: write !== undefined,
  }));
}

/** The rewrites that are covered: from an approach that is read in full to another that is written. */
export function coveredRewrites(): { from: string; to: string }[] {
  const all = allApproaches();
  return all
    .filter(({ reads }) => reads === 'in full')
    .flatMap((from) =>
      all
        .filter((to) => to.writes && to.id !== from.id && to.framework === from.framework)
        .map((to) => ({ from: from.id, to: to.id })),
    );
}
