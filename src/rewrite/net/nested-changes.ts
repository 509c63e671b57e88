import type { Span } from '../../form/code.js';
import type { Use } from '../../form/uses.js';
import { keepApart } from './approach-words.js';
import type { Caught, PlannedStep } from './caught.js';

/**
 * Changes that stand inside of a function which works out another value. Where one holder keeps all values, the outer
 * change puts back what the inner one set.
 */
export function nestedChanges({ model, to, sources }: PlannedStep): Caught[] {
  if (model.framework !== 'react' || keepApart.has(to)) return [];
  const workedOut = model.uses.flatMap(updaterSpans);
  return model.uses.flatMap((use): Caught[] => {
    const changes = use.kind === 'set' || use.kind === 'set-named' || use.kind === 'set-all';
    const outer = changes ? workedOut.find((span) => isInside(use.span, span)) : undefined;
    if (!outer) return [];
    const why = 'it is changed while another value is worked out; held together, that one would put it back';
    const what = sources.text(use.span.file).slice(use.span.start, use.span.end);
    return [{ check: 'soundness', span: use.span, what, why }];
  });
}

function updaterSpans(use: Use): Span[] {
  if (use.kind === 'set-all') return use.from ? [use.code] : [];
  const assignments = use.kind === 'set' ? use.assignments : use.kind === 'set-named' ? use.choices : [];
  return assignments.flatMap(({ value }) => (value.kind === 'from-previous' ? [value.whole ?? value.body] : []));
}

function isInside(inner: Span, outer: Span): boolean {
  const isSame = inner.start === outer.start && inner.end === outer.end;
  return inner.file === outer.file && inner.start >= outer.start && inner.end <= outer.end && !isSame;
}
