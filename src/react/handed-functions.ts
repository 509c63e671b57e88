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
