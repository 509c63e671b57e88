import path from 'node:path';
import * as t from '@babel/types';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import {
  isRowField,
  type AskUse,
  type Control,
  type Field,
  type FormModel,
  type ReadAllUse,
  type ResetUse,
  type SetAllUse,
  type SetUse,
  type Span,
  type Use,
} from '../../form/model.js';
import { leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { attributeText } from '../../rules/native.js';
import { wholeLines } from '../../source/removal.js';
import { indentAt } from '../../source/style.js';
import { initialObject } from '../class-reading.js';
import { checkedBy, checkedLaterBy, type RuleDirective } from '../checked-by.js';
import {
  accessText,
  attributeRemoval,
  importEdits,
  moduleEdits,
  spareDeclarations,
  type FileEdit,
} from '../writing.js';
import { isInTemplate, useEdits } from '../use-edits.js';
import type { AngularComponent } from '../component.js';
import { classEdits, isFlat, memberOfRules, watchEdits } from './class-edits.js';
import { controlNames, throughForm, viewAt, type ControlNames } from './names.js';
import {
  changeRowsText,
  copiedList,
  listText,
  madeRowText,
  rowEdits,
  rowNameText,
  rowTrouble,
  rowValueText,
} from './rows-text.js';
import { valuesText } from './values-text.js';

/** What the parts of the writer share. */
export interface TemplateDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  /** Member of the class that holds the values. */
  values: string;
  /** Name of the form in the template and, where the class asks it too, in the class. */
  form: string;
  needs: { reference: boolean; query: boolean; start: boolean; startMember: boolean };
  /** Name of the constant that a reset goes back to. */
  startName: string;
  typeName: string;
  controls: ControlNames;
  printer: CodePrinter;
  /** Rules that no attribute states, by field or by the path of a group: the member that holds them. */
  ruleMembers: Map<string, { member: string; directive: RuleDirective; codes: string[] }[]>;
}

/** Writes a form whose template holds `ngModel` controls and whose class holds a plain object of values. */
export function writeTemplateDriven(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const byHand = unclearEntries(model);
  const draft = draftOf(model, context, component);
  byHand.push(...unwritable(draft));
  if (byHand.length) return leftByHand(byHand);
  const ledger: LedgerEntry[] = [];
  findRuleMembers(draft);
  const uses = useEdits(model, context, (use) => useText(use, draft), ledger);
  const edits: FileEdit[] = [
    ...uses,
    ...watchEdits(draft, ledger),
    ...formEdits(draft, ledger),
    ...rowEdits(draft),
    ...model.controls.flatMap((control, index) => controlEdits(control, index, draft, ledger)),
    ...classEdits(draft, ledger),
  ];
  const directives = [...new Set([...draft.ruleMembers.values()].flat().map(({ directive }) => directive))];
  edits.push(...importAndModuleEdits(draft, edits, directives, ledger));
  for (const other of model.others)
    ledger.push({
      entry: 'kept',
      span: { ...model.span, end: model.span.start },
      what: `member ${other.name}`,
      why: other.why,
    });
  const folder = path.dirname(model.file);
  const creates = directives
    .map((directive) => ({ file: path.join(folder, directive.fileName), text: directive.text(context) }))
    .filter(({ file }) => !context.exists(file));
  return { edits, creates, deletes: [], dependencies: [], ledger };
}

function draftOf(model: FormModel, context: WriteContext, component: AngularComponent): TemplateDraft {
  const base = component.name.replace(/(Form)?Component$|Form$/, '') || component.name;
  const owned = new Set(model.names.map(({ name }) => name));
  const taken = (name: string): boolean =>
    (component.members.has(name) && !owned.has(name)) ||
    component.template.variables.some((variable) => variable.name === name) ||
    name === model.template?.member;
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const draft: TemplateDraft = {
    model,
    context,
    component,
    values: ['model', 'values', `${lower}Model`].find((name) => !taken(name)) ?? 'formValues',
    form: model.template?.reference ?? model.template?.member ?? 'form',
    needs: { reference: false, query: false, start: false, startMember: false },
    startName: context.freeName(`empty${base}`, `initial${base}`),
    typeName: context.freeName(`${base}Values`, `${base}Model`),
    controls: controlNames(model, component),
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
    ruleMembers: new Map(),
  };
  return draft;
}

