import { codeText } from '../../form/code-text.js';
import type { Span } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { broughtByReset, isRowField, rowFieldParts, type Control, type RowList } from '../../form/model.js';
import type { ChangeRowsUse, RowPlace, RowsUse, Use } from '../../form/uses.js';
import { placeByHand } from '../../form/writing.js';
import { loopsOf, rowParameter, trackMethods, type Loop } from '../rows.js';
import { keyText, pathText, attributeRemoval, type FileEdit } from '../writing.js';
import { rowTypeText } from '../made-row.js';
import { blockEdits, blockHead, directiveOf } from './loops.js';
import { isConstant, treeText, valueText, type SignalDraft } from './draft.js';

/**
 * The field tree of a row, or of one of its fields; undefined where the class has only the row's values: a method is
 * given these.
 */
export function rowTree(field: string, row: RowPlace, inTemplate: boolean, draft: SignalDraft): string | undefined {
  const { list, key } = rowFieldParts(field);
  if (row.kind === 'named') return inTemplate ? row.name + pathText(key) : undefined;
  const index = codeText(row.index, draft.printer);
  return `${treeText(list, inTemplate, draft)}[${index}]${pathText(key)}`;
}

/** The value of a row, or of one of its fields. */
export function rowValue(field: string, row: RowPlace, inTemplate: boolean, draft: SignalDraft): string {
  const { list, key } = rowFieldParts(field);
  if (row.kind === 'named') return inTemplate ? `${row.name}${pathText(key)}().value()` : row.name + pathText(key);
  const own = `${valueText(list, inTemplate, draft)}[${codeText(row.index, draft.printer)}]`;
  const step = pathText(key);
  return own + (row.mayMiss && step !== '' ? `?.${step.replace(/^\./, '')}` : step);
}

/** A list that is repeated, counted or searched: its fields in the template, its values in the class. */
export function rowsText({ list, what, span }: RowsUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  if (inTemplate) return treeText(list, true, draft);
  const behind = draft.context.text(span.file).slice(span.end);
  // a method is given the values of a row, which are looked for among the values
  return what === 'length' ||
    /^\s*\.(?:indexOf|length|map|filter|some|every|findIndex|forEach|flatMap|reduce)\b/.test(behind)
    ? valueText(list, false, draft)
    : undefined;
}

/** Rows that are added, removed or exchanged; undefined where that takes a function of those before. */
export function changeRowsText(use: ChangeRowsUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  const { change, list } = use;
  const value = `${treeText(list, inTemplate, draft)}().value`;
  const print = (code: Parameters<typeof codeText>[0]): string => codeText(code, draft.printer);
  if (change.kind === 'clear') return `${value}.set([])`;
  if (change.kind === 'replace') return `${value}.set(${print(change.values)})`;
  if (inTemplate) return changedByMethod(use, draft);
  const last = list.split('.').at(-1) ?? 'rows';
  const made = (body: (rows: string) => string, ...texts: string[]): string => {
    const isFree = (name: string): boolean => !texts.some((text) => new RegExp(`(?<!\\.)\\b${name}\\b`).test(text));
    const rows = [last, 'rows', 'list'].find(isFree) ?? 'before';
    return `${value}.update((${rows}) => ${body(rows)})`;
  };
  switch (change.kind) {
    case 'add': {
      const values = change.values.map(print).join(', ');
      const at = change.at && print(change.at);
      if (at === undefined) return made((rows) => `[...${rows}, ${values}]`, values);
      if (/^0$/.test(at)) return made((rows) => `[${values}, ...${rows}]`, values);
      if (!isPlain(at)) return undefined;
      return made((rows) => `[...${rows}.slice(0, ${at}), ${values}, ...${rows}.slice(${at})]`, values, at);
    }
    case 'remove': {
      const at = change.at === 'last' ? undefined : print(change.at);
      if (at === undefined || at.replace(/\s/g, '') === `${valueText(list, false, draft)}.length-1`)
        return made((rows) => `${rows}.slice(0, -1)`);
      const found = /^[\w$.()]+\.findIndex\(\(?(\w+)\)? => (?:\1 === (\w+)|(\w+) === \1)\)$/.exec(at);
      const looked = /^[\w$.()]+\.indexOf\((\w+)\)$/.exec(at)?.[1] ?? found?.[2] ?? found?.[3];
      const own = valueText(list, false, draft);
      if (looked !== undefined && (at.startsWith(`${own}.indexOf(`) || at.startsWith(`${own}.findIndex(`)))
        return made((rows) => without(rows, looked), looked);
      const place = at === 'index' ? 'at' : 'index';
      return isPlain(at) ? made((rows) => `${rows}.filter((_, ${place}) => ${place} !== ${at})`, at) : undefined;
    }
    case 'remove-row': {
      const row = print(change.row);
      return /^\w+$/.test(row) ? made((rows) => without(rows, row), row) : undefined;
    }
    default:
      return change satisfies never;
  }
}

