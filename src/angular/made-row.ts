import { codeText, type CodePrinter } from '../form/code-text.js';
import type { RowList } from '../form/model.js';
import type { MakeRowUse } from '../form/uses.js';
import type { WriteContext } from '../form/writing.js';
import { laidOut, type Group, type Item } from '../source/layout.js';
import { indentAt } from '../source/style.js';
import type { AngularComponent } from './component.js';
import { commentsIn, keyText } from './writing.js';

/** What a row's text needs of its writer. */
export interface RowDraft {
  context: WriteContext;
  component: AngularComponent;
  printer: CodePrinter;
}

/** The type of one row, by way of the type of all values. */
export function rowTypeText(list: Pick<RowList, 'field'>, typeName: string): string {
  return `${typeName}${list.field
    .split('.')
    .map((key) => `['${key}']`)
    .join('')}[number]`;
}

/** A new row: its values, without the controls that held them. */
export function madeRowText(use: MakeRowUse, draft: RowDraft): string {
  const { context } = draft;
  const text = context.text(use.span.file);
  const before = text.slice(0, use.span.start);
  const comments = commentsIn(draft.component.script, use.span);
  const items = use.values.map(({ key, code }, index): Item => {
    const value = code ? codeText(code, draft.printer) : 'null';
    const [from, to] = [use.values[index - 1]?.code?.end ?? use.span.start, code?.start ?? use.span.start];
    const onLine = (at: number, comment: number): boolean => !text.slice(at, comment).includes('\n');
    const before = comments.filter(({ start }) => start >= from && start < to && (index === 0 || !onLine(from, start)));
    const nextStart = use.values[index + 1]?.code?.start ?? use.span.end;
    const behind = comments.filter(
      ({ start }) =>
        start > to && start < nextStart && (index === use.values.length - 1 || onLine(code?.end ?? to, start)),
    );
    const own = {
      commentsBefore: before.map((comment) => comment.text),
      commentBehind: behind.map((comment) => comment.text).join(' ') || undefined,
    };
    return value === key ? { lead: '', value, ...own } : { lead: `${keyText(key, context)}: `, value, ...own };
  });
  const group: Group = { open: '{', close: '}', items };
  const indent = indentAt(text, use.span.start);
  const made = laidOut(group, context.style, indent, use.span.start - before.lastIndexOf('\n'));
  return /=>\s*$/.test(before) ? `(${made})` : made;
}
