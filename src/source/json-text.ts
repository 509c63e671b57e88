/**
 * A JSON value as text for people: what fits into a line stands in one, everything else one entry a line.
 * @param indent one step of indentation
 * @param width longest line, in characters
 */
export function jsonText(value: unknown, indent = '  ', width = 100): string {
  return lines(value, '', indent, width, 0);
}

function lines(value: unknown, at: string, indent: string, width: number, used: number): string {
  const flat = inOneLine(value);
  if (typeof value !== 'object' || value === null) return flat;
  const entries = Object.entries(value);
  const deep = entries.some(([, inner]) => typeof inner === 'object' && inner !== null && !Array.isArray(inner));
  const fits = at.length + used + flat.length <= width;
  if (!entries.length || (fits && !deep && (Array.isArray(value) || entries.length < 3))) return flat;
  const inner = at + indent;
  const parts = entries.map(([key, one]) => {
    const lead = Array.isArray(value) ? '' : `${JSON.stringify(key)}: `;
    return inner + lead + lines(one, inner, indent, width, lead.length);
  });
  const [open, close] = Array.isArray(value) ? ['[', ']'] : ['{', '}'];
  return `${open}\n${parts.join(',\n')}\n${at}${close}`;
}

function inOneLine(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(inOneLine).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const entries = Object.entries(value);
  if (!entries.length) return '{}';
  return `{ ${entries.map(([key, one]) => `${JSON.stringify(key)}: ${inOneLine(one)}`).join(', ')} }`;
}
