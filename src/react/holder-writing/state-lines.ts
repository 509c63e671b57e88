import { codeText } from '../../form/code-text.js';
import type { FormModel } from '../../form/model.js';
import type { HandOnUse, Use } from '../../form/uses.js';
import { isWired } from './wiring.js';
import { quoted } from '../../source/style.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import { pascal } from '../form-names.js';
import { initialItems, membersText, startsAsConstants } from '../initial-values.js';
import type { Draft, HookWords } from './draft.js';
import { handlerText } from './changes.js';

/** Whether the initial object stands above the component: it is needed for a reset as well. */
function standsAbove(draft: Draft): boolean {
  return draft.needs.reset && draft.model.holder?.initial === undefined;
}

export function isTyped({ model }: Draft): boolean {
  if (!model.typescript) return false;
  // an expression for all values has their type
  if (model.holder?.start && model.holder.type === undefined) return false;
  return (
    model.holder?.type !== undefined ||
    model.fields.some((field) => field.typeWritten || /^(\[\]|null|undefined)$/.test(field.initial.text))
  );
}

/** What stands above the component: the type of the values and the object they begin as, where they are needed. */
export function aboveText(draft: Draft): string {
  const { model, names, context } = draft;
  const { style } = context;
  const parts: string[] = [];
  // what stands above a form with a schema is said along with the schema
  if (draft.call?.begins) return '';
  if (isTyped(draft) && model.holder?.type === undefined) parts.push(membersText(model, names.type, context));
  if (standsAbove(draft)) {
    const lead = `const ${names.initial}${isTyped(draft) ? `: ${names.type}` : ''} = `;
    const items = initialItems(model, draft.printer);
    parts.push(`${lead}${laidOut({ open: '{', close: '}', items }, style, '', lead.length + 1)}${style.semicolon}`);
  }
  return parts.length ? parts.join(style.newline + style.newline) + style.newline + style.newline : '';
}

/** Whether anything of the component looks at the values. */
function readsValues(draft: Draft): boolean {
  const { model, needs, hook } = draft;
  const isRead = (use: Use): boolean => (use.kind === 'read' || use.kind === 'read-all') && !isWired(use, draft);
  const held =
    model.holder !== undefined && (!hook?.file.calls.from || model.declarations.some(({ role }) => role === 'alias'));
  return needs.values || held || model.uses.some(isRead);
}

/** The members of the hook that the component takes, under the names they get. */
function takenParts(draft: Draft): string[] {
  const { hook, names, call } = draft;
  if (!hook) return [];
  const { calls } = hook.file;
  const pair = (member: string | undefined, local: string): string =>
    member === undefined || member === local ? local : `${member}: ${local}`;
  const reads = readsValues(draft);
  const { shown, looksBack } = calls;
  return [
    ...(reads && shown.by === 'member' ? [pair(shown.member, names.values)] : []),
    ...(hook.called.has('register') ? [pair(calls.registers, hook.register)] : []),
    ...(hook.called.has('one') ? [pair(calls.one, hook.one)] : []),
    ...(hook.called.has('all') && calls.all !== undefined ? [pair(calls.all, names.setter)] : []),
    ...(hook.called.has('look') && looksBack?.by === 'call' ? [pair(looksBack.member, hook.look)] : []),
    ...(hook.called.has('reset') || settles(draft) ? [pair(calls.reset, hook.reset)] : []),
    ...(reads && shown.by === 'call' ? [pair(shown.member, hook.shown)] : []),
    ...(reads && shown.by === 'store' ? [pair('store', hook.store)] : []),
    ...(call?.also ?? []),
  ];
}

/** The pattern that takes the hook's members: in one line where it fits. */
function takenText(draft: Draft, call: string, indent: string): string {
  const { style } = draft.context;
  const parts = takenParts(draft);
  const line = `const { ${parts.join(', ')} } = `;
  if (indent.length + line.length + call.length + 12 <= style.width) return line;
  const inner = parts.map((part) => `${indent}${style.indent}${part},`);
  if (!style.trailingComma) inner.push((inner.pop() ?? '').slice(0, -1));
  return ['const {', ...inner, `${indent}} = `].join(style.newline);
}

/** The lines of the component that ask for the state, and handlers that stay the same at every render. */
export function hookLines(draft: Draft, call: (name: string) => string, stable: HandOnUse[], indent: string): string[] {
  const { names, context, hook } = draft;
  const end = context.style.semicolon;
  // what these call is taken out of the hook
  const handlers = stable.map((use) => ({ use, text: handlerText(use, draft) }));
  const lines = hook ? heldByHook(draft, hook, call, indent) : heldByState(draft, call, indent);
  const changer = !hook ? '' : hook.called.has('one') ? hook.one : names.setter;
  for (const { use, text } of handlers)
    lines.push(`const change${pascal(use.field)} = ${call('useCallback')}(${text}, [${changer}])${end}`);
  return lines;
}

/** The type that the state is given, where it has to be written. */
function stateType({ call, model, names }: Draft, typed: boolean): string {
  const asked = call?.begins;
  const held = model.holder?.start?.empty ? `${names.type} | null` : names.type;
  const name = asked ? asked.type : typed ? held : undefined;
  return name === undefined ? '' : `<${name}>`;
}

/** What the values begin as: an object, an expression for all of them, or a function that gives them once. */
function startOf(draft: Draft): { text: string } | { group: Group } {
  const { model, names } = draft;
  const start = model.holder?.start;
  const above = start ? codeText(start.code, draft.printer) : draft.needs.reset ? names.initial : model.holder?.initial;
  if (above !== undefined) return { text: above };
  const once = beginsOnce(model);
  const items = initialItems(model, draft.printer);
  return { group: { open: once ? '() => ({' : '{', close: once ? '})' : '}', items } };
}

