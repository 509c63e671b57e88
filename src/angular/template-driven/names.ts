import type { AskUse } from '../../form/uses.js';
import type { FormModel } from '../../form/model.js';
import type { AngularComponent } from '../component.js';
import { variableNamed } from '../template.js';
import { type TemplateView } from '../template-model.js';

/** What the directive of a form offers by itself; everything else is asked of the group inside it. */
const formApi =
  /^(valid|invalid|pending|disabled|enabled|errors|pristine|dirty|touched|untouched|status|statusChanges|valueChanges|value|hasError|getError|reset|resetForm|submitted|form|control|controls)$/;

/** How a member is asked of the form's directive: by itself, or through its group. */
export function throughForm(member: string | undefined): string {
  return member !== undefined && formApi.test(member) ? '' : '.form';
}

/** Template variables that stand for controls: the name for each field that is asked, where one can be seen. */
export interface ControlNames {
  /** Name by field. */
  names: Map<string, string>;
  /** The name of a field's control as it is seen from a place of the template. */
  seenFrom(field: string, view: TemplateView): string | undefined;
}

/** The view that holds an offset of the template. */
export function viewAt(component: AngularComponent, offset: number): TemplateView {
  const inside = component.template.views.filter((view) => view.start <= offset && view.end > offset);
  const found = inside.sort((a, b) => a.end - a.start - (b.end - b.start))[0] ?? component.template.views[0];
  if (!found) throw new Error('a template has a root');
  return found;
}

/** Chooses names for the controls that the template asks for their status. */
export function controlNames(model: FormModel, component: AngularComponent): ControlNames {
  const { template } = component;
  const gone = new Set(model.names.map(({ name }) => name));
  const names = new Map<string, string>();
  const asked = model.uses.filter((use): use is AskUse => use.kind === 'ask' && use.inTemplate && use.of !== undefined);
  const isTaken = (name: string): boolean =>
    [...names.values()].includes(name) ||
    template.variables.some(
      (variable) => variable.name === name && variable.kind !== 'loop' && variable.exportAs !== 'ngForm',
    ) ||
    template.names.some((one) => one.name === name && !one.variable && !gone.has(name)) ||
    name === model.template?.member;
  for (const { of } of asked) {
    const known =
      model.fields.some(({ name }) => name === of) || model.template?.groups.some(({ name }) => name === of);
    if (of === undefined || names.has(of) || !known) continue;
    const last = (of.split('.').at(-1) ?? of).replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
    const own = model.controls.find(({ field }) => field === of)?.binding?.reference;
    const name = [own, last, `${last}Control`, `${last}Field`].find((one) => one !== undefined && !isTaken(one));
    if (name !== undefined) names.set(of, name);
  }
  return {
    names,
    seenFrom(field, view) {
      const name = names.get(field);
      const control = model.controls.find((one) => one.field === field);
      const group = model.template?.groups.find((one) => one.name === field);
      const element = template.elements.find(({ start, nameEnd }) =>
        control ? start === control.span.start : nameEnd === group?.at,
      );
      if (name === undefined || !element) return undefined;
      if (variableNamed(name, view)) return undefined;
      for (let at: TemplateView | undefined = view; at; at = at.parent) if (at === element.view) return name;
      return undefined;
    },
  };
}
