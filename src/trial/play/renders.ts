import type { DOMWindow } from 'jsdom';

interface Fiber {
  tag: number;
  flags: number;
  child: Fiber | null;
  sibling: Fiber | null;
  alternate: Fiber | null;
}

/** Function, class, forward-ref and memo components. */
const componentTags = new Set([0, 1, 11, 14, 15]);
/** React's mark for a component that ran in this commit. */
const performedWork = 1;

function countRendered(fiber: Fiber | null): number {
  let count = 0;
  for (let node = fiber; node; node = node.sibling) {
    // an unchanged branch keeps its child: nothing below ran
    const ran = node.alternate === null || node.child !== node.alternate.child;
    if (componentTags.has(node.tag) && (node.flags & performedWork) !== 0) count += 1;
    if (ran || (node.flags & performedWork) !== 0) count += countRendered(node.child);
  }
  return count;
}

/** Counts how often React's components render, from the hook that React offers to developer tools. */
export function renderCounter(window: DOMWindow): { count(): number } {
  let renders = 0;
  const hook = {
    supportsFiber: true,
    isDisabled: false,
    renderers: new Map<number, unknown>(),
    inject: () => 1,
    onCommitFiberRoot(_id: number, root: { current: Fiber }) {
      renders += countRendered(root.current.child);
    },
    onCommitFiberUnmount() {
      // unmounting is no render
    },
    onPostCommitFiberRoot() {
      // the effects of a commit are no render
    },
    checkDCE() {
      // nothing to check
    },
  };
  Object.defineProperty(window, '__REACT_DEVTOOLS_GLOBAL_HOOK__', { value: hook, configurable: true });
  return { count: () => renders };
}