/** What keeps the form from becoming template-driven. */
function unwritable(draft: TemplateDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [...nativeResets(draft), ...hiddenControls(model), ...rowTrouble(draft)];
  for (const use of model.uses) {
    const what = context.text(use.span.file).slice(use.span.start, use.span.end);
    const early = use.where === 'effect';
    if (early && (use.kind === 'ask' || use.kind === 'reset'))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the controls of a template are not there yet when this runs',
      });
    if (use.kind === 'ask' && /^(valueChanges|statusChanges|events)$/.test(use.member ?? ''))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the stream is followed with operators, which an event of the template does not have',
      });
    if (use.kind === 'ask' && /^(addControl|removeControl|setControl|registerControl|contains)$/.test(use.member ?? ''))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'controls come and go here; in a template they do so with their elements',
      });
    if (use.kind === 'watch' && use.of === undefined)
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'it follows every value of the form; say which fields it is about',
      });
    if (use.kind === 'watch' && programmatic(use.of, model))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the class sets this field as well, which the template’s event would not tell',
      });
  }
  return entries;
}

/** Controls that count although they are not shown; in a template they are not there then. */
function hiddenControls(model: FormModel): LedgerEntry[] {
  return model.controls
    .filter(({ field, binding }) => {
      const ruled = model.rules.some((rule) => rule.fields.includes(field));
      const asked = model.uses.some((use) => use.kind === 'ask' && use.of === field);
      return binding?.shownWhen !== undefined && (ruled || asked);
    })
    .map(({ field, binding, span }) => ({
      entry: 'by-hand',
      span,
      what: `${field} is shown only while ${binding?.shownWhen?.text ?? ''}`,
      why: 'its rules count while it is hidden as well; in a template the control would be gone then',
    }));
}

/** A reset button of the page leaves every field of a template's form null. */
function nativeResets({ model, component }: TemplateDraft): LedgerEntry[] {
  const { elements, place } = component.template;
  const kept = model.fields.filter((field) => field.resets === 'initial' && field.initial.text !== 'null');
  const form = model.template?.element;
  if (!kept.length || !form) return [];
  return elements
    .filter(
      ({ start, end, attributes }) =>
        start >= form.start &&
        end <= form.end &&
        attributes.some(({ name, value }) => name === 'type' && value === 'reset'),
    )
    .map(({ start, end }) => ({
      entry: 'by-hand',
      span: { file: place.file, start, end },
      what: 'reset button',
      why: `it would leave ${kept.map(({ name }) => name).join(', ')} null, where the controls go back to their start; call the form's reset from a handler`,
    }));
}

function programmatic(field: string | undefined, model: FormModel): boolean {
  return model.uses.some(
    (use) =>
      (use.kind === 'set' && use.quiet !== true && use.assignments.some((one) => one.field === field)) ||
      use.kind === 'set-all',
  );
}

function valueText(field: string, inTemplate: boolean, draft: TemplateDraft): string {
  const keys = field.split('.').map(accessText).join('');
  return `${inTemplate ? '' : 'this.'}${draft.values}${keys}`;
}

function formText(inTemplate: boolean, draft: TemplateDraft): string {
  draft.needs.reference = true;
  if (!inTemplate) draft.needs.query = true;
  return inTemplate ? draft.form : `this.${draft.model.template?.query ?? draft.form}`;
}

function useText(use: Use, draft: TemplateDraft): string | undefined {
  const inTemplate = isInTemplate(use.span, draft.component);
  switch (use.kind) {
    case 'read': {
      const value = use.row
        ? rowValueText(use.field, use.row, inTemplate, draft)
        : valueText(use.field, inTemplate, draft);
      return use.key === undefined ? value : `${use.key}: ${value}`;
    }
    case 'read-all':
      return allText(use, inTemplate, draft);
    case 'set':
      return setText(use, inTemplate, draft);
    case 'set-all':
      return setAllText(use, draft);
    case 'reset':
      return resetText(use, inTemplate, draft);
    case 'ask':
      return askText(use, inTemplate, draft);
    case 'rows':
      return listText(use.list, inTemplate, draft);
    case 'change-rows':
      return changeRowsText(use, inTemplate, draft);
    case 'make-row':
      return madeRowText(use, draft);
    case 'hand-on-all':
    case 'set-named':
    case 'made-handler':
    case 'hand-on':
    case 'depend':
    case 'watch':
      return undefined;
    default: {
      const never: never = use;
      return never;
    }
  }
}

