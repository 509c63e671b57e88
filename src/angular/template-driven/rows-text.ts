import { placeByHand } from '../../form/writing.js';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, rowFieldParts, type Control, type RowList } from '../../form/model.js';
import { type ChangeRowsUse, type ResetUse, type RowPlace, type SetAllUse } from '../../form/uses.js';
import { comesAnew } from '../coming-anew.js';
import { isInTemplate } from '../use-edits.js';
import { accessText, attributeRemoval, type FileEdit } from '../writing.js';
import { rowTypeText } from '../made-row.js';
import type { TemplateDraft } from './draft.js';

/** A list, as an expression of the class or the template. */
export function listText(list: string, inTemplate: boolean, draft: TemplateDraft): string {
  return `${inTemplate ? '' : 'this.'}${draft.values}${list.split('.').map(accessText).join('')}`;
}

/** A row, or the value of one of its fields. */
export function rowValueText(field: string, row: RowPlace, inTemplate: boolean, draft: TemplateDraft): string {
  const { list, key } = rowFieldParts(field);
  const own =
    row.kind === 'named' ? row.name : `${listText(list, inTemplate, draft)}[${codeText(row.index, draft.printer)}]`;
  const mayMiss = row.kind === 'at' && row.mayMiss ? '?' : '';
  return key === '' ? own : own + mayMiss + (mayMiss && !/^\w+$/.test(key) ? '.' : '') + accessText(key);
}

/** Rows that are added, removed or exchanged. */
export function changeRowsText(use: ChangeRowsUse, inTemplate: boolean, draft: TemplateDraft): string {
  const list = listText(use.list, inTemplate, draft);
  const { change } = use;
  const print = (code: Parameters<typeof codeText>[0]): string => codeText(code, draft.printer);
  switch (change.kind) {
    case 'add': {
      const values = change.values.map(print).join(', ');
      return change.at ? `${list}.splice(${print(change.at)}, 0, ${values})` : `${list}.push(${values})`;
    }
    case 'remove':
      return change.at === 'last' ? `${list}.pop()` : `${list}.splice(${print(change.at)}, 1)`;
    case 'remove-row':
      return `${list}.splice(${list}.indexOf(${print(change.row)}), 1)`;
    case 'clear':
      return `${list} = []`;
    case 'replace':
      return `${list} = ${print(change.values)}`;
    default: {
      const never: never = change;
      return never;
    }
  }
}

/** What an array starts with, as a list of values. */
export function initialListText(initial: string): string {
  return initial === 'undefined' ? '[]' : initial;
}

/** All values, with rows of their own: what is sent must not change with the form. */
export function copiedList(list: RowList, own: string): string {
  const item = list.item.replace(/\W/g, '') || 'row';
  return `${own}${accessText(list.field)}.map((${item}) => ({ ...${item} }))`;
}

/** The name of a row's control in the form: its key and the row's index. */
export function rowNameText(control: Control, draft: TemplateDraft): string {
  const { list, key } = rowFieldParts(control.field);
  const { model } = draft;
  const index = indexOf(control, draft);
  const clashes = model.fields.some(
    ({ name }) =>
      name !== control.field &&
      (isRowField(name) ? rowFieldParts(name).key === key : new RegExp(`^${key}\\d+$`).test(name)),
  );
  return `${clashes ? `${list.replace(/\./g, '-')}-${key}-` : key}{{ ${index} }}`;
}

/** The name of the index in the loop that repeats a control. */
function indexOf(control: Control, draft: TemplateDraft): string {
  return loopOf(control, draft)?.index ?? 'i';
}

function loopOf(control: Control, draft: TemplateDraft): RowList['loops'][number] | undefined {
  const { model, component } = draft;
  const list = model.lists?.find(({ field }) => field === control.binding?.rows?.list);
  const element = component.template.elements.find(({ start }) => start === control.span.start);
  return list?.loops.find(({ list: place }) => {
    for (let view = element?.view; view; view = view.parent)
      if (view.start <= place.start && view.end >= place.end && view.kind === 'row') return true;
    return false;
  });
}

/** The template's attributes that only placed controls among rows go; loops that lack an index get one. */
export function rowEdits(draft: TemplateDraft): FileEdit[] {
  const { model, context, component } = draft;
  const edits: FileEdit[] = [];
  const indexed = new Set<number>();
  for (const control of model.controls) {
    const loop = control.binding?.rows && loopOf(control, draft);
    if (!loop || loop.index !== undefined || loop.indexAt === undefined || indexed.has(loop.indexAt)) continue;
    indexed.add(loop.indexAt);
    edits.push({ file: loop.list.file, start: loop.indexAt, end: loop.indexAt, text: '; let i = index' });
  }
  for (const list of model.lists ?? []) {
    for (const attribute of list.attributes)
      edits.push(attributeRemoval(context.text(attribute.file), attribute, component.template.place.base));
    for (const span of list.typed) edits.push({ ...span, text: rowTypeText(list, draft.typeName) });
  }
  return edits;
}

