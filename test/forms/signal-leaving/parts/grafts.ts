import { applyEach, applyWhen, min, required, schema } from '@angular/forms/signals';

import { rowMark } from './row-mark';

export interface Scion {
  sort: string;
  pieces: number;
}

export interface Grafts {
  day: string;
  place: { row: string; tree: string };
  grown: boolean;
  scions: Scion[];
}

export function noGrafts(): Grafts {
  return { day: '', place: { row: '', tree: '' }, grown: false, scions: [{ sort: '', pieces: 1 }] };
}

const scionRules = schema<Scion>((scion) => {
  required(scion.sort, { message: 'Which sort?' });
  min(scion.pieces, 1, { message: 'One piece at least.' });
});

export const graftRules = schema<Grafts>((grafts) => {
  required(grafts.day, { message: 'Which day?' });
  // the post stands at the head of the row
  rowMark(grafts.place.row);
  rowMark(grafts.place.tree, 2);
  applyEach(grafts.scions, scionRules);
  applyWhen(
    grafts,
    ({ value }) => value().grown,
    (old) => {
      required(old.place.tree, { message: 'An old tree has a number.' });
    },
  );
});
