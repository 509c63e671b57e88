import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, rowFieldParts, type Field, type FormModel, type RowList } from '../../form/model.js';
import { type ChangeRowsUse, type RowPlace, type SetAllUse } from '../../form/uses.js';
import { parseScript } from '../../source/script.js';
import { indentAt } from '../../source/style.js';
import { accessText, keyText, type FileEdit } from '../writing.js';
import { isInTemplate } from '../use-edits.js';
import { groupText, type ControlFacts } from './group-text.js';
import type { ModelDraft } from './draft.js';

/** The names that the rows of a list get. */
export interface RowNames {
  list: RowList;
  /** Function that builds the controls of one row. */
  make: string;
  /** Type of one row's group. */
  type: string;
}

/** Names for the rows of each list, which stand nowhere in the file. */
export function rowNames(model: FormModel, freeName: (wished: string, ...others: string[]) => string): RowNames[] {
  return (model.lists ?? []).map((list) => {
    const base = list.item.replace(/\W/g, '');
    const upper = base.charAt(0).toUpperCase() + base.slice(1);
    return {
      list,
      make: freeName(`${base}Group`, `new${upper}Group`),
      type: freeName(`${upper}Group`, `${upper}Controls`),
    };
  });
}

function namesOf(list: string, draft: ModelDraft): RowNames {
  const found = draft.rows.find((one) => one.list.field === list);
  if (!found) throw new Error(`${list} is no list`);
  return found;
}

/** The array of a list, as an expression of the class or the template. */
export function arrayText(list: string, inTemplate: boolean, draft: ModelDraft): string {
  const steps = list.split('.').map((key) => `.controls${accessText(key)}`);
  return `${inTemplate ? '' : 'this.'}${draft.group}${steps.join('')}`;
}

/** The group of one row. */
export function rowText(list: string, row: RowPlace, inTemplate: boolean, draft: ModelDraft): string {
  if (row.kind === 'named') return row.name;
  return `${arrayText(list, inTemplate, draft)}.at(${codeText(row.index, draft.printer)})`;
}

/** The control of a row's field. */
export function rowControlText(field: string, row: RowPlace, inTemplate: boolean, draft: ModelDraft): string {
  const { list, key } = rowFieldParts(field);
  const own = rowText(list, row, inTemplate, draft);
  const joint = mayMiss(row) ? '?.' : '.';
  // in a template each further step has to say so as well
  const further = mayMiss(row) && inTemplate ? '?.' : '';
  const step = accessText(key);
  return key === '' ? own : `${own}${joint}controls${further ? `?.${step.replace(/^\./, '')}` : step}`;
}

/** Whether the source expects that there may be no such row. */
export function mayMiss(row: RowPlace | undefined): boolean {
  return row?.kind === 'at' && row.mayMiss;
}

/** Rows that are added, removed or exchanged. */
export function changeRowsText(use: ChangeRowsUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const array = arrayText(use.list, inTemplate, draft);
  const { make } = namesOf(use.list, draft);
  const { change } = use;
  switch (change.kind) {
    case 'add': {
      const [value] = change.values;
      if (inTemplate) draft.rowMembers.add(make);
      const made = value ? `${make}(${codeText(value, draft.printer)})` : '';
      return change.at ? `${array}.insert(${codeText(change.at, draft.printer)}, ${made})` : `${array}.push(${made})`;
    }
    case 'remove':
      return `${array}.removeAt(${change.at === 'last' ? `${array}.length - 1` : codeText(change.at, draft.printer)})`;
    case 'remove-row':
      return `${array}.removeAt(${array}.controls.indexOf(${codeText(change.row, draft.printer)}))`;
    case 'clear':
      return `${array}.clear()`;
    case 'replace':
      if (inTemplate) return undefined;
      return `${setControl(use.list, draft)}new FormArray(${mapped(codeText(change.values, draft.printer))}.map(${make})))`;
    default: {
      const never: never = change;
      return never;
    }
  }
}

function setControl(list: string, draft: ModelDraft): string {
  const { quote } = draft.context.style;
  return `this.${draft.group}.setControl(${quote}${list}${quote}, `;
}

function mapped(text: string): string {
  return /^[\w$.()?!]+$/.test(text) || text.startsWith('[') ? text : `(${text})`;
}

