import { indentAt } from '../../source/style.js';
import { switchEntry, unusableText } from '../switched.js';
import { memberName } from './changes.js';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Control } from '../../form/model.js';
import { attributeOf, elementAt, isCheckedByPage } from '../form-site.js';
import type { TemplateAttribute, TemplateElement } from '../template-model.js';
import { attributeRemoval, type FileEdit } from '../writing.js';
import { treeText, type SignalDraft } from './draft.js';
import type { SchemaRule } from './rule-texts.js';
import { rowTree } from './rows-text.js';

/** Attributes that the field's directive writes itself; they may not stand beside it. */
const written = /^(required|min|max|minlength|maxlength|pattern|email|name|disabled)$/;

function removal(attribute: { start: number; end: number }, { component }: SignalDraft): FileEdit {
  const { place } = component.template;
  const text = component.template.place.inline ? component.script.text : place.text;
  return attributeRemoval(text, { file: place.file, start: attribute.start, end: attribute.end }, place.base);
}

/** Edits of the form's element: what bound it goes, and the submit keeps the browser on the page. */
export function formEdits(draft: SignalDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, component } = draft;
  const { file, element: at, attributes = [], groups = [] } = model.template ?? {};
  const element = elementAt(component, at?.start);
  if (file === undefined || !element) return [];
  const edits: FileEdit[] = [];
  const submit = attributeOf(element, 'ngSubmit', 'event') ?? attributeOf(element, 'submit', 'event');
  const stays = `$event.preventDefault()${draft.needs.submitted ? `; ${draft.submitted}.set(true)` : ''}`;
  const parts: string[] = [];
  if (element.tag === 'form') {
    const byPage = isCheckedByPage(element);
    const own = attributeOf(element, 'ngNativeValidate');
    if (own) edits.push(removal(own, draft));
    if (!byPage && !attributeOf(element, 'novalidate')) parts.push('novalidate');
    if (submit) edits.push({ file, ...submitHead(submit, stays, draft) });
    else parts.push(`(submit)="${stays}"`);
  }
  const [first, ...others] = attributes;
  if (first) edits.push(parts.length ? { ...first, text: parts.join(' ') } : removal(first, draft));
  else if (parts.length)
    edits.push({ file, start: element.nameEnd, end: element.nameEnd, text: ` ${parts.join(' ')}` });
  edits.push(...others.map((one) => removal(one, draft)));
  const directives = element.references.filter(
    ({ exportAs, start }) => exportAs !== '' && !attributes.some((one) => one.start === start),
  );
  edits.push(...directives.map((one) => removal(one, draft)));
  for (const group of groups) edits.push(...group.attributes.map((one) => removal(one, draft)));
  const span = first ?? { file, start: element.start, end: element.nameEnd };
  ledger.push({
    entry: 'carried',
    span: submit ? { file, start: submit.start, end: submit.end } : span,
    what: 'the form’s submit',
    why: 'the browser is kept from sending the page, as the form’s directive did',
  });
  if (first)
    ledger.push({ entry: 'retired', span: first, what: 'the form’s group', why: 'each control names its field' });
  return edits;
}

/** The head of the submit event, which keeps the browser on the page before it does what it did. */
function submitHead(
  { value, valuePlace, start, end }: TemplateAttribute,
  stays: string,
  { component }: SignalDraft,
): { start: number; end: number; text: string } {
  const { place } = component.template;
  const text = place.inline ? component.script.text : place.text;
  if (!valuePlace) return { start, end, text: `(submit)="${stays}"` };
  const prevents = /\$event\.preventDefault\(\)/.test(value ?? '');
  const lead = prevents ? '' : stays + ((value ?? '').trim() === '' ? '' : '; ');
  return { start, end: valuePlace.start, text: `(submit)=${text.charAt(valuePlace.start - 1)}${lead}` };
}

