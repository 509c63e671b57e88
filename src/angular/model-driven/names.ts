import type { FormModel } from '../../form/model.js';
import type { AngularComponent } from '../component.js';

/** Names that only a form's directive has, and the group of its controls has not. */
const directiveOnly = /^(submitted|resetForm|onSubmit|onReset|ngSubmit)$/;

/** Whether the directive of the form has to stay known under a name: its submitted state is asked for. */
export function needsDirective(model: FormModel): boolean {
  return model.uses.some(
    (use) =>
      (use.kind === 'ask' && use.of === undefined && directiveOnly.test(use.member ?? '')) ||
      (use.kind === 'reset' && use.clearsSubmitted),
  );
}

/** Whether something is asked of the form that only its directive knows. */
export function isDirectiveMember(member: string | undefined): boolean {
  return directiveOnly.test(member ?? '');
}

/** A name for the group of controls that means nothing else in the class or the template. */
export function groupName(model: FormModel, component: AngularComponent): string {
  const gone = new Set(model.names.map(({ name }) => name));
  const reference = model.template?.reference;
  const keepsReference = needsDirective(model);
  const taken = (name: string): boolean =>
    (component.members.has(name) && !(gone.has(name) && !keepsReference)) ||
    component.template.variables.some(
      (variable) => variable.name === name && (keepsReference || variable.exportAs !== 'ngForm'),
    );
  const wished = [
    ...(reference !== undefined && reference.length > 2 && !keepsReference ? [reference] : []),
    ...(model.template?.member !== undefined && !keepsReference ? [model.template.member] : []),
    'form',
    ...(reference === undefined ? [] : [`${reference.replace(/Form$/, '')}Group`]),
    'formGroup',
  ];
  return wished.find((name) => !taken(name)) ?? 'controlsOfForm';
}