function hasDisabled(model: FormModel): boolean {
  return (
    model.controls.some(({ binding }) => binding?.disabled) ||
    model.uses.some((use) => use.kind === 'ask' && /^(disable|enable)$/.test(use.member ?? ''))
  );
}

function allText(use: ReadAllUse, inTemplate: boolean, draft: TemplateDraft): string {
  const { model, context } = draft;
  if (use.what === 'shown' && hasDisabled(model)) {
    const text = `${formText(inTemplate, draft)}.value`;
    return use.key === undefined ? text : `${use.key}: ${text}`;
  }
  const own = `${inTemplate ? '' : 'this.'}${draft.values}`;
  if (inTemplate || use.spread === true) return use.key === undefined ? own : `${use.key}: ${own}`;
  const text = context.text(use.span.file);
  const taken = /(\}\s*=\s*|JSON\.stringify\(\s*)$/.test(text.slice(Math.max(0, use.span.start - 40), use.span.start));
  if (taken) return own;
  const nested = [
    ...new Set(
      model.fields
        .filter(({ name }) => name.includes('.') && !isRowField(name))
        .map(({ name }) => name.split('.')[0] ?? ''),
    ),
  ];
  const lists = (model.lists ?? []).filter(({ field }) => !field.includes('.'));
  const rows = lists.map((list) => `, ${list.field}: ${copiedList(list, own)}`).join('');
  return `{ ...${own}${rows}${nested.map((key) => `, ${key}: { ...${own}${accessText(key)} }`).join('')} }`;
}

function setText(use: SetUse, inTemplate: boolean, draft: TemplateDraft): string | undefined {
  const [assignment] = use.assignments;
  if (!assignment || assignment.value.kind !== 'value') return undefined;
  const { operator, code } = assignment.value;
  const target = use.row
    ? rowValueText(assignment.field, use.row, inTemplate, draft)
    : valueText(assignment.field, inTemplate, draft);
  const value = codeText(code, draft.printer);
  return operator === undefined ? `${target} = ${value}` : `${target} = ${target} ${operator} ${value}`.trimEnd();
}

function setAllText(use: SetAllUse, draft: TemplateDraft): string {
  const own = `this.${draft.values}`;
  const value = codeText(use.code, draft.printer);
  if (!use.merge && value.trimStart().startsWith('{')) return `${own} = ${value}`;
  const inner = /^\{\s*([\s\S]*?),?\s*\}$/.exec(value.trim())?.[1];
  if (!use.merge) return `${own} = { ...${value} }`;
  return `${own} = { ...${own}, ${inner ?? `...${value}`} }`;
}

/** What a reset brings to a field that is given no value. */
export function resetValue(field: Field): string {
  return field.resets === 'null' ? 'null' : field.initial.text;
}

function resetText(use: ResetUse, inTemplate: boolean, draft: TemplateDraft): string {
  const { model } = draft;
  const kept = givenName(use.span, inTemplate, draft);
  const formAt = kept ?? formText(inTemplate, draft);
  const given = use.values ? codeText(use.values, draft.printer).trim() : undefined;
  if (use.of !== undefined) {
    const field = model.fields.find(({ name }) => name === use.of);
    const value = given ?? (field ? resetValue(field) : '');
    return `${controlText(use.of, inTemplate, use.span, draft)}.reset(${value})`;
  }
  const method = use.clearsSubmitted ? 'resetForm' : 'reset';
  const start = startText(use, draft);
  if (given === undefined) return `${formAt}.${method}(${start})`;
  const inner = /^\{\s*([\s\S]*?),?\s*\}$/.exec(given)?.[1];
  const full =
    inner !== undefined &&
    !inner.includes('...') &&
    model.fields.every(({ name }) => new RegExp(`(^|[\\s,])['"]?${name}['"]?\\s*[:,]|(^|[\\s,])${name}$`).test(inner));
  if (full || givesAllKeys(given, draft) || (inner === undefined && !draft.model.fields.length))
    return `${formAt}.${method}(${given})`;
  const rest = inner === undefined ? `...${given}` : inner;
  return `${formAt}.${method}({ ...${start}${rest === '' ? '' : `, ${rest}`} })`;
}

