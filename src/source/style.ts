/** How a file is written, so that what is added looks the same. */
export interface TextStyle {
  /** One step of indentation: spaces or a tab. */
  indent: string;
  quote: "'" | '"';
  semicolon: '' | ';';
  newline: '\n' | '\r\n';
  /** Longest line a new line should keep to, in characters. */
  width: number;
  trailingComma: boolean;
}

function count(text: string, pattern: RegExp): number {
  return text.match(pattern)?.length ?? 0;
}

function indentOf(text: string): string {
  if (count(text, /^\t/gm) > count(text, /^ {2,}\S/gm)) return '\t';
  const steps = new Map<number, number>();
  let previous = 0;
  for (const line of text.split(/\r?\n/)) {
    if (!line.trim() || /^\s*\*/.test(line)) continue;
    const depth = /^ */.exec(line)?.[0].length ?? 0;
    const step = depth - previous;
    if (step > 1 && step <= 8) steps.set(step, (steps.get(step) ?? 0) + 1);
    previous = depth;
  }
  const best = [...steps].sort((a, b) => b[1] - a[1])[0];
  return ' '.repeat(best?.[0] ?? 2);
}

/** Reads the style off a script's text. */
export function styleOf(text: string): TextStyle {
  // attributes have quotes of their own
  const code = text.replace(/<[^>\n]*>/g, '').replace(/(?<=[\s{(])[\w-]+="[^"\n]*"/g, '');
  const ended = count(text, /;[ \t]*(\/\/.*)?$/gm);
  const open = count(text, /^\s*(?:import|const|let|return|export)\b[^{(\n]*[\w'")\]][ \t]*$/gm);
  const longest = text.split(/\r?\n/).reduce((most, line) => Math.max(most, line.length), 0);
  return {
    indent: indentOf(text),
    quote: count(code, /'[^'\n]*'/g) > count(code, /"[^"\n]*"/g) ? "'" : '"',
    semicolon: ended >= open ? ';' : '',
    newline: count(text, /\r\n/g) > count(text, /(?<!\r)\n/g) ? '\r\n' : '\n',
    width: Math.min(120, Math.max(100, longest)),
    trailingComma: count(text, /,\r?\n\s*[}\])]/g) > 0 || count(text, /[\w'"`]\r?\n\s*[\])]/g) === 0,
  };
}

/** A text as a string literal in the file's quotes. */
export function quoted(value: string, style: TextStyle): string {
  const body = JSON.stringify(value).slice(1, -1);
  return style.quote === '"' ? `"${body}"` : `'${body.replace(/\\"/g, '"').replace(/'/g, "\\'")}'`;
}

/** The white space before the first character of the line at an offset. */
export function indentAt(text: string, offset: number): string {
  let start = offset;
  while (start > 0 && text[start - 1] !== '\n') start--;
  return /^[ \t]*/.exec(text.slice(start))?.[0] ?? '';
}
