import type { Code, Hole } from './code.js';
import type { Use } from './uses.js';

/** What a writer says about the places inside a piece of code. */
export interface CodePrinter {
  /** The original text of a file. */
  textOf(file: string): string;
  /** The uses of the form, in any order. */
  uses: readonly Use[];
  /** What takes the place of a use; undefined leaves its text. */
  use(use: Use): string | undefined;
  /** What takes the place of a hole; undefined leaves its text. */
  hole(hole: Hole): string | undefined;
}

interface Place {
  start: number;
  end: number;
  print(): string | undefined;
}

/** Leaves out places that lie inside another one. */
function outermost(places: Place[]): Place[] {
  const ordered = places.sort((a, b) => a.start - b.start || b.end - a.end);
  const kept: Place[] = [];
  for (const place of ordered) {
    const last = kept.at(-1);
    if (!last || place.start >= last.end) kept.push(place);
  }
  return kept;
}

/**
 * The text of a piece of code with its holes and the uses inside it printed anew; all other bytes stay.
 * Holes go before uses where both speak of the same place.
 */
export function codeText(code: Code, printer: CodePrinter): string {
  const inside = (span: { start: number; end: number }): boolean => span.start >= code.start && span.end <= code.end;
  const holes: Place[] = code.holes
    .filter(inside)
    .map((hole) => ({ start: hole.start, end: hole.end, print: () => printer.hole(hole) }));
  const uses: Place[] = printer.uses
    .filter((use) => use.span.file === code.file && inside(use.span))
    .filter((use) => !holes.some((hole) => hole.start < use.span.end && use.span.start < hole.end))
    .map((use) => ({ start: use.span.start, end: use.span.end, print: () => printer.use(use) }));
  const text = printer.textOf(code.file);
  let result = '';
  let at = code.start;
  for (const place of outermost([...holes, ...uses])) {
    result += text.slice(at, place.start) + (place.print() ?? text.slice(place.start, place.end));
    at = place.end;
  }
  return result + text.slice(at, code.end);
}

/** Uses that do not lie inside another use: the ones whose places are edited; the others are printed with them. */
export function outermostUses(uses: readonly Use[]): Use[] {
  const ordered = [...uses].sort(
    (a, b) => a.span.file.localeCompare(b.span.file) || a.span.start - b.span.start || b.span.end - a.span.end,
  );
  const kept: Use[] = [];
  for (const use of ordered) {
    const last = kept.at(-1);
    if (!last || last.span.file !== use.span.file || use.span.start >= last.span.end) kept.push(use);
  }
  return kept;
}

/**
 * What takes the place of a hole that stands for other code or another name; undefined for every other hole.
 * A shorthand property keeps its key.
 */
export function movedText(hole: Hole, printer: CodePrinter): string | undefined {
  const keyed = (text: string): string =>
    'shorthand' in hole && hole.shorthand !== undefined && hole.shorthand !== text
      ? `${hole.shorthand}: ${text}`
      : text;
  if (hole.kind === 'text') return keyed(hole.text);
  if (hole.kind !== 'given') return undefined;
  const code = { ...hole.code, holes: hole.code.holes.filter((inner) => inner !== hole) };
  const text = codeText(code, printer) || 'undefined';
  return keyed(hole.wrap ? `(${text})${hole.suffix}` : text + hole.suffix);
}