/** All values at once, where a list of rows is among them: its rows are built anew. */
export function setRowsText(use: SetAllUse, value: string, draft: ModelDraft): string {
  const { style } = draft.context;
  const indent = indentAt(draft.context.text(use.span.file), use.span.start);
  const plain = /^[\w$.]+$/.test(value);
  const name = plain ? value : draft.context.freeName('values', 'newValues');
  const lines = plain ? [] : [`const ${name} = ${value}`];
  for (const { list, make } of draft.rows)
    lines.push(
      `${setControl(list.field, draft)}new FormArray(${name}${list.field.split('.').map(accessText).join('')}.map(${make})))`,
    );
  lines.push(`this.${draft.group}.patchValue(${name})`);
  return lines.join(`${style.semicolon || ';'}${style.newline}${indent}`);
}

/** The array of a list as it starts. */
export function initialArrayText(field: Field, draft: ModelDraft): string {
  const names = namesOf(field.name, draft);
  const text = field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text;
  const parsed = parseScript('initial.ts', `(${text})`);
  const statement = parsed.ok ? parsed.script.ast.program.body[0] : undefined;
  const array = t.isExpressionStatement(statement) ? bare(statement.expression) : undefined;
  if (text === 'undefined' || (t.isArrayExpression(array) && !array.elements.length)) {
    draft.rowTypesNeeded.add(names.type);
    return `new FormArray<${names.type}>([])`;
  }
  const elements = t.isArrayExpression(array) ? array.elements : [];
  if (!elements.length || !elements.every((one) => t.isExpression(one)))
    return `new FormArray(${mapped(text)}.map(${names.make}))`;
  const made = elements.map((one) => `${names.make}(${text.slice((one?.start ?? 0) - 1, (one?.end ?? 0) - 1)})`);
  const { style } = draft.context;
  const indent = indentAt(draft.component.script.text, field.declared.start);
  const inner = indent + style.indent;
  const short = `new FormArray([${made.join(', ')}])`;
  if (short.length + indent.length < 90 && !short.includes('\n')) return short;
  return `new FormArray([${style.newline}${made.map((one) => `${inner}${one},${style.newline}`).join('')}${indent}])`;
}

function bare(node: t.Node): t.Node {
  return t.isParenthesizedExpression(node) || t.isTSAsExpression(node) ? bare(node.expression) : node;
}

/** What keeps rows from becoming groups of an array. */
export function rowTrouble(draft: ModelDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [];
  const textOf = (span: { file: string; start: number; end: number }): string =>
    context.text(span.file).slice(span.start, span.end);
  if (!model.lists?.length) return entries;
  for (const use of model.uses) {
    const byHand = (why: string): void => {
      entries.push({ entry: 'by-hand', span: use.span, what: textOf(use.span), why });
    };
    if (use.kind === 'read-all' && use.what === 'shown')
      byHand('the form’s own value names each control of a row by itself, where an array holds them together');
    if (use.kind === 'change-rows' && use.change.kind === 'add' && use.change.values.length !== 1)
      byHand('an array of controls takes one row at a time');
    if (use.kind === 'change-rows' && use.change.kind === 'replace' && isInTemplate(use.span, draft.component))
      byHand('rows are built anew here, which is for the class to do');
    if (use.kind === 'set-all' && !isStatement(use.span, context.text(use.span.file)))
      byHand('rows are built anew here, which takes statements of their own');
  }
  for (const control of model.controls) {
    const { binding } = control;
    if (!binding?.rows) continue;
    const ruled = model.rules.some(({ fields }) => fields[0] === control.field);
    const reset = model.uses.some((use) => use.kind === 'reset');
    const byHand = (why: string): void => {
      entries.push({ entry: 'by-hand', span: control.span, what: `control of ${control.field}`, why });
    };
    if (binding.standalone && model.template?.element && (ruled || reset))
      byHand('it is no part of the form: its rules and resets would become the form’s');
    if ((binding.updateOn ?? model.template?.updateOn) === 'submit')
      byHand('it takes its value at the submit, which a control bound directly does not');
    if (binding.disabled) byHand('the control of a row is disabled by the template');
  }
  for (const rule of model.rules)
    if (
      isRowField(rule.fields[0] ?? '') &&
      rule.constraint &&
      'value' in rule.constraint &&
      /\bthis\b/.test(rule.constraint.value)
    )
      entries.push({
        entry: 'by-hand',
        span: rule.span,
        what: rule.condition,
        why: 'it reads the component, which the function that builds a row does not know',
      });
  for (const { name, type, declared } of model.fields)
    if (isRowField(name) && type === undefined)
      entries.push({
        entry: 'by-hand',
        span: declared,
        what: name,
        why: 'the type of this value of a row is not told anywhere; write a type for the rows first',
      });
  return entries;
}

