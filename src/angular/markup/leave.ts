import { freeMember } from '../free-member.js';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Control, FormModel } from '../../form/model.js';
import { leftByHand, placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import type { AngularComponent } from '../component.js';
import { attributeOf, elementAt, plainText } from '../form-site.js';
import type { TemplateElement } from '../template-model.js';
import { interfaceText, typesAreTold, valuesText } from '../values-text.js';
import {
  accessText,
  attributeRemoval,
  behindProperties,
  importsAfter,
  memberIndent,
  moduleEdits,
  type FileEdit,
} from '../writing.js';

interface MarkupDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  form: TemplateElement;
  /** Member that holds the values, and the one that they go back to. */
  values: string;
  start: string;
  typeName: string;
  /** Name of the form in the template. */
  reference: string;
  resets: TemplateElement[];
}

/** Puts the values that the page keeps into the class: each control is bound both ways to an object of values. */
export function leaveMarkup(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const form = elementAt(component, model.template?.element?.start);
  const byHand = unclearEntries(model);
  if (!form) return leftByHand(byHand);
  const draft = draftOf(model, context, component, form);
  byHand.push(...unwritable(draft));
  if (byHand.length) return leftByHand(byHand);
  const ledger: LedgerEntry[] = [];
  const edits: FileEdit[] = [
    ...model.controls.flatMap((control) => controlEdits(control, draft, ledger)),
    ...formEdits(draft, ledger),
    ...classEdits(draft),
  ];
  edits.push(...listEdits(draft, edits));
  for (const { span, condition } of model.rules)
    ledger.push({ entry: 'kept', span, what: condition, why: 'the page checks it as before', untouched: true });
  return { edits, creates: [], deletes: [], dependencies: [], ledger };
}

function draftOf(
  model: FormModel,
  context: WriteContext,
  component: AngularComponent,
  form: TemplateElement,
): MarkupDraft {
  const base = component.name.replace(/(Form)?Component$|Form$/, '') || component.name;
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const free = (...wished: string[]): string => freeMember(component, context, ...wished);
  const own = form.references.find(({ exportAs }) => exportAs === 'ngForm')?.name;
  return {
    model,
    context,
    component,
    form,
    values: free('model', 'values', `${lower}Model`),
    start: free('start', 'initialValues', `${lower}Start`),
    typeName: context.freeName(`${base}Values`, `${base}Model`),
    reference: own ?? free('form', `${lower}Form`),
    resets: component.template.elements.filter(
      (element) => isInside(element, form) && plainText(element, 'type') === 'reset',
    ),
  };
}

function isInside(element: TemplateElement, form: TemplateElement): boolean {
  for (let at = element.parent; at; at = at.parent) if (at === form) return true;
  return false;
}