/** Whether a method of the class gives a value for every field. */
function givesAllKeys(given: string, { component, model }: TemplateDraft): boolean {
  const name = /^(?:this\.)?(\w+)\(\)$/.exec(given)?.[1];
  if (name === undefined || !component.members.has(name)) return false;
  const call = t.callExpression(t.memberExpression(t.thisExpression(), t.identifier(name)), []);
  const { parts, known } = initialObject(component, call, undefined, () => undefined);
  return known && model.fields.every((field) => parts.get(field.name.split('.')[0] ?? '')?.node !== undefined);
}

/** The values a form goes back to: the constant it also starts with, or an object of its own where they differ. */
function startText(use: ResetUse, draft: TemplateDraft): string {
  const { model, context } = draft;
  const same = model.fields.every(
    (field) => resetValue(field) === field.initial.text && !/\bthis\b/.test(field.initial.text),
  );
  if (same) {
    draft.needs.start = true;
    if (isInTemplate(use.span, draft.component)) draft.needs.startMember = true;
    return isFlat(draft) ? draft.startName : `${draft.startName}()`;
  }
  const text = context.text(use.span.file);
  return valuesText(
    model.fields
      .filter(({ name }) => !isRowField(name))
      .map((field) => ({ ...field, commentsBefore: [], commentBehind: undefined })),
    resetValue,
    context,
    indentAt(text, use.span.start),
    use.span.end - text.lastIndexOf('\n', use.span.start),
  );
}

function controlText(field: string, inTemplate: boolean, span: Span, draft: TemplateDraft): string {
  const { component } = draft;
  if (inTemplate) {
    const name = draft.controls.seenFrom(field, viewAt(component, span.start));
    if (name !== undefined) return name;
    return `${formText(true, draft)}.form.get('${field}')`;
  }
  const [first = '', ...rest] = field.split('.');
  const start = `${formText(false, draft)}.controls['${first}']`;
  return rest.length ? `${formText(false, draft)}.form.get('${field}')` : start;
}

function askText(use: AskUse, inTemplate: boolean, draft: TemplateDraft): string {
  const kept = givenName(use.span, inTemplate, draft);
  if (use.of === undefined && kept !== undefined)
    return `${kept}${throughForm(use.member)}${use.joint === '' ? '' : '.'}`;
  if (use.of === undefined) {
    const through = throughForm(use.member);
    const isArgument =
      use.member === undefined &&
      draft.model.template?.given.some(({ argument }) => argument.some((one) => one.start === use.span.start));
    return `${formText(inTemplate, draft)}${isArgument === true ? '' : through}${use.joint === '' ? '' : '.'}`;
  }
  const receiver = controlText(use.of, inTemplate, use.span, draft);
  if (use.joint === '') return receiver;
  const mayMiss = receiver.includes('.get(') || (!inTemplate && runsWhileRendering(use.span, draft));
  return `${receiver}${mayMiss ? '?.' : '.'}`;
}

/** Whether code of the class runs while the page is drawn, when a template's controls may not be there yet. */
function runsWhileRendering(span: Span, { component }: TemplateDraft): boolean {
  return [...component.members.values()].some(
    ({ name, node }) =>
      (node.start ?? 0) <= span.start &&
      (node.end ?? 0) >= span.end &&
      component.template.names.some((one) => one.name === name && !one.variable && !one.inEvent),
  );
}

/** The parameter that stands for the form at a place of the class. */
function givenName(span: Span, inTemplate: boolean, { model, context }: TemplateDraft): string | undefined {
  if (inTemplate) return undefined;
  const text = context.text(span.file).slice(span.start, span.end);
  return model.template?.given.find(({ name, of }) => of === undefined && new RegExp(`^${name}\\b`).test(text))?.name;
}

