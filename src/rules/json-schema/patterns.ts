/**
 * A regular expression of the source as a pattern of a JSON Schema.
 * @param source a literal with its slashes and flags: `/^[a-z]+$/i`
 * @returns the pattern; undefined where no pattern without flags says the same
 */
export function schemaPattern(source: string): string | undefined {
  const parts = /^\/([\s\S]+)\/([a-z]*)$/.exec(source.trim());
  const pattern = parts?.[1];
  const flags = parts?.[2] ?? '';
  if (pattern === undefined) return undefined;
  const plain = plainEscapes(pattern);
  if (flags === '') return plain;
  return flags === 'i' ? eitherCase(plain) : undefined;
}

/** Whether a pattern that is written as a text has to match the whole value: as an attribute, or as a validator's text. */
export function wholePattern(text: string): string {
  const from = text.startsWith('^') ? text : `^(?:${text})$`;
  return text.startsWith('^') && !text.endsWith('$') ? `${text}$` : from;
}

/** Escapes that are not needed go, so that the pattern means the same where every escape has to be known. */
function plainEscapes(pattern: string): string {
  return pattern.replace(/\\([\s\S])/g, (whole, escaped: string) =>
    /[A-Za-z0-9^$\\.*+?()[\]{}|/-]/.test(escaped) ? (escaped === '/' ? '/' : whole) : escaped,
  );
}

/** The pattern with both cases of each letter written out; undefined where that is not plain to see. */
function eitherCase(pattern: string): string | undefined {
  let result = '';
  let inClass = false;
  for (let at = 0; at < pattern.length; at++) {
    const char = pattern[at] ?? '';
    if (char === '\\') {
      const escaped = pattern[at + 1] ?? '';
      if (/[bBcCkKpPuUxX1-9]/.test(escaped)) return undefined;
      result += char + escaped;
      at += 1;
    } else if (char === '(' && /^\(\?</.test(pattern.slice(at))) return undefined;
    else if (char === '[' || char === ']') {
      inClass = char === '[';
      result += char;
    } else if (inClass && /[A-Za-z]/.test(char)) {
      const range = /^([A-Za-z])-([A-Za-z])/.exec(pattern.slice(at));
      const text = range?.[0] ?? char;
      const upper = text.toUpperCase();
      const lower = text.toLowerCase();
      // a range from one case into the other holds signs between them
      if (range && text !== upper && text !== lower) return undefined;
      result += lower + upper;
      at += text.length - 1;
    } else if (/[A-Za-z]/.test(char)) result += `[${char.toLowerCase()}${char.toUpperCase()}]`;
    else if (char.charCodeAt(0) > 127) return undefined;
    else result += char;
  }
  return result;
}

/** A pattern for a text whose length counts without the white space at its ends. */
export function trimmedLength(kind: 'min-length' | 'max-length', limit: number): string {
  if (kind === 'min-length') {
    if (limit <= 0) return '';
    return limit === 1 ? '\\S' : `\\S[\\s\\S]{${limit - 2},}\\S`;
  }
  if (limit <= 0) return '^\\s*$';
  return limit === 1 ? '^\\s*\\S?\\s*$' : `^\\s*(?:\\S(?:[\\s\\S]{0,${limit - 2}}\\S)?)?\\s*$`;
}