/** What would be another thing once the framework keeps the form. */
function unwritable({ model, context, component, form, resets }: MarkupDraft): LedgerEntry[] {
  const { file } = component.template.place;
  const entries: LedgerEntry[] = [];
  const place = { file, start: form.start, end: form.nameEnd };
  const submit = attributeOf(form, 'submit', 'event') ?? attributeOf(form, 'ngSubmit', 'event');
  const name = /^\s*(\w+)\(/.exec(submit?.value ?? '')?.[1];
  const member = component.members.get(name ?? '')?.node;
  const handler = member ? component.script.text.slice(member.start ?? 0, member.end ?? 0) : (submit?.value ?? '');
  if (!/preventDefault\(\)|return false/.test(`${submit?.value ?? ''}${handler}`))
    entries.push(
      placeByHand(place, context, 'the browser leaves the page here, which a form of the framework does not do'),
    );
  if (attributeOf(form, 'reset', 'event'))
    entries.push(placeByHand(place, context, 'code runs when the form is reset'));
  for (const reset of resets)
    if (attributeOf(reset, 'click', 'event'))
      entries.push(
        placeByHand({ file, start: reset.start, end: reset.end }, context, 'its click would run before the reset'),
      );
  const asked = /\.(?:reset|elements|namedItem)\b|nativeElement\.value|getElementById|querySelector/.exec(
    component.script.text,
  );
  if (asked) {
    const at = { file: model.file, start: asked.index, end: asked.index + asked[0].length };
    entries.push(placeByHand(at, context, 'the class works on the page’s elements, which the values would not follow'));
  }
  const starts = model.fields.some(({ initial }) => initial.text.startsWith('this.'));
  const late = [...component.members.values()].filter(
    ({ node, name: own }) =>
      starts && model.fields.some(({ initial }) => initial.text === `this.${own}[0]`) && !startsAsList(node),
  );
  for (const { node, name: own } of late)
    entries.push(
      placeByHand(
        { file: model.file, start: node.start ?? 0, end: node.end ?? 0 },
        context,
        `what ${own} begins as is not written here, so the first choice is not known`,
      ),
    );
  return entries;
}

function startsAsList(node: t.Node): boolean {
  return t.isClassProperty(node) && t.isArrayExpression(node.value) && node.value.elements.length > 0;
}

/** A control is bound to its value; attributes that said what it begins as go. */
function controlEdits(control: Control, draft: MarkupDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { component, context, values } = draft;
  const { file, base } = component.template.place;
  const element = elementAt(component, control.span.start);
  if (!element) return [];
  const bind = `[(ngModel)]="${values}${accessText(control.field)}"`;
  const named = attributeOf(element, 'name', 'plain');
  const edits: FileEdit[] = [];
  if (named) edits.push({ file, start: named.end, end: named.end, text: ` ${bind}` });
  else edits.push({ file, start: element.nameEnd, end: element.nameEnd, text: ` name="${control.field}" ${bind}` });
  const radio = control.type === 'radio';
  for (const attribute of element.attributes) {
    const says = attribute.name === 'checked' || (attribute.name === 'value' && !radio && control.type !== 'checkbox');
    if (says)
      edits.push(attributeRemoval(context.text(file), { file, start: attribute.start, end: attribute.end }, base));
  }
  for (const option of component.template.elements) {
    const selected = option.tag === 'option' && isInside(option, element) ? attributeOf(option, 'selected') : undefined;
    if (selected)
      edits.push(attributeRemoval(context.text(file), { file, start: selected.start, end: selected.end }, base));
  }
  ledger.push({
    entry: 'carried',
    span: control.span,
    what: `control of ${control.field}`,
    why: `it is bound by ${bind}`,
  });
  return edits;
}

/** The page still checks the form; what put it back to its start calls the form for that. */
function formEdits(draft: MarkupDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { component, form, resets, reference, start } = draft;
  const { file } = component.template.place;
  const parts: string[] = [];
  const own = form.references.some(({ exportAs }) => exportAs === 'ngForm');
  if (resets.length && !own) parts.push(`#${reference}="ngForm"`);
  // the framework turns the page's own checks off otherwise
  if (!attributeOf(form, 'novalidate') && !attributeOf(form, 'ngNativeValidate')) parts.push('ngNativeValidate');
  const edits: FileEdit[] = parts.length
    ? [{ file, start: form.nameEnd, end: form.nameEnd, text: ` ${parts.join(' ')}` }]
    : [];
  for (const reset of resets) {
    const type = attributeOf(reset, 'type', 'plain');
    if (!type) continue;
    edits.push({
      file,
      start: type.start,
      end: type.end,
      text: `type="button" (click)="${reference}.resetForm(${start})"`,
    });
    ledger.push({
      entry: 'carried',
      span: { file, start: type.start, end: type.end },
      what: 'the reset',
      why: `${reference}.resetForm puts ${start} back`,
    });
  }
  return edits;
}

/** The class gains the values, and what they begin as where a reset goes back to that. */
function classEdits(draft: MarkupDraft): FileEdit[] {
  const { model, context, component, values, start, typeName, resets } = draft;
  const { style } = context;
  const { file, text } = component.script;
  const indent = memberIndent(component);
  const told = typesAreTold(model.fields.map((field) => ({ ...field, initial: plainStart(field.initial) })));
  const written = (at: string, used: number): string =>
    valuesText(model.fields, ({ initial }) => initial.text, context, at, used);
  const typed = told ? '' : `: ${typeName}`;
  const lead = resets.length ? `protected readonly ${start}${typed} = ` : `${values}${typed} = `;
  const lines = [`${lead}${written(indent, indent.length + lead.length + 1)}${style.semicolon}`];
  if (resets.length) lines.push(`${values}${typed} = { ...this.${start} }${style.semicolon}`);
  const at = behindProperties(component);
  const own = text.charAt(at) === ';' ? at + 1 : at;
  const edits: FileEdit[] = [
    { file, start: own, end: own, text: lines.map((line) => style.newline + indent + line).join('') },
  ];
  if (!told)
    edits.push({
      file,
      start: model.before,
      end: model.before,
      text: `${interfaceText(typeName, model.fields, context)}${style.newline}${style.newline}`,
    });
  return edits;
}

/** A start whose type is told by what it is the first of. */
function plainStart(initial: FormModel['fields'][number]['initial']): typeof initial {
  return initial.text.startsWith('this.') ? { ...initial, text: "''" } : initial;
}

function listEdits({ component }: MarkupDraft, edits: readonly FileEdit[]): FileEdit[] {
  const listed = moduleEdits(component, ['FormsModule'], undefined);
  return importsAfter(component, edits, listed, () => ({ '@angular/forms': ['FormsModule'] }));
}