function formEdits(draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
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
function findRuleMembers(draft: TemplateDraft): void {
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

function controlEdits(control: Control, index: number, draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
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

/** The method that code which follows a field hands its value on to, where it does nothing else. */
export function calledMethod(
  use: Extract<Use, { kind: 'watch' }>,
  { context }: TemplateDraft,
): { name: string; takes: boolean } | undefined {
  const text = context.text(use.code.file).slice(use.code.start, use.code.end);
  const found = /^\(?\s*(\w*)\s*\)?\s*=>\s*this\.(\w+)\(\s*(\w*)\s*\)$/.exec(text);
  if (!found || found[2] === undefined || (found[3] !== '' && found[3] !== found[1])) return undefined;
  return { name: found[2], takes: found[3] !== '' };
}

/** Whether code that follows a field takes its value. */
export function takesValue(use: Extract<Use, { kind: 'watch' }>, { context }: TemplateDraft): boolean {
  return !/^(async\s*)?\(\s*\)/.test(context.text(use.code.file).slice(use.code.start, use.code.end));
}

/** The method that runs when a person changes a field. */
export function watchName(field: string, draft: TemplateDraft): string {
  const last = (field.split('.').at(-1) ?? field).replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
  const taken = (name: string): boolean => draft.component.members.has(name);
  return (
    [`${last}Changed`, `on${last.charAt(0).toUpperCase()}${last.slice(1)}Change`].find((name) => !taken(name)) ??
    `${last}WasChanged`
  );
}

function importAndModuleEdits(
  draft: TemplateDraft,
  edits: readonly FileEdit[],
  directives: readonly RuleDirective[],
  ledger: LedgerEntry[],
): FileEdit[] {
  const { component, model } = draft;
  const { script, template } = component;
  const bound = model.controls.map(({ span }) => span.start);
  const placing = (model.lists ?? []).flatMap(({ attributes }) => attributes.map(({ start }) => start));
  const left = template.elements.some(
    (element) =>
      !element.attributes.some(({ start }) => placing.includes(start)) &&
      ((element.attributes.some(({ name }) => /^(formControl|formControlName|formArrayName)$/.test(name)) &&
        !bound.includes(element.start)) ||
        (element.attributes.some(({ name }) => name === 'formGroup') &&
          element.start !== model.template?.element?.start)),
  );
  const keepsOld = left || component.home?.shared === true;
  const module = moduleEdits(
    component,
    ['FormsModule', ...directives.map(({ className }) => className)],
    keepsOld ? undefined : 'ReactiveFormsModule',
  );
  const all: FileEdit[] = [];
  const byFile = new Map<string, FileEdit[]>([[script.file, edits.filter(({ file }) => file === script.file)]]);
  const scripts = new Map([[script.file, script]]);
  if (module) {
    const own = module.edits.map((edit) => ({ file: module.file, ...edit }));
    all.push(...own);
    byFile.set(module.file, [...(byFile.get(module.file) ?? []), ...own]);
    scripts.set(module.file, module.script);
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: own[0]?.start ?? 0, end: own[0]?.end ?? 0 },
      what: 'ReactiveFormsModule',
      why: keepsOld
        ? 'other templates still need it; FormsModule is imported beside it'
        : 'FormsModule takes its place',
    });
  }
  const spare = spareDeclarations(script, byFile.get(script.file) ?? []).map((edit) => ({
    file: script.file,
    ...edit,
  }));
  all.push(...spare);
  byFile.get(script.file)?.push(...spare);
  for (const [file, own] of byFile) {
    const one = scripts.get(file);
    if (!one) continue;
    const folder = path.dirname(file);
    const wanted: Record<string, string[]> = {
      '@angular/core': ['ViewChild'],
      '@angular/forms': ['FormsModule', 'NgForm', 'Validators'],
    };
    for (const directive of directives) {
      const relative = path
        .relative(folder, path.join(path.dirname(model.file), directive.fileName))
        .split(path.sep)
        .join('/')
        .replace(/\.ts$/, '');
      wanted[relative.startsWith('.') ? relative : `./${relative}`] = [directive.className];
    }
    all.push(...importEdits(one, own, wanted).map((edit) => ({ file, ...edit })));
  }
  return all;
}

/** Takes a statement away with its lines. */
export function statementRemoval(text: string, span: Span): FileEdit {
  return { file: span.file, ...wholeLines(text, span), text: '' };
}
