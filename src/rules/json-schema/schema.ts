/** A JSON value. */
export type Json = string | number | boolean | null | Json[] | { [key: string]: Json };

/** A JSON Schema that is an object. */
export type Schema = Record<string, Json>;

/** The dialect that is written and read. */
export const dialect = 'https://json-schema.org/draft/2020-12/schema';

/** The JSON value of a piece of source text; undefined where it is none: a name, a call, a date. */
export function jsonOf(source: string): Json | undefined {
  const text = source.trim();
  if (/^(["'])((?:(?!\1)[^\\\n]|\\.)*)\1$/.test(text)) return textOfLiteral(text);
  if (/^`[^`$\\]*`$/.test(text)) return text.slice(1, -1);
  if (/^[-+]?\d[\d_]*(\.\d+)?(e[-+]?\d+)?$/i.test(text)) return Number(text.replace(/_/g, ''));
  if (/^(true|false|null)$/.test(text)) return text === 'null' ? null : text === 'true';
  if (/^\[\s*\]$/.test(text)) return [];
  if (/^\{\s*\}$/.test(text)) return {};
  return undefined;
}

/** What a literal in quotes says, with its escapes resolved. */
function textOfLiteral(literal: string): string | undefined {
  const inner = literal.slice(1, -1);
  if (!inner.includes('\\')) return inner;
  const simple: Record<string, string> = { n: '\n', t: '\t', r: '\r', b: '\b', f: '\f', v: '\v', 0: '\0' };
  return inner.replace(/\\(u\{[\da-f]+\}|u[\da-f]{4}|x[\da-f]{2}|[\s\S])/gi, (_whole, escape: string) => {
    if (escape.length > 1) return String.fromCodePoint(parseInt(escape.replace(/[ux{}]/gi, ''), 16));
    return simple[escape] ?? escape;
  });
}