/** A template has no functions of its own: a method of the class changes the rows. */
function changedByMethod(use: ChangeRowsUse, draft: SignalDraft): string | undefined {
  const { change, list } = use;
  const item = draft.model.lists?.find(({ field }) => field === list)?.item.replace(/\W/g, '') ?? 'row';
  const upper = item.charAt(0).toUpperCase() + item.slice(1);
  const value = `this.${draft.form}${pathText(list)}().value`;
  const rows = list.split('.').at(-1) ?? 'rows';
  const method = (id: string, wished: string, parameter: string, body: string): string => {
    const known = draft.rowMethods.get(`${id} ${list}`);
    const name = known?.name ?? draft.freeMember(wished, `${wished}Row`);
    draft.rowMethods.set(`${id} ${list}`, { name, parameter, body: `${value}.update((${rows}) => ${body})` });
    return name;
  };
  const [first, ...more] = change.kind === 'add' ? change.values : [];
  if (change.kind === 'add' && first && !more.length) {
    const row = rows === item ? 'row' : item;
    const parameter = `${row}: ${rowTypeText({ field: list }, draft.typeName)}`;
    const given = codeText(first, draft.printer);
    if (!change.at) return `${method('add', `add${upper}`, parameter, `[...${rows}, ${row}]`)}(${given})`;
    const body = `[...${rows}.slice(0, at), ${row}, ...${rows}.slice(at)]`;
    const name = method('insert', `insert${upper}`, `at: number, ${parameter}`, body);
    return `${name}(${codeText(change.at, draft.printer)}, ${given})`;
  }
  if (change.kind === 'remove' && change.at !== 'last') {
    const body = `${rows}.filter((_, index) => index !== at)`;
    return `${method('remove', `remove${upper}`, 'at: number', body)}(${codeText(change.at, draft.printer)})`;
  }
  return change.kind === 'remove'
    ? `${method('shorten', `removeLast${upper}`, '', `${rows}.slice(0, -1)`)}()`
    : undefined;
}

/** All rows but the one that a name stands for. */
function without(rows: string, row: string): string {
  const other = row === 'one' ? 'other' : 'one';
  return `${rows}.filter((${other}) => ${other} !== ${row})`;
}

/** Whether code may be worked out again for each row. */
function isPlain(text: string): boolean {
  return /^(?:this\.)?[\w$]+(?:\s*[-+]\s*\d+)?$/.test(text);
}

/** Why a use of a row cannot be said; undefined where that is not for its row. */
export function whyNotOfRow(use: Use, inTemplate: boolean): string | undefined {
  if (use.kind === 'change-rows')
    return inTemplate
      ? 'rows are made of those before, which is for a method of the class to do'
      : 'which row it is would be worked out anew for each of them';
  if (use.kind === 'rows') return 'the fields of its rows are looked through';
  if (use.row?.kind === 'named' && !inTemplate && use.kind !== 'read')
    return 'a method is given the values of a row, not its fields';
  return use.row && use.kind === 'reset' ? 'what the reset brings to a row is not told by the code' : undefined;
}

/**
 * The rows after a reset that gives none: as many as before, each as it was built.
 * @returns undefined where rows are not all built alike
 */
