import { switchEntry, unusableText } from '../switched.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Control, FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { attributeText } from '../../rules/native.js';
import { checkedBy, checkedLaterBy } from '../checked-by.js';
import { attributeRemoval, type FileEdit } from '../writing.js';
import { memberOfRules } from './class-edits.js';
import { rowNameText, rowValueText } from './rows-text.js';
import { type TemplateDraft, valueText } from './draft.js';
import { calledMethod, takesValue, watchName } from './handler-names.js';
import { streamAttribute } from './streams.js';

/** Edits of the form's element: the group is bound, what only the old approach needed goes. */
export function formEdits(draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { template } = model;
  const [bound] = template?.attributes ?? [];
  if (!template?.element || !bound) return [];
  const edits: FileEdit[] = [];
  const isForm = /^<form\b/.test(context.text(template.file).slice(template.element.start));
  const parts: string[] = [];
  if (!isForm) parts.push('ngForm');
  if (draft.needs.reference && template.reference !== draft.form) parts.push(`#${draft.form}="ngForm"`);
  if (template.updateOn) parts.push(`[ngFormOptions]="{ updateOn: '${template.updateOn}' }"`);
  for (const { member, directive } of draft.ruleMembers.get('') ?? [])
    parts.push(`[${directive.attribute}]="${member}"`);
  if (parts.length) edits.push({ ...bound, text: parts.join(' ') });
  else edits.push(attributeRemoval(context.text(template.file), bound, component.template.place.base));
  ledger.push({
    entry: parts.length ? 'carried' : 'retired',
    span: bound,
    what: 'the form’s group',
    why: parts.length ? `${parts.join(' ')} takes its place` : 'a form of a template makes its group by itself',
  });
  for (const group of template.groups) {
    const [own] = group.attributes;
    const rules = model.rules.filter(
      (rule) => rule.of !== undefined && rule.of !== '' && rule.of.split('.').at(-1) === group.name,
    );
    const extra = rules.length
      ? (draft.ruleMembers.get(rules[0]?.of ?? '') ?? [])
          .map(({ member, directive }) => ` [${directive.attribute}]="${member}"`)
          .join('')
      : '';
    const named = draft.controls.names.get(group.name);
    const reference = named === undefined ? '' : ` #${named}="ngModelGroup"`;
    if (own) edits.push({ ...own, text: `ngModelGroup="${group.name}"${reference}${extra}` });
  }
  return edits;
}

/** Rules that no attribute states: a member of the class holds them, a directive runs them. */
export function findRuleMembers(draft: TemplateDraft): void {
  const { model } = draft;
  const add = (key: string, code: string, async: boolean): void => {
    const list = draft.ruleMembers.get(key) ?? [];
    const directive = async ? checkedLaterBy : checkedBy;
    const known = list.find((one) => one.directive === directive);
    if (known) known.codes.push(code);
    else list.push({ member: memberOfRules(key, async, draft), directive, codes: [code] });
    draft.ruleMembers.set(key, list);
  };
  for (const rule of model.rules) {
    const { constraint } = rule;
    if (!constraint) continue;
    const key = rule.of ?? rule.fields[0] ?? '';
    if (rule.of === undefined && ruleAttribute(rule, draft) !== undefined) continue;
    const code = draft.context.text(rule.span.file).slice(rule.span.start, rule.span.end);
    add(key, code, constraint.kind === 'custom' && constraint.async);
  }
}

/** The attribute of a rule's control that states it. */
function ruleAttribute(rule: FormModel['rules'][number], draft: TemplateDraft): string | undefined {
  const { component } = draft;
  const control = draft.model.controls.find(({ field }) => field === rule.fields[0]);
  if (!rule.constraint || !control) return undefined;
  const element = component.template.elements.find(({ start }) => start === control.span.start);
  const limitsTyping = element?.attributes.some(({ name }) => name === 'maxlength') ?? false;
  return attributeText(rule.constraint, { type: control.type, limitsTyping }, (expression) => {
    const own = /^\s*this\.([\w.]+)\s*$/.exec(expression)?.[1];
    return own;
  });
}

