import type { DOMWindow } from 'jsdom';

/** Time that only passes when it is told to. */
export interface Clock {
  /** Lets the page run what is due now, its promises included. Throws `Endless` when it never comes to rest. */
  settle(): Promise<void>;
  /** Lets milliseconds pass. */
  pass(milliseconds: number): Promise<void>;
}

/** The page keeps itself busy without an end. */
export class Endless extends Error {}

interface Timer {
  id: number;
  due: number;
  every: number | undefined;
  run: () => void;
}

/** Rounds of timers that may follow one another at one moment. */
const mostRounds = 400;

/** A moment in 2026 at which every page begins. */
const start = Date.UTC(2026, 4, 4, 8, 0, 0);

function realTurn(): Promise<void> {
  return new Promise((resolve) => setImmediate(resolve));
}

/** Puts virtual time into a window: timers, animation frames, `Date` and `performance.now`. */
export function clockOf(window: DOMWindow, onError: (error: unknown) => void): Clock {
  let now = 0;
  let nextId = 1;
  const timers = new Map<number, Timer>();
  const add = (callback: unknown, delay: unknown, every: boolean, parameters: unknown[]): number => {
    const id = nextId++;
    const wait = Math.max(0, Number(delay) || 0);
    const run = (): void => {
      if (typeof callback === 'function') Reflect.apply(callback, window, parameters);
    };
    timers.set(id, { id, due: now + wait, every: every ? Math.max(1, wait) : undefined, run });
    return id;
  };
  const remove = (id: unknown): void => {
    timers.delete(Number(id));
  };
  const RealDate = window.eval('Date') as DateConstructor;
  const page = window as unknown as Record<string, unknown>;
  page['setTimeout'] = (callback: unknown, delay: unknown, ...rest: unknown[]) => add(callback, delay, false, rest);
  page['setInterval'] = (callback: unknown, delay: unknown, ...rest: unknown[]) => add(callback, delay, true, rest);
  page['clearTimeout'] = remove;
  page['clearInterval'] = remove;
  page['setImmediate'] = (callback: unknown, ...rest: unknown[]) => add(callback, 0, false, rest);
  page['clearImmediate'] = remove;
  page['requestAnimationFrame'] = (callback: (time: number) => void) => add(() => callback(now), 16, false, []);
  page['cancelAnimationFrame'] = remove;
  page['requestIdleCallback'] = (callback: unknown) =>
    add(callback, 1, false, [{ didTimeout: false, timeRemaining: () => 10 }]);
  page['cancelIdleCallback'] = remove;
  page['Date'] = new Proxy(RealDate, {
    construct: (target, parameters: unknown[]) =>
      Reflect.construct(target, parameters.length ? parameters : [start + now]) as object,
    get: (target, key) => (key === 'now' ? () => start + now : Reflect.get(target, key)),
    apply: () => new RealDate(start + now).toString(),
  });
  window.performance.now = () => now;

  const runDue = (): boolean => {
    const due = [...timers.values()].filter((timer) => timer.due <= now).sort((a, b) => a.due - b.due || a.id - b.id);
    for (const timer of due) {
      if (!timers.has(timer.id)) continue;
      if (timer.every === undefined) timers.delete(timer.id);
      else timer.due = now + timer.every;
      try {
        timer.run();
      } catch (error) {
        onError(error);
      }
    }
    return due.length > 0;
  };
  const settle = async (): Promise<void> => {
    for (let round = 0; round < mostRounds; round++) {
      await realTurn();
      if (!runDue()) {
        await realTurn();
        if (!runDue()) return;
      }
    }
    throw new Endless('it keeps rendering or setting timers without an end');
  };
  return {
    settle,
    async pass(milliseconds) {
      const end = now + milliseconds;
      await settle();
      for (let round = 0; round < 10_000; round++) {
        const next = Math.min(...[...timers.values()].map((timer) => timer.due), Number.POSITIVE_INFINITY);
        if (next > end) break;
        now = Math.max(now, next);
        await settle();
      }
      now = end;
      await settle();
    },
  };
}
