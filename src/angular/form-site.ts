import type { Control, TemplateBinding, ValueKind } from '../form/model.js';
import { nativeKind } from '../markup/element-kinds.js';
import type { LoadScript } from '../source/project-files.js';
import type { AngularComponent } from './component.js';
import type { TemplateAttribute, TemplateElement, TemplateView } from './template-model.js';

/** One form as it stands in a component, before anything is known of its approach. */
export interface AngularSite {
  component: AngularComponent;
  /** The form's element; undefined where controls stand without one. */
  form: TemplateElement | undefined;
  /** Elements of the form, its own element left out. */
  elements: TemplateElement[];
  /** Name of the form: the class, and what tells it from the others of its class. */
  name: string;
  /** Whether the component holds other forms as well. */
  shared: boolean;
  load: LoadScript;
}

/** An attribute of an element by its name, whatever its kind; `kinds` narrows it. */
export function attributeOf(
  element: TemplateElement,
  name: string,
  ...kinds: TemplateAttribute['kind'][]
): TemplateAttribute | undefined {
  return element.attributes.find(
    (attribute) => attribute.name === name && (!kinds.length || kinds.includes(attribute.kind)),
  );
}

/** The text of a plain attribute. */
export function plainText(element: TemplateElement, name: string): string | undefined {
  const found = attributeOf(element, name, 'plain');
  return found ? (found.value ?? '') : undefined;
}

/** The element of a template that begins at an offset. */
export function elementAt({ template }: AngularComponent, start: number | undefined): TemplateElement | undefined {
  return template.elements.find((element) => element.start === start);
}

/** The attribute of a template that begins at an offset. */
export function attributeAt({ template }: AngularComponent, start: number | undefined): TemplateAttribute | undefined {
  return template.elements.flatMap(({ attributes }) => attributes).find((attribute) => attribute.start === start);
}

function isInside(element: TemplateElement, form: TemplateElement): boolean {
  for (let at = element.parent; at; at = at.parent) if (at === form) return true;
  return false;
}

/** Whether an element is a control of the page itself. */
export function isNativeControl(element: TemplateElement): boolean {
  if (element.tag === 'select' || element.tag === 'textarea') return true;
  return element.tag === 'input' && !/^(submit|button|reset|image|hidden)$/.test(plainText(element, 'type') ?? 'text');
}

/** Whether the page itself checks a form before it is sent. */
export function isCheckedByPage(form: TemplateElement | undefined): boolean {
  return form !== undefined && attributeOf(form, 'ngNativeValidate') !== undefined;
}

/** The forms of a component's template, in order. */
export function sitesOf(component: AngularComponent, load: LoadScript): AngularSite[] {
  const { elements } = component.template;
  const forms = elements.filter(
    (element) =>
      element.tag === 'form' ||
      (element.tag !== 'ng-container' &&
        (attributeOf(element, 'formGroup') ?? attributeOf(element, 'ngForm')) !== undefined),
  );
  const outer = forms.filter((form) => !forms.some((other) => other !== form && isInside(form, other)));
  if (!outer.length) return [{ component, form: undefined, elements, name: component.name, shared: false, load }];
  const hints = outer.map((form) => hintOf(form));
  return outer.map((form, index) => {
    const hint = hints[index];
    const telling = hint !== undefined && hints.filter((other) => other === hint).length === 1;
    return {
      component,
      form,
      elements: elements.filter((element) => isInside(element, form)),
      name: outer.length === 1 ? component.name : `${component.name}:${telling ? hint : index + 1}`,
      shared: outer.length > 1,
      load,
    };
  });
}

function hintOf(form: TemplateElement): string | undefined {
  const bound = attributeOf(form, 'formGroup')?.value;
  const submit = attributeOf(form, 'ngSubmit')?.value ?? attributeOf(form, 'submit')?.value;
  return /(?:^|;)\s*(\w+)\(/.exec(submit ?? '')?.[1] ?? form.references[0]?.name ?? bound ?? plainText(form, 'id');
}

function textInside(component: AngularComponent, element: TemplateElement): string {
  const { base, text } = component.template.place;
  return text
    .slice(element.start - base, element.end - base)
    .replace(/<(select|textarea|button)\b[\s\S]*?<\/\1>/g, ' ')
    .replace(/<[^>]*>|\{\{[\s\S]*?\}\}|@\w+[^{]*\{|\}/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[:*\s]+$/, '');
}

/** What a person calls a control, as far as the template tells it. */
export function labelOf(component: AngularComponent, control: TemplateElement): string | undefined {
  const id = plainText(control, 'id');
  const { elements } = component.template;
  const named =
    id === undefined ? undefined : elements.find((one) => one.tag === 'label' && plainText(one, 'for') === id);
  let wrapping = control.parent;
  while (wrapping && wrapping.tag !== 'label') wrapping = wrapping.parent;
  const label = named ?? wrapping;
  const words = label ? textInside(component, label) : undefined;
  return words || plainText(control, 'aria-label') || plainText(control, 'placeholder') || undefined;
}

/** The views between a control and its form that come and go. */
export function viewsBetween(element: TemplateElement, form: TemplateElement | undefined): TemplateView[] {
  const views: TemplateView[] = [];
  for (let at: TemplateView | undefined = element.view; at && at !== form?.view && at.kind !== 'root'; at = at.parent)
    views.push(at);
  return views;
}

/** The event through which a native control reports what a person did. */
export function eventOf(element: TemplateElement): TemplateBinding['event'] {
  const type = plainText(element, 'type');
  return element.tag === 'select' || type === 'checkbox' || type === 'radio' || type === 'file' ? 'change' : 'input';
}

/** What is seen of a control whatever its approach. */
export function controlFacts(site: AngularSite, element: TemplateElement): Omit<Control, 'field' | 'wayIn'> {
  return {
    element: element.tag,
    type: plainText(element, 'type'),
    name: plainText(element, 'name'),
    label: labelOf(site.component, element),
    shows: undefined,
    changes: undefined,
    span: { file: site.component.template.place.file, start: element.start, end: element.end },
  };
}

/** Kind of value that an element edits, as far as its tag and type tell; undefined for anything else. */
export function kindOfElement(element: TemplateElement): ValueKind | undefined {
  const multiple = attributeOf(element, 'multiple') !== undefined;
  const told = nativeKind({ tag: element.tag, type: plainText(element, 'type'), multiple });
  if (told) return told;
  return element.tag === 'textarea' || element.tag === 'input' ? 'text' : undefined;
}
