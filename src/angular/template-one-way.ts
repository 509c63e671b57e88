import type { AngularApproach } from './approach.js';
import { cardOf } from './cards.js';
import { attributeOf } from './form-site.js';
import { boundElements } from './template-driven/controls.js';

export const templateOneWay: AngularApproach = {
  ...cardOf('template-one-way'),
  recognise(site) {
    const bound = boundElements(site);
    if (!bound.length || !site.form) return undefined;
    const fed = attributeOf(site.form, 'formValueChange', 'event') !== undefined;
    const oneWay = bound.every(
      ({ model, changes }) => model.kind === 'property' && changes.length === 0 && /\(\)/.test(model.value ?? ''),
    );
    if (!fed && !oneWay) return undefined;
    return {
      fields: [
        ...new Set(bound.flatMap(({ groups, name }) => (name === undefined ? [] : [[...groups, name].join('.')]))),
      ],
    };
  },
};
