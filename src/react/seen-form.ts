import type { Field, FormModel } from '../form/model.js';
import type { Span } from '../form/code.js';
import type { FormSite } from './approach.js';
import { spanOf } from './code.js';
import { frameOf } from './form-frame.js';
import type { JsxControl } from './jsx-controls.js';
import { kindOf, namedControl, nativeRules, type BoundControl } from './form-parts.js';

/** A field of which its control alone tells something. */
export function seenField(name: string, control: BoundControl | undefined, otherwise: Span): Field {
  return {
    name,
    kind: control ? kindOf(control.control, undefined) : 'other',
    role: 'field',
    type: undefined,
    typeWritten: false,
    initial: { code: undefined, text: 'undefined', when: 'constant' },
    commentsBefore: [],
    commentBehind: undefined,
    names: {},
    declared: control?.model.span ?? otherwise,
  };
}

/** A control that is told to show a field by what it is called, rather than by what its attributes say. */
export function seenControl({ script }: FormSite, field: string, control: JsxControl): BoundControl {
  return { control, field, model: namedControl(script, field, control) };
}

/**
 * The model of a form that a step takes out of its approach as a whole: what is seen of it, without its uses.
 */
export function seenForm(site: FormSite, approach: string, fields: Field[], bound: readonly BoundControl[]): FormModel {
  return {
    ...frameOf(site),
    approach,
    fields,
    controls: bound.map(({ model }) => model),
    uses: [],
    rules: nativeRules(site.script, bound),
    others: [],
    declarations: [],
    names: [],
    unclear: [],
    handlers: 0,
    stateVariables: 0,
  };
}

/** Where a component stands, for a field of which nothing else is known. */
export function placeOfComponent({ script, component }: FormSite): Span {
  return spanOf(script.file, component.path);
}
