export interface Span {
  file: string;
  start: number;
  end: number;
}

/** Where a node of a parser's tree stands: its offsets in the text of its file. */
export function spanOfNode(file: string, { start, end }: { start?: number | null; end?: number | null }): Span {
  return { file, start: start ?? 0, end: end ?? 0 };
}

/** A piece of source text that a writer may print elsewhere or with other names in it. */
export interface Code extends Span {
  /** Places inside that stand for something else than their own text, in order, not overlapping. */
  holes: Hole[];
}

/** A place inside a piece of code, and what it stands for. */
export type Hole =
  /** The value a field held before the update that this code computes. */
  | { kind: 'previous'; start: number; end: number; field: string; shorthand?: string }
  /** All values the form held before the update. */
  | { kind: 'previous-all'; start: number; end: number; shorthand?: string }
  /**
   * Other code takes this place: an argument that was handed over, or a member of it (`suffix` such as `.value`).
   * `wrap` where it needs parentheses.
   */
  | { kind: 'given'; start: number; end: number; code: Code; suffix: string; wrap: boolean; shorthand?: string }
  /** A text takes this place: what a name stands for in a handler that was made anew. */
  | { kind: 'text'; start: number; end: number; text: string; shorthand?: string }
  /** A name of the surrounding scope; it has to be handed over when the code moves out of that scope. */
  | {
      kind: 'captured';
      start: number;
      end: number;
      name: string;
      type: string | undefined;
      stable: boolean;
      shorthand?: string;
    }
  /** An expression of a `return`; `unchanged` where it gives the previous value back. */
  | { kind: 'returned'; start: number; end: number; value: Code; unchanged: boolean };
