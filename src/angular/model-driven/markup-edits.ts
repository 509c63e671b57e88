import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Control } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import { elementAt, isCheckedByPage } from '../form-site.js';
import { disablingPlace } from '../disabled.js';
import { unusableWhile } from '../unusable-while.js';
import { isUnusable } from './first-state.js';
import { attributeRemoval, type FileEdit } from '../writing.js';
import { rowControlText } from './rows-text.js';
import { type ModelDraft, pathText, rank } from './draft.js';

/** What names the form's directive at a place: the text that stands there already. */
export function directiveAt(span: Span, draft: ModelDraft): string | undefined {
  const text = draft.context.text(span.file).slice(span.start, span.end);
  return /^(?:this\s*\.\s*)?\w+/.exec(text)?.[0];
}

/** The form's element: the group's name comes, and the directive's name where it is still asked. */
export function formEdits(draft: ModelDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { template } = model;
  if (!template) return [];
  const edits: FileEdit[] = [];
  const bind = `[formGroup]="${draft.group}"`;
  const reference = template.attributes.find(({ start, end }) =>
    /="ngForm"/.test(context.text(template.file).slice(start, end)),
  );
  if (!template.element) return edits;
  if (reference && !draft.keepsDirective) edits.push({ ...reference, text: bind });
  else edits.push({ file: template.file, start: template.at, end: template.at, text: ` ${bind}` });
  for (const attribute of template.attributes) {
    if (attribute === reference) continue;
    edits.push(attributeRemoval(context.text(template.file), attribute, component.template.place.base));
  }
  ledger.push({
    entry: 'carried',
    span: template.element,
    what: 'the form’s element',
    why: `it bears the group ${draft.group}`,
  });
  for (const group of template.groups) {
    const [own, ...rest] = group.attributes;
    if (own) edits.push({ ...own, text: `formGroupName="${group.name}"` });
    for (const attribute of rest) edits.push(attributeRemoval(context.text(template.file), attribute));
  }
  for (const attribute of model.lists?.flatMap(({ attributes }) => attributes) ?? [])
    edits.push(attributeRemoval(context.text(attribute.file), attribute, component.template.place.base));
  for (const { method, argument } of template.given) {
    ledger.push({
      entry: draft.keepsDirective ? 'kept' : 'retired',
      span: argument[0] ?? template.element,
      what: `argument of ${method}`,
      why: draft.keepsDirective ? 'its submitted state is asked for there' : 'the class knows the group by itself',
    });
  }
  return edits;
}

/** The attribute that ties a control to the class. */
export function tiedBy(control: Control, draft: ModelDraft): string {
  const { field, binding } = control;
  const name = field.split('.').at(-1) ?? field;
  const groups = (draft.model.template?.groups ?? []).map((group) => group.name);
  const nested = field.includes('.') && !groups.includes(field.split('.').slice(0, -1).join('.'));
  if (binding?.rows) return `[formControl]="${rowControlText(field, binding.rows.row, true, draft)}"`;
  if (binding?.standalone || nested) return `[formControl]="${pathText(field, draft)}"`;
  return `formControlName="${/^[\w-]+$/.test(name) ? name : name.replace(/"/g, '&quot;')}"`;
}

/** One control: its attributes of the old approach go, its name in the group comes. */
export function controlEdits(control: Control, draft: ModelDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { binding } = control;
  const { context, component, model } = draft;
  if (!binding) return [];
  const { file } = component.template.place;
  const text = context.text(file);
  const bind = tiedBy(control, draft);
  const form = elementAt(component, model.template?.element?.start);
  const edits: FileEdit[] = [];
  const [model0, ...others] = [...binding.attributes].sort((a, b) => rank(a, text) - rank(b, text));
  if (model0) edits.push({ ...model0, text: bind });
  for (const attribute of others) {
    const change = binding.changed.find(({ span }) => span.start === attribute.start);
    if (change && draft.followed.has(control.field)) {
      edits.push(attributeRemoval(text, attribute, component.template.place.base));
      ledger.push({
        entry: 'carried',
        span: attribute,
        what: text.slice(attribute.start, attribute.end),
        why: 'the class follows the control’s changes, those of a reset included',
      });
    } else if (change) {
      const handler = codeText(change.code, draft.printer);
      edits.push({ ...attribute, text: `(${binding.event})="${handler}"` });
      ledger.push({
        entry: 'carried',
        span: attribute,
        what: text.slice(attribute.start, attribute.end),
        why: `it runs on the element’s own ${binding.event} event, after the control took the value`,
      });
    } else edits.push(attributeRemoval(text, attribute, component.template.place.base));
  }
  for (const rule of model.rules) {
    if (rule.fields[0] !== control.field || rule.stated !== 'native' || !rule.constraint) continue;
    if (rule.span.start < control.span.start || rule.span.end > control.span.end) continue;
    // what the browser and assistive technology read stays: the mark of a required control, limits of what can be typed
    if (isCheckedByPage(form)) continue;
    if (/^(minlength|pattern|email)\b|^\[(minlength|pattern|email)\]/.test(text.slice(rule.span.start)))
      edits.push(attributeRemoval(text, rule.span, component.template.place.base));
  }
  if (binding.disabled?.constant)
    edits.push(attributeRemoval(text, binding.disabled.span, component.template.place.base));
  else if (binding.disabled) {
    const place = disablingPlace(control, component);
    const condition = place ? codeText({ file, ...place, holes: [] }, draft.printer).trim() : binding.disabled.text;
    const { start } = binding.disabled.span;
    const name = text.slice(start).split('=', 1)[0] ?? '';
    ledger.push({
      entry: 'carried',
      span: { file, start, end: start + name.length },
      what: name,
      why: 'the page’s attribute follows the condition, not the control of the class',
      takenOver: true,
    });
    edits.push({
      ...binding.disabled.span,
      text: isUnusable(control, draft)
        ? `[${unusableWhile.attribute}]="${condition}"`
        : `[attr.disabled]="${/^[\w.!]+$/.test(condition) ? condition : `(${condition})`} ? '' : null"`,
    });
  }
  ledger.push({
    entry: 'carried',
    span: control.span,
    what: `control of ${control.field}`,
    why: `it is bound by ${bind}`,
  });
  return edits;
}