export function resetRowsText(list: string, inTemplate: boolean, draft: SignalDraft): string | undefined {
  const { model } = draft;
  const made = model.uses.flatMap((use) => (use.kind === 'make-row' && use.list === list ? [use] : []));
  const texts = made.map(({ values }) =>
    values.map(({ key, code }): string | undefined => {
      const field = model.fields.find(({ name }) => name === `${list}[].${key}`);
      if (!field) return undefined;
      const text = code ? codeText(code, draft.printer) : 'null';
      const brought = broughtByReset(field, model) === 'null' ? 'null' : text;
      return isConstant(brought) ? `${keyText(key, draft.context)}: ${brought}` : undefined;
    }),
  );
  const [first] = texts;
  if (inTemplate || !first || first.includes(undefined)) return undefined;
  if (texts.some((one) => one.join() !== first.join())) return undefined;
  // what is spread over stays the same row: it keeps its place in the page
  return `${valueText(list, false, draft)}.map((row) => ({ ...row, ${first.join(', ')} }))`;
}

/** Attributes that only placed controls among rows go, and methods that are given a row get its values. */
export function rowEdits(draft: SignalDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { place } = component.template;
  return (model.lists ?? []).flatMap((list): FileEdit[] => [
    ...list.attributes.map((one) => attributeRemoval(context.text(one.file), one, place.base)),
    ...loopsOver(list, draft).flatMap((loop) => blockEdits(loop, treeText(list.field, true, draft), draft, ledger)),
    ...(model.approach === 'model-driven'
      ? list.typed.map((span) => ({ ...span, text: rowTypeText(list, draft.typeName) }))
      : []),
    ...handedRows(list, draft).map((name): FileEdit => {
      ledger.push({ entry: 'carried', span: name, what: list.item, why: 'a method is given the values of the row' });
      return { ...name, start: name.end, text: '().value()' };
    }),
  ]);
}

/** The loops of the template that repeat a list. */
function loopsOver(list: RowList, { component }: SignalDraft): Loop[] {
  return loopsOf(component).filter((loop) => list.loops.some(({ list: { start } }) => start === loop.list.start));
}

/** The places of the template that hand a row to a method of the class. */
function handedRows(list: RowList, draft: SignalDraft): Span[] {
  const { component } = draft;
  const { names, place } = component.template;
  const loops = loopsOver(list, draft);
  return names
    .filter((name) => loops.some(({ variable }) => variable === name.variable) && rowParameter(name, component))
    .map(({ start, end }) => ({ file: place.file, start, end }));
}

/** What keeps rows from being fields of a form over a signal. */
export function rowTrouble(draft: SignalDraft): LedgerEntry[] {
  const { model, context, component } = draft;
  const entries: LedgerEntry[] = [];
  const lists = model.lists ?? [];
  if (!lists.length) return entries;
  for (const list of lists)
    for (const loop of loopsOver(list, draft))
      if (directiveOf(loop, component) && !blockHead(loop, '', component))
        entries.push(
          placeByHand(
            { file: component.template.place.file, ...loop.list },
            context,
            'a structural directive cannot repeat the fields of a form, and this one says more than a block would',
          ),
        );
  for (const list of lists)
    for (const { loop } of trackMethods(component, loopsOver(list, draft)))
      entries.push(
        placeByHand(
          { file: component.template.place.file, ...loop.list },
          context,
          'its rows are told apart by a method, which would be given their fields',
        ),
      );
  for (const use of model.uses) {
    const text = context.text(use.span.file).slice(use.span.start, use.span.end);
    if (use.kind !== 'set-all' || model.approach !== 'model-driven') continue;
    const given = context.text(use.code.file).slice(use.code.start, use.code.end);
    const spares = /^\{[^.]*\}$/.test(given) && !lists.some(({ field }) => new RegExp(`\\b${field}\\b`).test(given));
    if (!use.merge || !spares)
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what: text,
        why: 'an array of controls takes as many rows as it has, a list takes all',
      });
  }
  return entries;
}

/** Why the control of a row cannot be tied to its field; undefined where it can. */
export function whyNotBoundInRow({ binding, field }: Control, { model }: SignalDraft): string | undefined {
  if (!binding?.rows) return undefined;
  if (binding.disabled) return 'what disables the control of a row is not carried to a schema';
  return model.lists?.some((list) => list.field === rowFieldParts(field).list) && isRowField(field)
    ? undefined
    : 'which row it stands in is not clear';
}