/** Edits of one control: it is tied to its field, and what the field's directive writes itself goes. */
export function controlEdits(
  control: Control,
  rules: readonly SchemaRule[],
  draft: SignalDraft,
  ledger: LedgerEntry[],
): FileEdit[] {
  const { component } = draft;
  const element = elementAt(component, control.span.start);
  const [first, ...others] = control.binding?.attributes ?? [];
  if (!element || !first) return [];
  const { row } = control.binding?.rows ?? {};
  const tree = (row && rowTree(control.field, row, true, draft)) ?? treeText(control.field, true, draft);
  const bound = [first, ...others];
  const form = elementAt(component, draft.model.template?.element?.start);
  const spare = element.attributes.filter((one) => isSpare(one, element, bound, form));
  const directives = element.references.filter(
    ({ exportAs, start }) => exportAs !== '' && !bound.some((one) => one.start === start),
  );
  const { usableWhile, span: switching } = control.binding?.disabled ?? {};
  const isFirst = draft.model.controls.find(({ field }) => field === control.field) === control;
  const following =
    usableWhile?.again && switching && isFirst ? [{ ...switching, text: anewText(control, draft) }] : [];
  if (usableWhile && switching) {
    ledger.push(switchEntry(switching, control.field, 'a rule of the schema'));
    ledger.push(...disabledStart(control.field, draft));
  }
  ledger.push({ entry: 'carried', span: control.span, what: `control of ${control.field}`, why: `it shows ${tree}` });
  for (const { rule, text } of rules)
    if (rule.fields[0] === control.field && rule.of === undefined)
      ledger.push({
        entry: 'carried',
        span: rule.span,
        what: rule.condition,
        why: `${text} states it`,
        ...(spare.some(({ start }) => start === rule.span.start) || rule.stated !== 'native'
          ? {}
          : { untouched: true }),
      });
  const changed = control.binding?.changed ?? [];
  const handlers = changed.map(({ span, code }) => {
    const handler = codeText(code, draft.printer);
    const text = `(${control.binding?.event ?? 'input'})="${handler}"`;
    ledger.push({ entry: 'carried', span, what: handler, why: 'it runs on the element’s own event' });
    return { ...span, text };
  });
  const gone = others.filter(({ start }) => !changed.some(({ span }) => span.start === start));
  return [
    { ...first, text: `[formField]="${tree}"` },
    ...handlers,
    ...following,
    ...[...gone, ...spare, ...directives].map((one) => removal(one, draft)),
    ...optionEdits(element, first.file, draft),
  ];
}

/** The statement that begins a control anew whenever the value changes that switches it off. */
function anewText({ field, binding }: Control, draft: SignalDraft): string {
  const { usableWhile, span } = binding?.disabled ?? {};
  if (!usableWhile?.again || !span) return '';
  const { of, text, again } = usableWhile;
  const { newline, indent: step, semicolon } = draft.context.style;
  const indent = indentAt(draft.context.text(span.file), span.start);
  const own = draft.fields.find(({ name }) => name === field);
  const value = again.given ?? (own?.resets === 'null' ? 'null' : (own?.initial.text ?? ''));
  return [
    `this.${memberName(of, draft)}${again.pipeline}.subscribe((${again.parameter}) => {`,
    `${indent}${step}if (${unusableText(text, again.parameter)}) {`,
    `${indent}${step}${step}${treeText(field, false, draft)}().reset(${value})${semicolon}`,
    `${indent}${step}}`,
    `${indent}})${semicolon}`,
  ].join(newline);
}

/** That a control is disabled at first is told by its rule. */
function disabledStart(field: string, { model, context }: SignalDraft): LedgerEntry[] {
  const declared = model.fields.find(({ name }) => name === field)?.declared;
  if (!declared) return [];
  const text = context.text(declared.file).slice(declared.start, declared.end);
  const found = /\bdisabled\s*:\s*true\b/.exec(text);
  if (!found) return [];
  const start = declared.start + found.index;
  const span = { file: declared.file, start, end: start + found[0].length };
  return [{ entry: 'carried', takenOver: true, span, what: found[0], why: 'its rule says when it cannot be used' }];
}

/** The options of a choice give their texts by the page's own property. */
function optionEdits(select: TemplateElement, file: string, { component }: SignalDraft): FileEdit[] {
  const inside = (element: TemplateElement | undefined): boolean =>
    element !== undefined && (element === select || inside(element.parent));
  return component.template.elements.flatMap((element) => {
    const value = element.tag === 'option' && inside(element) ? attributeOf(element, 'ngValue', 'property') : undefined;
    return value ? [{ file, start: value.start, end: value.end, text: `[value]="${value.value ?? ''}"` }] : [];
  });
}

function isSpare(
  attribute: TemplateAttribute,
  element: TemplateElement,
  bound: readonly { start: number; end: number }[],
  form: TemplateElement | undefined,
): boolean {
  if (bound.some(({ start, end }) => attribute.start >= start && attribute.end <= end)) return false;
  if (attribute.name === 'ngModelOptions') return true;
  // the directive writes none of its own, and the page still checks it
  if (attribute.name === 'pattern' && isCheckedByPage(form)) return false;
  // the kind of a control is its own matter
  return written.test(attribute.name) && attribute.kind !== 'event' && element.tag !== 'option';
}
