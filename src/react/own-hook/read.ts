import type { Field, FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { frameOf } from '../form-frame.js';
import { kindOf, nativeRules, submitCycle, type BoundControl } from '../form-parts.js';

/** Reads a form whose values a hook of the project keeps: what the component itself tells of it. */
export function readHookForm(site: FormSite, bound: readonly BoundControl[], names: readonly string[]): FormModel {
  const { script, component, region } = site;
  const fields = names.map((name): Field => {
    const first = bound.find(({ field, control }) => field.endsWith(name) || control.name === name);
    return {
      name,
      kind: first ? kindOf(first.control, undefined) : 'other',
      role: 'field',
      type: undefined,
      typeWritten: false,
      initial: { code: undefined, text: 'undefined', when: 'constant' },
      commentsBefore: [],
      commentBehind: undefined,
      names: {},
      declared: first?.model.span ?? spanOf(script.file, component.path),
    };
  });
  return {
    ...frameOf(site),
    approach: 'own-hook',
    fields,
    controls: bound.map(({ model }) => model),
    uses: [],
    rules: nativeRules(script, bound),
    lifeCycle: { values: 'constants', submit: submitCycle(script, region, [], []), resets: [] },
    others: [],
    declarations: [],
    names: [],
    unclear: [],
    handlers: 0,
    stateVariables: 0,
  };
}