function beginsOnce(model: FormModel): boolean {
  return model.holder?.start?.once === true || model.fields.some((field) => field.initial.when === 'once');
}

/** Whether what the form begins as has to be kept from the first view on. */
export function keepsFirst({ hook, model }: Pick<Draft, 'hook' | 'model'>): boolean {
  const calls = hook?.file.calls;
  if (calls?.start === undefined) return false;
  return (
    beginsOnce(model) ||
    (calls.followsStart === true && (model.holder?.start !== undefined || !startsAsConstants(model)))
  );
}

function heldByState(draft: Draft, call: (name: string) => string, indent: string): string[] {
  const { names } = draft;
  const lead = `const [${names.values}, ${names.setter}] = ${call('useState')}${stateType(draft, isTyped(draft))}(`;
  return [begun(draft, lead, '', indent), ...takenOut(draft, names.values, indent)];
}

/** A call whose first argument is what the values begin as. */
function begun(draft: Draft, lead: string, more: string, indent: string): string {
  const { style } = draft.context;
  const start = startOf(draft);
  const given = draft.call?.begins?.arguments;
  const text =
    given ?? ('text' in start ? start.text : laidOut(start.group, style, indent, indent.length + lead.length + 2));
  return `${lead}${text}${more})${style.semicolon}`;
}

function heldByHook(draft: Draft, hook: HookWords, call: (name: string) => string, indent: string): string[] {
  const { names } = draft;
  const { calls, name } = hook.file;
  // what these call is taken out of the hook, too
  const further = draft.call?.options?.(draft) ?? [];
  const type = calls.typedByStart ? '' : stateType(draft, isTyped(draft));
  const lead = `${takenText(draft, `${name}${type}(`, indent)}${name}${type}(`;
  if (calls.start === undefined) {
    const more = draft.call?.more === undefined ? '' : `, ${draft.call.more}`;
    return [begun(draft, lead, more, indent), ...takenOut(draft, names.values, indent)];
  }
  const { style } = draft.context;
  const lines: string[] = [];
  const start = startOf(draft);
  let value: Item['value'] = 'text' in start ? start.text : start.group;
  if (keepsFirst(draft)) {
    // a package asks for it at every view
    const first = draft.context.freeName('start', 'firstValues');
    const opening = `const [${first}] = ${call('useState')}${stateType(draft, isTyped(draft))}(`;
    lines.push(begun(draft, opening, '', indent));
    value = first;
  }
  const begins: Item = { lead: value === calls.start ? '' : `${calls.start}: `, value };
  const options = laidOut(
    { open: '{', close: '}', items: [begins, ...further] },
    style,
    indent,
    indent.length + (lead.split(style.newline).at(-1)?.length ?? 0) + 2,
  );
  lines.push(`${lead}${options})${style.semicolon}`);
  return [...lines, ...shownLines(draft, hook, indent), ...(settles(draft) ? [settingLine(draft, hook, indent)] : [])];
}

/** Whether the component sets several values at once, for which its hook has no member. */
function settles({ hook }: Pick<Draft, 'hook'>): boolean {
  return hook?.called.has('all') === true && hook.file.calls.all === undefined;
}

/** A function that sets several values at once, by the member that puts all of them to given ones. */
function settingLine({ names, model, context }: Draft, hook: HookWords, indent: string): string {
  const { style } = context;
  const typed = model.typescript ? `: ${names.type} | ((${names.values}: ${names.type}) => ${names.type})` : '';
  const isFunction = model.typescript ? 'next instanceof Function' : `typeof next === ${quoted('function', style)}`;
  const values = `${isFunction} ? next(${hook.store}.state.values) : next`;
  const call = `${hook.reset}(${values}, { keepDefaultValues: true })${style.semicolon}`;
  const lead = `const ${names.setter} = (next${typed}) =>`;
  const long = indent.length + lead.length + call.length + 1 > style.width;
  return long ? `${lead}${style.newline}${indent}${style.indent}${call}` : `${lead} ${call}`;
}

/** The lines that tell the values while rendering, where a hook gives them by a call. */
function shownLines(draft: Draft, hook: HookWords, indent: string): string[] {
  const { names, model, needs, context } = draft;
  const { shown } = hook.file.calls;
  if (!readsValues(draft)) return [];
  if (shown.by === 'member') return takenOut(draft, names.values, indent);
  const asked = shown.by === 'call' ? `${hook.shown}()` : `${hook.shown}(${hook.store}, ({ values }) => values)`;
  if (!model.holder && !needs.values) return takenOut(draft, asked, indent);
  return [`const ${names.values} = ${asked}${context.style.semicolon}`, ...takenOut(draft, names.values, indent)];
}

function fieldRead(use: Use): string | undefined {
  return use.kind === 'read' ? use.field : undefined;
}

/** The line that takes the values out which the form knows by names of their own. */
function takenOut(draft: Draft, from: string, indent: string): string[] {
  const { model, context } = draft;
  const read = new Set(model.uses.filter((use) => use.kind === 'read' && !isWired(use, draft)).map(fieldRead));
  const items: Item[] = model.fields
    .filter((field) => read.has(field.name))
    .map((field) => ({
      lead: '',
      value:
        field.names.value === undefined || field.names.value === field.name
          ? field.name
          : `${field.name}: ${field.names.value}`,
    }));
  if (model.holder || !items.length) return [];
  const { style } = context;
  return [
    laidOut({ open: 'const {', close: `} = ${from}`, items }, style, indent, indent.length + 1) + style.semicolon,
  ];
}
