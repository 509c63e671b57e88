/** Turns offsets into places. Lines and columns count from 1; columns count UTF-16 units. */
export interface LineIndex {
  lineAt(offset: number): number;
  placeAt(offset: number): { line: number; column: number };
  /** Offset of the first character of the line that holds `offset`. */
  lineStart(offset: number): number;
}

/** @param text the text whose lines are counted; LF, CRLF and CR end a line */
export function lineIndex(text: string): LineIndex {
  const starts = [0];
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    if (unit === 10 || (unit === 13 && text.charCodeAt(at + 1) !== 10)) starts.push(at + 1);
  }
  const indexOf = (offset: number): number => {
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((starts[middle] ?? 0) <= offset) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  return {
    lineAt: (offset) => indexOf(offset) + 1,
    placeAt(offset) {
      const index = indexOf(offset);
      return { line: index + 1, column: offset - (starts[index] ?? 0) + 1 };
    },
    lineStart: (offset) => starts[indexOf(offset)] ?? 0,
  };
}
