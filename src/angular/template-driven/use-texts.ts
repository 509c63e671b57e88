import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import { isRowField, type Field } from '../../form/model.js';
import { type AskUse, type ReadAllUse, type ResetUse, type SetAllUse, type SetUse, type Use } from '../../form/uses.js';
import { type Span } from '../../form/code.js';
import { indentAt } from '../../source/style.js';
import { initialObject } from '../class-reading.js';
import { accessText } from '../writing.js';
import { isInTemplate } from '../use-edits.js';
import { hasDisabled } from '../disabled.js';
import { keyed, textOfUse } from '../use-texts.js';
import { isFlat } from '../spare-code.js';
import { throughForm } from './names.js';
import { madeRowText } from '../made-row.js';
import { changeRowsText, copiedList, listText, rowValueText, rowsBack } from './rows-text.js';
import { valuesText } from '../values-text.js';
import { isStream, streamText, toldText } from './streams.js';
import { type TemplateDraft, valueText, formText, controlText, givenName } from './draft.js';

/** What takes the place of a use of the form; undefined where its text stays. */
export function useText(use: Use, draft: TemplateDraft): string | undefined {
  return textOfUse(
    use,
    {
      read: ({ key, field, row }, inTemplate) =>
        keyed(key, row ? rowValueText(field, row, inTemplate, draft) : valueText(field, inTemplate, draft)),
      'read-all': (one, inTemplate) => allText(one, inTemplate, draft),
      set(one, inTemplate) {
        const text = setText(one, inTemplate, draft);
        return text === undefined ? undefined : `${text}${toldText(one, draft)}`;
      },
      'set-all': (one) => `${setAllText(one, draft)}${toldText(one, draft)}`,
      reset: (one, inTemplate) => [resetText(one, inTemplate, draft), ...rowsBackTexts(one, draft)].join(''),
      ask: (one, inTemplate) => (isStream(one) ? streamText(one, draft) : askText(one, inTemplate, draft)),
      rows: ({ list }, inTemplate) => listText(list, inTemplate, draft),
      'change-rows': (one, inTemplate) => changeRowsText(one, inTemplate, draft),
      'make-row': (one) => madeRowText(one, draft),
    },
    draft.component,
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
  const before = text.slice(Math.max(0, use.span.start - 400), use.span.start);
  if (/JSON\.stringify\(\s*$/.test(before)) return own;
  const pattern = /\{([^{}]*)\}\s*=\s*$/.exec(before)?.[1];
  const names = pattern?.split(',').map((part) => part.trim().split(/[\s:=]/)[0] ?? '');
  const isTaken = (name: string): boolean =>
    names === undefined || names.includes(name) || names.some((one) => one.startsWith('...'));
  const groups = model.fields
    .filter(({ name }) => name.includes('.') && !isRowField(name))
    .map(({ name }) => name.split('.')[0] ?? '');
  const nested = [...new Set(groups)].filter(isTaken);
  const lists = (model.lists ?? []).filter(({ field }) => !field.includes('.') && isTaken(field));
  // a group or a list that is taken out goes on changing with the form
  if (pattern !== undefined && !nested.length && !lists.length) return own;
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
  // the form took what it knows; of an object that holds more, these are named
  const known = new Set(draft.model.fields.map(({ name }) => name.split('.')[0] ?? ''));
  const taken = use.gives?.filter(({ key }) => known.has(key)) ?? [];
  if (inner === undefined && use.gives && taken.length < use.gives.length)
    return `${own} = { ...${own}, ${taken.map(({ key }) => `${key}: ${value}${accessText(key)}`).join(', ')} }`;
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
  // what is given no value a template's form leaves null by itself
  const isBare = given === undefined || /^\{[\s\S]*\}$/.test(given);
  if (
    isBare &&
    model.fields.length &&
    !model.lists?.length &&
    model.fields.every((field) => resetValue(field) === 'null')
  )
    return `${formAt}.${method}(${given ?? ''})`;
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

/** Statements behind a reset that put rows back, each on a line of its own. */
function rowsBackTexts(use: ResetUse, draft: TemplateDraft): string[] {
  if (use.of !== undefined) return [];
  const { style } = draft.context;
  const indent = indentAt(draft.context.text(use.span.file), use.span.start);
  return (draft.model.lists ?? []).flatMap(({ field }) => {
    const back = rowsBack(field, use, draft);
    return back === undefined ? [] : [`${style.semicolon || ';'}${style.newline}${indent}${back}`];
  });
}

/** Whether a method of the class, a function or a constant gives a value for every field. */
function givesAllKeys(given: string, { component, model }: TemplateDraft): boolean {
  const [, own, name, called] = /^(this\.)?(\w+)(\(\))?$/.exec(given) ?? [];
  if (name === undefined || (own !== undefined && !component.members.has(name))) return false;
  const target = !component.members.has(name)
    ? t.identifier(name)
    : t.memberExpression(t.thisExpression(), t.identifier(name));
  const object = called === undefined ? target : t.callExpression(target, []);
  const { parts, known } = initialObject(component, object, undefined, () => undefined);
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
  // the template's name stands for the directive, and what is handed on was the control
  const isDirective = inTemplate && !receiver.includes('.get(');
  if (use.joint === '' && isDirective) return use.member === undefined ? `${receiver}.control` : receiver;
  // what is taken by a name while the page is drawn may not be there yet
  const early = !inTemplate && runsWhileRendering(use.span, draft);
  if (use.joint === '') return early ? `${formText(false, draft)}.form.get('${use.of}')` : receiver;
  const mayMiss = receiver.includes('.get(') || early;
  return `${receiver}${mayMiss ? '?.' : '.'}`;
}

/** Whether code of the class runs while the page is drawn, when a template's controls may not be there yet. */
function runsWhileRendering(span: Span, { component }: TemplateDraft): boolean {
  const { members, template, script } = component;
  const drawn = new Set(template.names.filter((one) => !one.variable && !one.inEvent).map(({ name }) => name));
  for (const name of drawn) {
    const node = members.get(name)?.node;
    if (!node) continue;
    if (node.start === span.start || ((node.start ?? 0) <= span.start && (node.end ?? 0) >= span.end)) return true;
    const text = script.text.slice(node.start ?? 0, node.end ?? 0);
    for (const [, called = ''] of text.matchAll(/\bthis\.(#?\w+)/g)) drawn.add(called);
  }
  return false;
}
