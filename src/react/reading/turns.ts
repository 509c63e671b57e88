import type { Span } from '../../form/code.js';
import type { FlowEvent } from '../../course/flow.js';
import type { Scene } from './scene.js';

/** Changes of values that an earlier one precedes in the same turn: nothing has been shown anew in between. */
export function crowdedChanges({ entries, model }: Scene): Span[] {
  const seen = new Set<Span>();
  const found: Span[] = [];
  for (const { events } of entries) {
    let changed: FlowEvent | undefined;
    for (const event of events) {
      if (waits(event)) changed = undefined;
      const span = changeAt(event, model.uses);
      if (!span) continue;
      seen.add(span);
      // a loop comes around to its own change
      if ((changed && !isApart(changed, event)) || event.arms.some(({ kind }) => kind === 'loop')) found.push(span);
      changed = event;
    }
  }
  // of what begins elsewhere only its own function tells
  const unseen = model.uses.filter((use) => 'fresh' in use && use.fresh === false && !seen.has(use.span));
  return [...found, ...unseen.map(({ span }) => span)];
}

/** Whether what a call gives is waited for, so that the view is up to date behind it. */
function waits({ path }: FlowEvent): boolean {
  return path.parentPath?.isAwaitExpression() === true;
}

function changeAt({ path, script }: FlowEvent, uses: Scene['model']['uses']): Span | undefined {
  return uses.find(
    ({ kind, span }) =>
      /^(set|reset)/.test(kind) &&
      span.file === script.file &&
      span.start === (path.node.start ?? -1) &&
      span.end === (path.node.end ?? -1),
  )?.span;
}

/** Whether two events never happen in one turn: on different sides of a condition, or one in the answer to something. */
function isApart(first: FlowEvent, second: FlowEvent): boolean {
  const later = second.arms.some(
    (arm) =>
      /^(then|rejected|settled)$/.test(arm.kind) &&
      !first.arms.some((one) => one.of === arm.of && one.kind === arm.kind),
  );
  return (
    later ||
    second.arms.some((arm) => first.arms.some((one) => one.of === arm.of && one.kind === 'if' && one.side !== arm.side))
  );
}
