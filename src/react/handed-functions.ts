/**
 * A function that takes the place of a name: in parentheses where it would not stand by itself.
 * @param source the text in which the name stands
 * @param span where it stands there
 */
export function functionAt(text: string, source: string, span: { start: number; end: number }): string {
  const before = /(\S)\s*$/.exec(source.slice(0, span.start))?.[1] ?? ';';
  const after = /^\s*(\S)/.exec(source.slice(span.end))?.[1] ?? ';';
  const isArrow = source.slice(0, span.start).trimEnd().endsWith('=>');
  const stands = (/[({[,=:?;]/.test(before) || isArrow) && /[)}\],;:/]/.test(after);
  return stands || /\n\s*$/.test(source.slice(0, span.start)) ? text : `(${text})`;
}

/** Whether a text is one block: its first brace closes at its end. */
export function isOneBlock(text: string): boolean {
  const bare = text.trim();
  if (!bare.startsWith('{')) return false;
  const plain = bare.replace(/(['"`])(?:\\[\s\S]|(?!\1)[^\\])*\1/g, (quoted) => ' '.repeat(quoted.length));
  let depth = 0;
  for (let at = 0; at < plain.length; at++) {
    if (plain[at] === '{') depth += 1;
    if (plain[at] === '}' && --depth === 0) return at === plain.length - 1;
  }
  return false;
}
