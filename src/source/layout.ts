import type { TextStyle } from './style.js';

/** Something that is written on one line where it fits, and on several otherwise. */
export interface Group {
  open: string;
  close: string;
  items: Item[];
}

export interface Item {
  /** What stands before the value, such as `town: `. */
  lead: string;
  value: string | Group;
  commentsBefore?: readonly string[];
  commentBehind?: string | undefined;
}

function flatItem(item: Item): string {
  return item.lead + (typeof item.value === 'string' ? item.value : flat(item.value));
}

function flat(group: Group): string {
  const space = group.open.endsWith('{') ? ' ' : '';
  return group.items.length
    ? `${group.open}${space}${group.items.map(flatItem).join(', ')}${space}${group.close}`
    : group.open + group.close;
}

function mustBreak(group: Group): boolean {
  return group.items.some(
    (item) =>
      (item.commentsBefore?.length ?? 0) > 0 ||
      item.commentBehind !== undefined ||
      (typeof item.value !== 'string' && mustBreak(item.value)),
  );
}

/**
 * Lays out a group.
 * @param indent white space of the line the group begins on
 * @param used characters already on that line, its indentation and what will follow the group included
 */
export function laidOut(group: Group, style: TextStyle, indent: string, used: number): string {
  const line = flat(group);
  const firstLine = line.split('\n', 1)[0] ?? '';
  if (!mustBreak(group) && used + firstLine.length <= style.width && (!line.includes('\n') || group.items.length === 1))
    return line;
  const inner = indent + style.indent;
  const lines = group.items.map((item, index) => {
    const comma = index < group.items.length - 1 || style.trailingComma ? ',' : '';
    const before = (item.commentsBefore ?? []).map((comment) => `${inner}${comment}${style.newline}`).join('');
    const value =
      typeof item.value === 'string'
        ? item.value
        : laidOut(item.value, style, inner, inner.length + item.lead.length + 1);
    const behind = item.commentBehind === undefined ? '' : ` ${item.commentBehind}`;
    return `${before}${inner}${item.lead}${value}${comma}${behind}${style.newline}`;
  });
  return `${group.open}${style.newline}${lines.join('')}${indent}${group.close}`;
}
