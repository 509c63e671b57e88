import MagicString from 'magic-string';

/** One change of a text: the span `[start, end)` of the original gives way to `text`. An empty span inserts. */
export interface Edit {
  start: number;
  end: number;
  text: string;
}

/**
 * Applies edits to a text.
 * @throws Error when two edits touch the same span: that is a fault of whoever planned them
 */
export function applyEdits(text: string, edits: readonly Edit[]): string {
  const ordered = [...edits].sort((a, b) => a.start - b.start || a.end - b.end);
  const result = new MagicString(text);
  let reached = 0;
  for (const edit of ordered) {
    if (edit.start < reached || edit.end > text.length || edit.end < edit.start) {
      throw new Error(`two edits touch the span ${edit.start}-${edit.end}: ${text.slice(edit.start, edit.end)}`);
    }
    if (edit.start === edit.end) result.appendLeft(edit.start, edit.text);
    else if (edit.text === '') result.remove(edit.start, edit.end);
    else result.overwrite(edit.start, edit.end, edit.text);
    reached = edit.end;
  }
  return result.toString();
}

/** A stretch `[start, end)` of a text with those of the edits that lie in it. */
export function editedStretch(text: string, start: number, end: number, edits: readonly Edit[]): string {
  const inside = edits.filter((edit) => edit.start >= start && edit.end <= end);
  return applyEdits(
    text.slice(start, end),
    inside.map((edit) => ({ start: edit.start - start, end: edit.end - start, text: edit.text })),
  );
}
