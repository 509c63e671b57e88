import type { Field, FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { kindOf, type BoundControl } from '../form-parts.js';
import { seenField, seenForm } from '../seen-form.js';
import { functionsCalledBy } from '../value-tracing.js';
import { pageFields } from './page-fields.js';
import { variableName } from './write-state.js';

/** Reads a form whose values the page keeps. */
export function readPage(site: FormSite): FormModel {
  const { script, region, component } = site;
  const found = pageFields(site);
  const bound = found.flatMap(({ name, controls }) =>
    controls.map((control): BoundControl => ({
      control,
      field: name,
      model: {
        field: name,
        element: control.tag,
        type: control.type,
        name: control.name,
        label: control.label,
        shows: undefined,
        changes: undefined,
        wayIn: undefined,
        span: spanOf(script.file, control.element),
      },
    })),
  );
  const fields = found.flatMap(({ name, controls: [control], initial }): Field[] => {
    if (!control) return [];
    const type = control.type === 'checkbox' ? 'boolean' : 'string';
    const first = bound.find((one) => one.control === control);
    return [
      {
        ...seenField(name, first, spanOf(script.file, control.element)),
        kind: kindOf(control, type),
        type,
        initial: { code: undefined, text: initial ?? 'undefined', when: 'constant' },
        names: { value: variableName(name) },
      },
    ];
  });
  const submits = region.submit.handler ? functionsCalledBy(region.submit.handler, component.path) : [];
  return seenForm(site, 'dom-values', fields, bound, submits);
}
