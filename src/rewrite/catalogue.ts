import type { ApproachCard } from '../form/approach-card.js';
import { angularCards } from '../angular/cards.js';
import { reactApproaches } from '../react/index.js';
import { vueCards } from '../vue/cards.js';

/** An approach as people choose it. */
export interface CatalogueEntry {
  id: string;
  framework: string;
  title: string;
  goodFor: string;
  /**
   * `in full`: a form in it can be rewritten; `in part`: as far as its code is understood; `recognised`: it is only named by
   * the survey.
   */
  reads: 'in full' | 'in part' | 'recognised';
  writes: boolean;
  /** Nothing takes forms in it elsewhere yet. */
  stays: boolean;
  /** Ways of stating rules that it allows as a target, the usual one first. */
  rules: readonly string[];
}

/** Every approach the tool knows, by framework. */
export function allApproaches(): CatalogueEntry[] {
  const entry = (
    framework: string,
    { id, title, goodFor, reads, partly, stays, writes, rules }: ApproachCard,
  ): CatalogueEntry => ({
    id,
    framework,
    title,
    goodFor,
    reads: reads ? 'in full' : partly ? 'in part' : 'recognised',
    writes,
    stays: stays === true,
    rules: rules ?? ['code'],
  });
  return [
    ...reactApproaches.map((approach) => entry('react', { ...approach, writes: approach.write !== undefined })),
    ...angularCards.map((card) => entry('angular', card)),
    ...vueCards.map((card) => entry('vue', card)),
  ];
}

/** The rewrites that are covered: from an approach that is read to another that is written. */
export function coveredRewrites(): { from: string; to: string }[] {
  const all = allApproaches();
  return all
    .filter(({ reads, stays }) => reads !== 'recognised' && !stays)
    .flatMap((from) =>
      all
        .filter((to) => to.writes && to.id !== from.id && to.framework === from.framework)
        .map((to) => ({ from: from.id, to: to.id })),
    );
}
