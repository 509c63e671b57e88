import type { AngularSite } from '../form-site.js';
import { attributeOf, eventOf, plainText, viewsBetween } from '../form-site.js';
import type { TemplateAttribute, TemplateElement, TemplateView } from '../template-model.js';

/** An element that `ngModel` binds. */
export interface BoundElement {
  element: TemplateElement;
  /** The control's name in the form: plain text, or with the expressions of an interpolation left out. */
  name: string | undefined;
  nameAttribute: TemplateAttribute | undefined;
  /** `[(ngModel)]`, `[ngModel]` or a bare `ngModel`. */
  model: TemplateAttribute;
  changes: TemplateAttribute[];
  options: TemplateAttribute | undefined;
  standalone: boolean;
  updateOn: 'blur' | 'submit' | undefined;
  /** Names of the groups around it. */
  groups: string[];
  /** Views between it and its form that come and go. */
  views: TemplateView[];
  event: 'input' | 'change';
}

function updateOnOf(text: string | undefined): 'blur' | 'submit' | undefined {
  return /updateOn\s*:\s*['"](blur|submit)['"]/.exec(text ?? '')?.[1] as 'blur' | 'submit' | undefined;
}

/** The elements of a site that `ngModel` binds. */
export function boundElements(site: AngularSite): BoundElement[] {
  const found: BoundElement[] = [];
  for (const element of site.elements) {
    const model = element.attributes.find(({ name, kind }) => name === 'ngModel' && kind !== 'event');
    if (!model) continue;
    const options = attributeOf(element, 'ngModelOptions');
    const nameAttribute = attributeOf(element, 'name');
    const optionsName = /\bname\s*:\s*['"]([^'"]+)['"]/.exec(options?.value ?? '')?.[1];
    const groups: string[] = [];
    for (let at = element.parent; at && at !== site.form?.parent; at = at.parent) {
      const group = plainText(at, 'ngModelGroup');
      if (group) groups.unshift(group);
    }
    found.push({
      element,
      name: optionsName ?? (nameAttribute?.kind === 'plain' ? nameAttribute.value : undefined),
      nameAttribute,
      model,
      changes: element.attributes.filter(({ name, kind }) => name === 'ngModelChange' && kind === 'event'),
      options,
      standalone: /standalone\s*:\s*true/.test(options?.value ?? '') || site.form === undefined,
      updateOn: updateOnOf(options?.value),
      groups,
      views: viewsBetween(element, site.form),
      event: eventOf(element),
    });
  }
  return found;
}

/** When the whole form takes what was typed. */
export function formUpdateOn(form: TemplateElement | undefined): 'blur' | 'submit' | undefined {
  return form ? updateOnOf(attributeOf(form, 'ngFormOptions')?.value) : undefined;
}