/** Edits of one control: it is bound to the model, its rules move into it. */
export function controlEdits(control: Control, index: number, draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { binding } = control;
  const { model, context } = draft;
  const [attribute] = binding?.attributes ?? [];
  if (!binding || !attribute) return [];
  const text = context.text(attribute.file);
  const element = text.slice(control.span.start, text.indexOf('>', attribute.end) + 1);
  const first = model.controls.findIndex(({ field }) => field === control.field) === index;
  const key = control.field.split('.').at(-1) ?? control.field;
  const parts: string[] = [];
  const rowName = binding.rows && rowNameText(control, draft);
  const value = binding.rows
    ? rowValueText(control.field, binding.rows.row, true, draft)
    : valueText(control.field, true, draft);
  const namesItself = /\[name\]\s*=/.test(element);
  if (binding.name === undefined && !namesItself) parts.push(`name="${rowName ?? key}"`);
  parts.push(`[(ngModel)]="${value}"`);
  const name = draft.controls.names.get(control.field);
  if (name !== undefined && first) parts.push(`#${name}="ngModel"`);
  const options = [
    ...(binding.name !== undefined && rowName !== undefined
      ? [`name: '${rowName.replace(/\{\{ (\w+) \}\}$/, "' + $1")}`]
      : []),
    ...(binding.name !== undefined && rowName === undefined && binding.name !== key ? [`name: '${key}'`] : []),
    ...(binding.updateOn ? [`updateOn: '${binding.updateOn}'`] : []),
  ];
  if (options.length) parts.push(`[ngModelOptions]="{ ${options.join(', ')} }"`);
  for (const use of model.uses)
    if (use.kind === 'watch' && use.of === control.field)
      parts.push(`(ngModelChange)="${handlerText(use, control.field, draft)}"`);
  parts.push(...streamAttribute(control.field, draft));
  for (const rule of model.rules) {
    if (rule.of !== undefined || rule.fields[0] !== control.field) continue;
    const stated = ruleAttribute(rule, draft);
    if (stated === undefined) continue;
    const named = /^\[?([\w-]+)/.exec(stated)?.[1] ?? '';
    if (!new RegExp(`\\s\\[?(attr\\.)?${named}\\]?(=|\\s|/|>)`).test(element)) parts.push(stated);
    if (first)
      ledger.push({
        entry: 'carried',
        span: rule.span,
        what: rule.condition,
        why: `the attribute ${stated} states it`,
      });
  }
  for (const { member, directive } of draft.ruleMembers.get(control.field) ?? []) {
    parts.push(`[${directive.attribute}]="${member}"`);
    if (first)
      for (const rule of model.rules.filter(
        (one) => one.of === undefined && one.fields[0] === control.field && ruleAttribute(one, draft) === undefined,
      ))
        ledger.push({ entry: 'carried', span: rule.span, what: rule.condition, why: `${directive.attribute} runs it` });
  }
  if (binding.disabled?.constant === true) parts.push('disabled');
  const { usableWhile, span: switching } = binding.disabled ?? {};
  if (usableWhile && switching) {
    const text = unusableText(usableWhile.text, valueText(usableWhile.of, true, draft)).replaceAll('"', "'");
    parts.push(`[disabled]="${text}"`);
    ledger.push(switchEntry(switching, control.field, text));
  }
  ledger.push({
    entry: 'carried',
    span: control.span,
    what: `control of ${control.field}`,
    why: `it is bound to ${value}`,
  });
  return [{ ...attribute, text: parts.join(' ') }];
}

/** The handler of a followed field: the method that the code calls, or the one that is made of it. */
function handlerText(use: Extract<Use, { kind: 'watch' }>, field: string, draft: TemplateDraft): string {
  const called = calledMethod(use, draft);
  if (called) return `${called.name}(${called.takes ? '$event' : ''})`;
  return `${watchName(field, draft)}(${takesValue(use, draft) ? '$event' : ''})`;
}