/** What keeps rows of an array from becoming plain values. */
export function rowTrouble(draft: TemplateDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [];
  const reset = model.uses.find((use): use is ResetUse => use.kind === 'reset' && use.of === undefined);
  for (const field of model.fields) {
    if (!isRowField(field.name)) continue;
    if (field.type === undefined)
      entries.push({
        entry: 'by-hand',
        span: field.declared,
        what: field.name,
        why: 'the type of this value of a row is not told here; write it behind the control, as in FormControl<number>',
      });
    const { list } = rowFieldParts(field.name);
    const isKnown =
      reset &&
      (rowsBack(list, reset, draft) !== undefined || comesAnew(list, reset, model, context.text(reset.span.file)));
    if (reset && field.resets === 'initial' && !isKnown)
      entries.push({
        entry: 'by-hand',
        span: reset.span,
        what: `${field.name} after a reset`,
        why: 'each row goes back to what it was built with, which a list of values does not remember',
      });
  }
  const isList = (of: string | undefined): boolean =>
    model.fields.some(({ name, kind }) => name === of && kind === 'list of rows');
  for (const rule of model.rules)
    if (isList(rule.fields[0]) && rule.fields.length === 1)
      entries.push({
        entry: 'by-hand',
        span: rule.span,
        what: rule.condition.split('\n')[0] ?? '',
        why: 'it is a rule of the array itself, which a plain list does not have',
      });
  for (const use of model.uses) {
    if (use.kind === 'ask' && use.row === undefined && isList(use.of))
      entries.push(
        placeByHand(
          use.asks?.span ?? use.span,
          context,
          'this is asked of the array itself, which a plain list does not tell',
        ),
      );
    const isRow = use.row !== undefined && (use.kind === 'ask' || use.kind === 'reset' || use.kind === 'watch');
    const inTemplate = use.kind === 'ask' && use.inTemplate && use.row?.kind === 'named';
    if (isRow && !inTemplate)
      entries.push(placeByHand(use.span, context, 'the class has no control of a row at hand any more'));
    if (use.kind === 'set-all' && !leavesRows(use, draft))
      entries.push(
        placeByHand(use.span, context, 'an array of controls takes as many rows as it has, a list takes all'),
      );
  }
  return entries;
}

/**
 * The statement that puts the rows of a list back to what each was built with, where that is the same for all and written
 * out; the reset itself leaves them null.
 */
export function rowsBack(list: string, reset: ResetUse, draft: TemplateDraft): string | undefined {
  const { model, context, component } = draft;
  const own = model.fields.filter(({ name }) => isRowField(name) && rowFieldParts(name).list === list);
  if (!own.some(({ resets }) => resets === 'initial') || isInTemplate(reset.span, component)) return undefined;
  const values = own.map((field) => ({
    key: rowFieldParts(field.name).key,
    value: field.resets === 'null' ? 'null' : field.initial.text,
  }));
  const isPlain = values.every(({ key, value }) => /^[\w$]+$/.test(key) && constant.test(value));
  const text = context.text(reset.span.file);
  const isStatement =
    /(?:^|[\n;{}])\s*$/.test(text.slice(0, reset.span.start)) && /^\s*[;\n}]/.test(text.slice(reset.span.end));
  if (!isPlain || !isStatement || isHandedOn(list, draft)) return undefined;
  const row = model.lists?.find(({ field }) => field === list)?.item.replace(/\W/g, '') || 'row';
  const pairs = values.map(({ key, value }) => `${key}: ${value}`).join(', ');
  return `for (const ${row} of ${listText(list, false, draft)}) Object.assign(${row}, { ${pairs} })`;
}

/** Whether the class hands the rows of a list on as they are: who got them would see them change. */
function isHandedOn(list: string, { model, context, component }: TemplateDraft): boolean {
  return model.uses.some(({ kind, span, ...use }) => {
    if (kind !== 'read' || !('field' in use) || isInTemplate(span, component)) return false;
    if (use.field !== list && use.field !== `${list}[]`) return false;
    const rest = context.text(span.file).slice(span.end);
    return !/^\s*[?!]?\.\s*(?:reduce|map|some|every|findIndex|join|length)\b/.test(rest);
  });
}

const constant = /^(?:'[^']*'|"[^"]*"|-?[\d.]+|true|false|null)$/;

/** Whether all values are set without touching rows: none are given, or every list was exchanged just before. */
function leavesRows(use: SetAllUse, { model, context }: TemplateDraft): boolean {
  const text = context.text(use.span.file);
  const given = text.slice(use.code.start, use.code.end);
  return (model.lists ?? []).every(({ field }) => {
    if (use.merge && given.startsWith('{') && !given.includes('...') && !new RegExp(`\\b${field}\\b`).test(given))
      return true;
    return model.uses.some(
      (other) =>
        other.kind === 'change-rows' &&
        other.list === field &&
        other.change.kind === 'replace' &&
        other.span.end <= use.span.start &&
        /^[\s;]*(this\.\w+\.setControl\([^\n]*\)[\s;]*)*$/.test(text.slice(other.span.end, use.span.start)),
    );
  });
}
