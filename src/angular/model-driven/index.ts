import type { FormModel } from '../../form/model.js';
import type { AngularApproach } from '../approach.js';
import { cardOf } from '../cards.js';
import { attributeOf } from '../form-site.js';
import { readModelDriven } from './read.js';
import { writeModelDriven } from './write.js';

export const modelDriven: AngularApproach = {
  ...cardOf('model-driven'),
  recognise(site) {
    const all = site.form ? [site.form, ...site.elements] : site.elements;
    if (!all.some((element) => attributeOf(element, 'formGroup') ?? attributeOf(element, 'formControl')))
      return undefined;
    let model: FormModel | undefined;
    const read = (): FormModel => (model ??= readModelDriven(site));
    return { fields: read().fields.map(({ name }) => name), read };
  },
  write: writeModelDriven,
};
