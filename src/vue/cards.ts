import type { ApproachCard } from '../form/approach-card.js';

/** The approaches of Vue; forms are listed and shown in all of them. */
export const vueCards: readonly ApproachCard[] = [
  {
    id: 'field-refs',
    title: 'one ref for each field',
    goodFor: 'a few fields that have little to do with one another',
    reads: false,
    writes: false,
  },
  {
    id: 'reactive-object',
    title: 'one reactive object, or data()',
    goodFor: 'fields that are sent together',
    reads: false,
    writes: false,
  },
  {
    id: 'form-wrapper',
    title: 'a component that owns the values and offers them through a slot',
    goodFor: 'many forms that look and behave alike',
    reads: false,
    writes: false,
  },
  {
    id: 'own-composable',
    title: 'a composable of the project itself',
    goodFor: 'forms that share how they are checked and sent',
    reads: false,
    writes: false,
  },
  {
    id: 'markup-only',
    title: 'a form element with nothing bound',
    goodFor: 'forms that the browser sends by itself',
    reads: false,
    writes: false,
  },
];
