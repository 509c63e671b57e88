import { applyEdits } from '../../source/edits.js';
import { tokensOf, type Token } from '../../source/tokens.js';
import type { Caught, PlannedStep } from './caught.js';
import { exemptions } from './exemptions.js';
import { isScript, type PlacedToken } from './placed-token.js';

/**
 * Names, literals and operators that the edits take away have to come back in the texts put in. What may go is what
 * the old approach itself needs: its state calls and setters, the wiring of its events, the names that only it knows.
 */
export function lostTokens(step: PlannedStep): Caught[] {
  const exempt = exemptions(step);
  const keyOf = keysFor(step);
  const after = countsOf(tokensAfter(step), keyOf);
  const lost = new Map<string, PlacedToken[]>();
  const supply = new Map<string, number>();
  const add = (key: string, count: number): void => void supply.set(key, (supply.get(key) ?? 0) + count);
  const pieces = piecesOf(step).map(({ removed, written }) => ({
    gone: byKey(removed, keyOf),
    come: byKey(underOldNames(written, step), keyOf),
  }));
  // only what some edit takes away more often than it puts it in can be lost
  const missed = new Set(
    pieces.flatMap(({ gone, come }) =>
      [...gone].flatMap(([key, tokens]) => (tokens.length > (come.get(key)?.length ?? 0) ? [key] : [])),
    ),
  );
  for (const { gone, come } of pieces) {
    for (const key of missed) {
      const all = gone.get(key) ?? [];
      const count = come.get(key)?.length ?? 0;
      if (!all.length && !count) continue;
      const own = all.filter((token) => !exempt(token, (after.get(key) ?? 0) === 0));
      const missing = Math.min(own.length - count, own.length);
      if (missing > 0) lost.set(key, [...(lost.get(key) ?? []), ...own.slice(0, missing)]);
      // what may go and is written anew here came from elsewhere
      else add(key, Math.max(0, count - own.length));
    }
  }
  // what one edit takes away another one may put in
  const caught = [...lost].flatMap(([key, tokens]) => told(tokens.slice(supply.get(key) ?? 0)));
  return joined(caught, step);
}

interface Piece {
  removed: PlacedToken[];
  written: PlacedToken[];
}

/** What each edit takes away, and what it puts in; a file that is new or goes is one piece. */
function piecesOf({ plan, files }: PlannedStep): Piece[] {
  return files.flatMap(({ file, change, before, after }): Piece[] => {
    // a script that is new is the tool's own: nothing of the author's stands in it
    if (before === null && isScript(file)) return [];
    const old = before === null ? [] : placedIn(file, before);
    const edits = plan.edits.filter((edit) => edit.file === file).sort((a, b) => a.start - b.start || a.end - b.end);
    if (change !== 'edit' || before === null || !edits.length)
      return [{ removed: old, written: after === null ? [] : placedIn(file, after) }];
    const now = placedIn(file, applyEdits(before, edits));
    let moved = 0;
    return edits.map(({ start, end, text }) => {
      const from = start + moved;
      moved += text.length - (end - start);
      // what is put into a text leaves all of it there
      const grows = (token: PlacedToken): boolean =>
        token.kind === 'text' && start === end && token.start < start && token.end > end;
      return {
        removed: touching(old, start, end).filter((token) => !grows(token)),
        written: touching(now, from, from + text.length),
      };
    });
  });
}

/** Tokens, in order, that lie in a stretch of the text or reach into it. */
function touching(tokens: readonly PlacedToken[], from: number, to: number): PlacedToken[] {
  let low = 0;
  for (let high = tokens.length; low < high;) {
    const middle = (low + high) >> 1;
    if ((tokens[middle]?.end ?? 0) <= from) low = middle + 1;
    else high = middle;
  }
  const found: PlacedToken[] = [];
  for (let at = low; at < tokens.length; at++) {
    const token = tokens[at];
    if (!token || token.start >= to) break;
    if (token.end > from) found.push(token);
  }
  return found;
}

function placedIn(file: string, text: string): PlacedToken[] {
  return tokensOf(file, text).flatMap((token) => (token.kind === 'type' ? [] : [{ ...token, file }]));
}

function byKey(tokens: readonly PlacedToken[], keyOf: KeyOf): Map<string, PlacedToken[]> {
  const found = new Map<string, PlacedToken[]>();
  for (const token of tokens) found.set(keyOf(token), [...(found.get(keyOf(token)) ?? []), token]);
  return found;
}

function told(tokens: readonly PlacedToken[]): Caught[] {
  return tokens.map((token) => ({
    check: 'conservation',
    span: { file: token.file, start: token.start, end: token.end },
    what: token.value,
    why: token.kind === 'cast' ? `the cast to ${token.value} would be lost` : `${shown(token)} would be lost`,
  }));
}

function shown({ kind, value }: Token): string {
  return kind === 'text' || kind === 'words' ? `“${value.replace(/\s+/g, ' ').trim().slice(0, 60)}”` : value;
}

/** One entry for each line: what would be lost of it. */
function joined(caught: readonly Caught[], { sources }: PlannedStep): Caught[] {
  const lines = new Map<string, Caught & { values: Set<string> }>();
  for (const one of [...caught].sort((a, b) => a.span.start - b.span.start)) {
    const text = sources.text(one.span.file);
    const start = text.lastIndexOf('\n', one.span.start - 1) + 1;
    const end = text.indexOf('\n', one.span.start);
    const key = `${one.span.file}:${start}`;
    const value = one.why.replace(/ would be lost$/, '');
    const known = lines.get(key);
    if (known) known.values.add(value);
    else
      lines.set(key, {
        ...one,
        what: text.slice(start, end < 0 ? text.length : end).trim(),
        values: new Set([value]),
      });
  }
  return [...lines.values()].map(({ values, ...one }) => {
    const all = [...values];
    return { ...one, why: `${all.slice(0, 6).join(', ')}${all.length > 6 ? ', …' : ''} would be lost` };
  });
}

type KeyOf = (token: Token) => string;

/** Under which key tokens are counted: those of one key say the same. */
function keysFor({ model }: PlannedStep): KeyOf {
  return ({ kind, value }) => {
    // a single word may be a literal in code and a part of an expression in a template
    if (kind === 'text' && /^[\w$-]+$/.test(value)) return `name:${value}`;
    // what the page is given as a number it keeps as text
    if (kind === 'number' && model.approach === 'dom-values') return `name:${value}`;
    return `${kind === 'words' ? 'text' : kind}:${value}`;
  };
}

function countsOf(tokens: readonly Token[], keyOf: KeyOf): Map<string, number> {
  const counts = new Map<string, number>();
  for (const token of tokens) counts.set(keyOf(token), (counts.get(keyOf(token)) ?? 0) + 1);
  return counts;
}

function tokensAfter(step: PlannedStep): PlacedToken[] {
  const all = step.files.flatMap(({ file, before, after }) =>
    after === null || (before === null && isScript(file)) ? [] : placedIn(file, after),
  );
  return underOldNames(all, step);
}

/** Tokens in which a name that gave way to another one is called as it was. */
function underOldNames(tokens: readonly PlacedToken[], { plan }: PlannedStep): PlacedToken[] {
  const old = new Map([...(plan.renamed ?? [])].map(([from, to]) => [to, from]));
  return tokens.map((token) => ({ ...token, value: old.get(token.value) ?? token.value }));
}
