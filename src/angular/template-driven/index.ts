import type { FormModel } from '../../form/model.js';
import type { AngularApproach } from '../approach.js';
import { cardOf } from '../cards.js';
import { boundElements } from './controls.js';
import { readTemplateDriven } from './read.js';
import { writeTemplateDriven } from './write.js';

export const templateDriven: AngularApproach = {
  ...cardOf('template-driven'),
  recognise(site) {
    const bound = boundElements(site);
    if (!bound.some(({ standalone }) => !standalone) && site.form) return undefined;
    if (!bound.length || (!site.form && !isSent(site.elements, bound.length))) return undefined;
    let model: FormModel | undefined;
    const read = (): FormModel => (model ??= readTemplateDriven(site));
    return { fields: read().fields.map(({ name }) => name), read };
  },
  write: writeTemplateDriven,
};

/** Controls without a form's element are a form where a button sends them; a lone search box is none. */
function isSent(
  elements: readonly { tag: string; attributes: readonly { name: string }[] }[],
  controls: number,
): boolean {
  return (
    controls > 1 &&
    elements.some(({ tag, attributes }) => tag === 'button' && attributes.some(({ name }) => name === 'click'))
  );
}
