import type { AngularApproach } from './approach.js';
import { cardOf } from './cards.js';
import { isNativeControl, plainText } from './form-site.js';
import { leaveMarkup } from './markup/leave.js';
import { readMarkup } from './markup/read.js';

export const markupOnly: AngularApproach = {
  ...cardOf('markup-only'),
  recognise(site) {
    if (!site.form) return undefined;
    const controls = site.elements.filter(isNativeControl);
    if (!controls.length) return undefined;
    return {
      read: () => readMarkup(site),
      fields: [...new Set(controls.flatMap((control) => plainText(control, 'name') ?? plainText(control, 'id') ?? []))],
    };
  },
  leave: { to: 'template-driven', write: leaveMarkup },
};