function isStatement(span: { start: number; end: number }, text: string): boolean {
  return (
    /[{};]\s*$|\*\/\s*$|\/\/[^\n]*\n\s*$/.test(text.slice(0, span.start)) && /^\s*(;|\n|\})/.test(text.slice(span.end))
  );
}

/** The functions that build rows, and types where something speaks of a row. */
export function rowDeclarations(draft: ModelDraft, factsOf: (field: Field) => ControlFacts): string[] {
  const { model, context } = draft;
  const { style } = context;
  return draft.rows.flatMap(({ list, make, type }) => {
    const fields = model.fields.filter(({ name }) => isRowField(name) && rowFieldParts(name).list === list.field);
    const own = (name: string): string =>
      isRowField(name) && rowFieldParts(name).list === list.field ? rowFieldParts(name).key : '';
    const { template: _template, ...rest } = model;
    const inner: FormModel = {
      ...rest,
      rules: model.rules
        .filter(({ fields: [first = ''] }) => own(first) !== '')
        .map((rule) => ({ ...rule, fields: rule.fields.map(own) })),
      controls: model.controls
        .filter(({ field }) => own(field) !== '')
        .map((control) => ({ ...control, field: own(control.field) })),
    };
    const group = groupText(
      inner,
      fields.map((field) => ({ ...field, name: own(field.name) })),
      (field) => {
        const facts = factsOf({ ...field, name: `${list.field}[].${field.name}` });
        const told = facts.keepsType && !/\bnull\b/.test(facts.type ?? 'null');
        return { ...facts, type: told ? undefined : facts.type, initial: `${list.item}${accessText(field.name)}` };
      },
      context,
      style.indent,
      0,
    );
    const rowType = list.type === undefined ? shapeOf(fields, draft) : typeHere(list, draft);
    const lines = [
      `function ${make}(${list.item}: ${rowType}) {`,
      `${style.indent}return ${group}${style.semicolon}`,
      '}',
    ];
    const text = lines.join(style.newline);
    return draft.rowTypesNeeded.has(type)
      ? [text, `type ${type} = ReturnType<typeof ${make}>${style.semicolon}`]
      : [text];
  });
}

function shapeOf(fields: readonly Field[], { context }: ModelDraft): string {
  return `{ ${fields.map(({ name, type }) => `${keyText(rowFieldParts(name).key, context)}: ${type ?? 'unknown'}`).join('; ')} }`;
}

/** The written type of a row, where the class's file can say it; through the model's own type otherwise. */
function typeHere(list: RowList, { component, model }: ModelDraft): string {
  const { script, members } = component;
  const type = (list.type ?? '').replace(/\s+/g, ' ');
  const names = type.replace(/(['"`])[^'"`]*\1/g, '').match(/\b[A-Z]\w*/g) ?? [];
  if (names.every((name) => new RegExp(`\\b${name}\\b`).test(script.text))) return type;
  const [root = '', ...keys] = model.fields.find(({ name }) => name === list.field)?.names.value?.split('.') ?? [];
  const node = members.get(root)?.node;
  const written =
    t.isClassProperty(node) && t.isTSTypeAnnotation(node.typeAnnotation)
      ? node.typeAnnotation.typeAnnotation
      : undefined;
  if (!written) return type;
  return `${script.text.slice(written.start ?? 0, written.end ?? 0)}${keys.map((key) => `['${key}']`).join('')}[number]`;
}

/** Parameters that stood for a row's values stand for its group now. */
export function rowTypeEdits(draft: ModelDraft): FileEdit[] {
  return draft.rows.flatMap(({ list, type }) =>
    list.typed.map((span) => {
      draft.rowTypesNeeded.add(type);
      return { ...span, text: type };
    }),
  );
}
