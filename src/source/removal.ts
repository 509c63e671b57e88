/**
 * The span of whole lines to take away when a statement goes: its indentation, its line end, and one of two
 * blank lines that would meet.
 * @param span offsets of the statement in `text`
 */
export function wholeLines(text: string, span: { start: number; end: number }): { start: number; end: number } {
  let { start, end } = span;
  while (start > 0 && /[ \t]/.test(text[start - 1] ?? '')) start--;
  while (/[ \t]/.test(text[end] ?? '')) end++;
  const atLineStart = start === 0 || text[start - 1] === '\n';
  const atLineEnd = end === text.length || text[end] === '\n' || text[end] === '\r';
  if (!atLineStart || !atLineEnd) return span;
  if (text[end] === '\r') end++;
  if (text[end] === '\n') end++;
  const blankBefore = /(^|\n)[ \t]*\r?\n$/.test(text.slice(0, start)) || /\{[ \t]*\r?\n$/.test(text.slice(0, start));
  const blankAfter = /^[ \t]*\r?\n/.exec(text.slice(end));
  if (blankBefore && blankAfter) end += blankAfter[0].length;
  return { start, end };
}
