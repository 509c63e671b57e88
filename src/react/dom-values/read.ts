import type { Field, FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { frameOf } from '../form-frame.js';
import { kindOf, nativeRules, submitCycle, type BoundControl } from '../form-parts.js';
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
  const fields = found.flatMap(({ name, controls: [control], initial }): Field[] =>
    control
      ? [
          {
            name,
            kind: kindOf(control, control.type === 'checkbox' ? 'boolean' : 'string'),
            role: 'field',
            type: control.type === 'checkbox' ? 'boolean' : 'string',
            typeWritten: false,
            initial: { code: undefined, text: initial ?? 'undefined', when: 'constant' },
            commentsBefore: [],
            commentBehind: undefined,
            names: { value: variableName(name) },
            declared: spanOf(script.file, control.element),
          },
        ]
      : [],
  );
  const submits = region.submit.handler ? functionsCalledBy(region.submit.handler, component.path) : [];
  return {
    ...frameOf(site),
    approach: 'dom-values',
    fields,
    controls: bound.map(({ model }) => model),
    uses: [],
    rules: nativeRules(script, bound),
    lifeCycle: { values: 'constants', submit: submitCycle(script, region, submits, []), resets: [] },
    others: [],
    declarations: [],
    names: [],
    unclear: [],
    handlers: 0,
    stateVariables: 0,
  };
}
