import type { ReactApproach } from '../approach.js';
import { isInside } from '../form-regions.js';
import { attribute, shownBy } from '../jsx-controls.js';

export const domValues: ReactApproach = {
  id: 'dom-values',
  title: 'values taken from the page at submit',
  goodFor: 'forms that say nothing while a person types',
  reads: false,
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
    const names = controls.map((control) => {
      const ref = attribute(control, 'ref')?.value;
      const refName = ref?.isIdentifier() ? ref.node.name.replace(/(Input)?Ref$/, '') : undefined;
      return control.name ?? attribute(control, 'id')?.text ?? refName ?? control.label;
    });
    return { fields: [...new Set(names.filter((name) => name !== undefined))] };
  },
};
