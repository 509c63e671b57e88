import type { Control } from '../../form/model.js';
import type { ResetUse, SetAllUse, Use } from '../../form/uses.js';

/**
 * A reset that gives no values, with new ones for the whole model right behind it, as one reset to these: what the
 * first leaves behind nobody ever sees.
 * @param text of the class's file
 */
export function begunAnew(uses: readonly Use[], controls: readonly Control[], file: string, text: string): Use[] {
  // code that runs when a control changes would be told of the values in between
  if (controls.some(({ binding }) => binding?.changed.length)) return [...uses];
  const merged = new Map<Use, ResetUse | undefined>();
  for (const reset of uses) {
    if (reset.kind !== 'reset' || reset.of !== undefined || reset.values || reset.row || reset.span.file !== file)
      continue;
    const behind = uses.find((use): use is SetAllUse => isRightBehind(use, reset, text));
    if (!behind) continue;
    merged.set(reset, { ...reset, values: behind.code, span: { ...reset.span, end: behind.span.end } });
    merged.set(behind, undefined);
  }
  return uses.flatMap((use) => (merged.has(use) ? (merged.get(use) ?? []) : [use]));
}

function isRightBehind(use: Use, reset: ResetUse, text: string): boolean {
  if (use.kind !== 'set-all' || use.merge || use.span.file !== reset.span.file) return false;
  return use.span.start > reset.span.end && /^\s*;?\s*$/.test(text.slice(reset.span.end, use.span.start));
}
