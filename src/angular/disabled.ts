import type { Control, FormModel } from '../form/model.js';
import type { Use } from '../form/uses.js';
import type { AngularComponent } from './component.js';
import { attributeAt } from './form-site.js';
import type { Place } from './template-model.js';

/** Whether a control of the form can be disabled, so that the form's value would leave it out. */
export function hasDisabled(model: FormModel): boolean {
  return (
    model.controls.some(({ binding }) => binding?.disabled) ||
    model.uses.some((use) => use.kind === 'ask' && /^(disable|enable)$/.test(use.member ?? ''))
  );
}

/** Where the condition stands that disables a control; undefined where none does. */
export function disablingPlace({ binding }: Control, component: AngularComponent): Place | undefined {
  return binding?.disabled && attributeAt(component, binding.disabled.span.start)?.valuePlace;
}

/** Uses that are edited by themselves: a condition that disables a control is written anew with its attribute. */
export function placedUses(uses: readonly Use[], { controls }: Pick<FormModel, 'controls'>): Use[] {
  const disabling = controls.flatMap(({ binding }) => binding?.disabled?.span ?? []);
  return uses.filter(
    ({ span }) =>
      !disabling.some(({ file, start, end }) => file === span.file && start <= span.start && end >= span.end),
  );
}
