/** A text on one line, cut where it is longer than some characters. */
export function cut(text: string, most: number): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length > most ? `${line.slice(0, most - 1)}…` : line;
}
