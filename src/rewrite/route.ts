import { diffLines } from 'diff';
import type { FileChange, Rewrite } from './results.js';

/** For each line of a changed text, counted from 1, the line of the original it is or stands for. */
function originalLines(before: string, after: string): (line: number) => number {
  const lines: number[] = [];
  let old = 1;
  let gone = 0;
  for (const { added, removed, count } of diffLines(before, after)) {
    if (removed) {
      gone = count;
      continue;
    }
    // of a stretch written anew, each line stands for the one at its place
    for (let index = 0; index < count; index++)
      lines.push(added ? Math.max(1, old + Math.min(index, gone - 1)) : old + gone + index);
    old += gone + (added ? 0 : count);
    gone = 0;
  }
  return (line) => lines[line - 1] ?? old;
}

/** What a step of a route says of its files, told of the texts as they were before the whole route. */
function toldOfOriginal(step: Rewrite, earlier: readonly FileChange[]): Rewrite['ledger'] {
  const maps = new Map(
    earlier.map(({ file, before, after }) => [file, before === null ? () => 1 : originalLines(before, after ?? '')]),
  );
  return step.ledger.map((entry) => ({ ...entry, line: maps.get(entry.file)?.(entry.line) ?? entry.line }));
}

/** Changes of two steps as one: what a file was before the first, and is after the last that touches it. */
function changesTogether(first: readonly FileChange[], then: readonly FileChange[]): FileChange[] {
  const files = [...first];
  for (const change of then) {
    const index = files.findIndex(({ file }) => file === change.file);
    const known = files[index];
    if (!known) files.push(change);
    else if (known.change === 'create' && change.change === 'delete') files.splice(index, 1);
    else files[index] = { ...known, change: change.change === 'delete' ? 'delete' : known.change, after: change.after };
  }
  return files.filter(({ before, after }) => before !== after);
}

/**
 * The steps of a route as one rewrite. Lines of the ledger count in the texts before the first step.
 * Where a step leaves something by hand, nothing is changed.
 */
export function alongRoute(steps: readonly Rewrite[], to: string): Rewrite {
  const [first, ...rest] = steps;
  if (!first) throw new Error('a route has a step');
  const whole = rest.reduce(
    (sofar, step) => ({
      ...sofar,
      route: sofar.route.at(-1) === step.to ? sofar.route : [...sofar.route, step.to],
      ledger: [...sofar.ledger, ...toldOfOriginal(step, sofar.files)],
      files: changesTogether(sofar.files, step.files),
      figures: { before: sofar.figures.before, after: step.figures.after },
      dependencies: [...sofar.dependencies, ...step.dependencies],
    }),
    first,
  );
  const byHand = whole.ledger.some(({ entry }) => entry === 'by-hand');
  const route = whole.route.filter((id, index) => id !== whole.route[index - 1]);
  return { ...whole, route, to, files: byHand && steps.length > 1 ? [] : whole.files };
}
