/** The words of a comment without its marks: stars at its start and at the starts of its lines. */
export function plainComment(value: string): string {
  return value
    .replace(/^[\s*]+/, '')
    .replace(/\r?\n\s*\*+/g, '\n')
    .replace(/\s+/g, ' ')
    .trim();
}
