import type { AngularApproach } from './approach.js';
import { cardOf } from './cards.js';

const directives = /^(formField|field|control)$/;

export const signalModel: AngularApproach = {
  ...cardOf('signal-model'),
  recognise(site) {
    const { script } = site.component;
    if (!/@angular\/forms\/signals/.test(script.text)) return undefined;
    const fields = site.elements.flatMap((element) =>
      element.attributes
        .filter(({ name, kind }) => kind === 'property' && directives.test(name))
        .map(({ value }) => (value ?? '').split('.').slice(1).join('.')),
    );
    return fields.length ? { fields: [...new Set(fields.filter(Boolean))] } : undefined;
  },
};
