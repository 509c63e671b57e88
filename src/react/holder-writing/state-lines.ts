import { codeText } from '../../form/code-text.js';
import type { HandOnUse } from '../../form/uses.js';
import { laidOut, type Item } from '../../source/layout.js';
import { hookMembers } from '../form-hook/hook-file.js';
import { pascal } from '../form-names.js';
import { initialItems, membersText } from '../initial-values.js';
import type { Draft } from './draft.js';
import { handlerText } from './changes.js';

/** Whether the initial object stands above the component: it is needed for a reset as well. */
function standsAbove(draft: Draft): boolean {
  return draft.needs.reset && draft.model.holder?.initial === undefined;
}

function isTyped({ model }: Draft): boolean {
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

/** The members of the hook that the component takes, under the names they get. */
function takenParts({ hook, names, needs, model, call }: Draft): string[] {
  const pair = (member: string, local: string): string => (member === local ? member : `${member}: ${local}`);
  const reads = needs.values || model.holder !== undefined || model.uses.some(({ kind }) => kind === 'read');
  return [
    ...(reads ? [pair(hookMembers.values, names.values)] : []),
    ...(hook?.called.has('one') ? [pair(hookMembers.one, hook.one)] : []),
    ...(hook?.called.has('all') ? [pair(hookMembers.all, names.setter)] : []),
    ...(hook?.called.has('reset') ? [pair(hookMembers.reset, hook.reset)] : []),
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
  const { model, names, context } = draft;
  const { style } = context;
  const end = style.semicolon;
  const asked = draft.call?.begins;
  const held = model.holder?.start?.empty ? `${names.type} | null` : names.type;
  const typeName = asked ? asked.type : isTyped(draft) ? held : undefined;
  const type = typeName === undefined ? '' : `<${typeName}>`;
  const lead = draft.hook
    ? `${takenText(draft, `${draft.hook.file.name}${type}(`, indent)}${draft.hook.file.name}${type}(`
    : `const [${names.values}, ${names.setter}] = ${call('useState')}${type}(`;
  const once = model.fields.some((field) => field.initial.when === 'once');
  const literal = laidOut(
    { open: once ? '() => ({' : '{', close: once ? '})' : '}', items: initialItems(model, draft.printer) },
    style,
    indent,
    indent.length + lead.length + 2,
  );
  const start = model.holder?.start;
  const above = start ? codeText(start.code, draft.printer) : draft.needs.reset ? names.initial : model.holder?.initial;
  const more = draft.call?.more === undefined ? '' : `, ${draft.call.more}`;
  const lines = [`${lead}${asked?.arguments ?? above ?? literal}${more})${end}`];
  const read = new Set(model.uses.filter((use) => use.kind === 'read').map((use) => use.field));
  const pattern: Item[] = model.fields
    .filter((field) => read.has(field.name))
    .map((field) => ({
      lead: '',
      value:
        field.names.value === undefined || field.names.value === field.name
          ? field.name
          : `${field.name}: ${field.names.value}`,
    }));
  if (!model.holder && pattern.length)
    lines.push(
      laidOut({ open: 'const {', close: `} = ${names.values}`, items: pattern }, style, indent, indent.length + 1) +
        end,
    );
  for (const use of stable)
    lines.push(
      `const change${pascal(use.field)} = ${call('useCallback')}(${handlerText(use, draft)}, [${draft.hook?.one ?? ''}])${end}`,
    );
  return lines;
}
