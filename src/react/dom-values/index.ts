import type { ReactApproach } from '../approach.js';
import { isInside } from '../form-regions.js';
import { shownBy } from '../jsx-controls.js';
import { pageFields } from './page-fields.js';
import { readPage } from './read.js';
import { writePageValues } from './write.js';
import { writeStateFromPage } from './write-state.js';

export const domValues: ReactApproach = {
  id: 'dom-values',
  title: 'values taken from the page at submit',
  goodFor: 'forms that say nothing while a person types',
  reads: true,
  write: writePageValues,
  writesFrom: 'field-state',
  recognise(site) {
    if (!site.region.element || site.region.submit.how === 'none') return undefined;
    const controls = site.candidates.filter(
      (control) => control.intrinsic && isInside(control.element, site.region.element),
    );
    if (
      !controls.length ||
      controls.some((control) => shownBy(control) && control.type !== 'radio' && control.type !== 'checkbox')
    )
      return undefined;
    const fields = pageFields(site).map(({ name }) => name);
    if (!fields.length) return undefined;
    return {
      fields: [...new Set(fields)],
      read: () => readPage(site),
      leave: { to: 'field-state', write: (model, context) => writeStateFromPage(model, context, site) },
    };
  },
};
