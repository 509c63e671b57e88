import type { FormModel } from '../form/model.js';
import type { ResetUse } from '../form/uses.js';

/**
 * Whether a list is exchanged right in front of a reset, or right behind it: nobody sees what the reset leaves in its rows.
 * @param text of the reset's file
 * @param only where the exchange has to stand; on either side if left out
 */
export function comesAnew(
  list: string,
  reset: ResetUse,
  { uses }: Pick<FormModel, 'uses'>,
  text: string,
  only?: 'in front',
): boolean {
  // changes of the same form may stand between
  const between = (start: number, end: number): string =>
    uses
      .filter(({ kind, span }) => /^(?:set|change)/.test(kind) && span.file === reset.span.file)
      .filter(({ span }) => span.start >= start && span.end <= end)
      .reduce((left, { span }) => left.replace(text.slice(span.start, span.end), ''), text.slice(start, end));
  return uses.some((use) => {
    const isAll = use.kind === 'set-all' && !use.merge;
    const isList = use.kind === 'change-rows' && use.list === list && /^(?:replace|clear)$/.test(use.change.kind);
    if ((!isAll && !isList) || use.span.file !== reset.span.file) return false;
    const isInFront = use.span.start < reset.span.start;
    const [first, second] = isInFront ? [use, reset] : [reset, use];
    return (isInFront || only === undefined) && /^[\s;]*$/.test(between(first.span.end, second.span.start));
  });
}
