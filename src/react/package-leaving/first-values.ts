import { typedAs, type Apart } from './apart.js';
import { addState, type Block, type Lines } from './block.js';
import type { StartedAs } from './starts.js';

type Reset = Pick<Apart, 'names' | 'needs'>;

/** Whether the form is ever set back to what it began as. */
function goesBack({ needs }: Reset): boolean {
  return needs.has('reset') && (!needs.has('resetTo') || needs.has('resetBack'));
}

/** Whether something compares with what it began as, or sets one value back to it. */
function asksFirst({ needs }: Reset): boolean {
  return needs.has('dirty') || needs.has('reset field');
}

/** Whether what it began as is told anew, and asked for later. */
function beginsAnew(apart: Reset): boolean {
  return apart.needs.has('resetTo') && (asksFirst(apart) || goesBack(apart));
}

/** An expression for what the values began as. */
export function firstOf(apart: Reset, { start, fromView }: StartedAs): string {
  return fromView || beginsAnew(apart) ? apart.names.first : start;
}

/** Adds the values, and in front of them what they began as where a state has to keep that. */
export function addValues(block: Block, apart: Reset, stated: StartedAs): void {
  const { names } = apart;
  const isAsked = asksFirst(apart) || goesBack(apart);
  const keeps = isAsked && (stated.fromView || beginsAnew(apart));
  if (keeps) addState(block, [names.first, beginsAnew(apart) ? names.setFirst : undefined], stated.type, stated.start);
  addState(block, [names.values, names.setValues], stated.type, keeps && stated.fromView ? names.first : stated.start);
}

/** What a function that resets takes, and the statements by which it sets the values. */
export function resetOfValues(apart: Reset, stated: StartedAs): { parameter: string; lines: Lines } {
  const { names, needs } = apart;
  const back = firstOf(apart, stated);
  if (!needs.has('resetTo')) return { parameter: '', lines: [`${names.setValues}(${back});`] };
  return {
    parameter: goesBack(apart) ? `next = ${back}` : typedAs('next', stated.type),
    lines: [...(beginsAnew(apart) ? [`${names.setFirst}(next);`] : []), `${names.setValues}(next);`],
  };
}
