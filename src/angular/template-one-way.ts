import type { AngularApproach } from './approach.js';
import { cardOf } from './cards.js';
import type { AngularSite } from './form-site.js';
import { leaveOneWay } from './one-way/leave.js';
import { writeOneWay } from './one-way/write.js';
import { boundElements } from './template-driven/controls.js';
import { readTemplateDriven } from './template-driven/read.js';
import type { TemplateAttribute } from './template-model.js';

export const templateOneWay: AngularApproach = {
  ...cardOf('template-one-way'),
  recognise(site) {
    const bound = boundElements(site);
    if (!bound.length || !site.form) return undefined;
    const feed = feedAttribute(site);
    const oneWay = bound.every(
      ({ model, changes }) => model.kind === 'property' && changes.length === 0 && /\(\)/.test(model.value ?? ''),
    );
    if (!oneWay) return undefined;
    return {
      fields: [
        ...new Set(bound.flatMap(({ groups, name }) => (name === undefined ? [] : [[...groups, name].join('.')]))),
      ],
      ...(feed ? { read: () => readTemplateDriven(site, feed) } : {}),
    };
  },
  write: writeOneWay,
  writesFrom: 'template-driven',
  leave: { to: 'template-driven', write: leaveOneWay, unless: 'signal-model' },
};

/** The event through which the form's values are put into a signal. */
function feedAttribute({ form }: AngularSite): TemplateAttribute | undefined {
  return form?.attributes.find(
    ({ kind, name, value }) =>
      kind === 'event' && !/^(ngSubmit|submit|reset)$/.test(name) && /^\s*\w+\.set\(/.test(value ?? ''),
  );
}
