import type { ApproachCard } from '../form/approach-card.js';

/** Angular's approaches as people choose them. Kept apart from the code that needs the template compiler. */
export const angularCards: readonly ApproachCard[] = [
  {
    id: 'template-driven',
    title: 'ngModel in the template, values in the class',
    goodFor: 'short forms whose rules are attributes and whose class does little with the values',
    reads: true,
    writes: true,
    rules: ['native'],
  },
  {
    id: 'model-driven',
    title: 'groups, controls and arrays built in the class',
    goodFor: 'long forms, rules that depend on one another, and tests without a template',
    reads: true,
    writes: true,
    rules: ['angular-validators'],
  },
  {
    id: 'template-one-way',
    title: 'one-way ngModel from a signal, the signal fed from the form’s changes',
    goodFor: 'forms whose values live in one signal that never changes in place',
    reads: true,
    writes: true,
    rules: ['native'],
  },
  {
    id: 'signal-model',
    title: 'a model signal and a form built over it',
    goodFor: 'forms whose rules are functions over one typed model',
    reads: true,
    writes: true,
    rules: ['signal-rules'],
  },
  {
    id: 'control-group',
    title: 'the very early control-group directives',
    goodFor: 'nothing any more: the directives are gone from the framework',
    reads: false,
    writes: false,
  },
  {
    id: 'markup-only',
    title: 'a form element with nothing bound',
    goodFor: 'a first sketch of the markup',
    reads: true,
    writes: false,
  },
];

/** The card of an approach. */
export function cardOf(id: string): ApproachCard {
  const card = angularCards.find((one) => one.id === id);
  if (!card) throw new Error(`no approach ${id}`);
  return card;
}
