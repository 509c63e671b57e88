import type { AngularApproach } from './approach.js';
import { cardOf } from './cards.js';

const marks = /^(ng-control|ngControl|ng-form-model|ngFormModel|ng-control-group|ngControlGroup)$/;

export const controlGroup: AngularApproach = {
  ...cardOf('control-group'),
  recognise(site) {
    const all = site.form ? [site.form, ...site.elements] : site.elements;
    const marked = all.filter((element) => element.attributes.some(({ name }) => marks.test(name)));
    if (!marked.length) return undefined;
    const names = marked.flatMap((element) =>
      element.attributes.filter(({ name }) => /^ng-?[cC]ontrol$/.test(name)).map(({ value }) => value ?? ''),
    );
    return { fields: [...new Set(names.filter(Boolean))] };
  },
};
