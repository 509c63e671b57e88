/** How deep a value is written out. */
const mostDepth = 6;

function nameOf(value: object): string {
  return value.constructor?.name ?? 'object';
}

/**
 * A value as text, the same for equal values of different pages: keys of plain objects sorted, dates and files by
 * what they hold, events and elements by what they are.
 */
export function valueText(value: unknown, depth = 0): string {
  if (typeof value === 'string') return JSON.stringify(value);
  if (typeof value === 'function') return '[function]';
  if (typeof value === 'bigint') return `${value}n`;
  if (typeof value !== 'object' || value === null) return Object.is(value, -0) ? '-0' : String(value);
  if (depth > mostDepth) return '…';
  const name = nameOf(value);
  if (Object.prototype.toString.call(value) === '[object Date]') {
    const time = Number(value);
    return Number.isNaN(time) ? '[invalid date]' : `[date ${new Date(time).toISOString()}]`;
  }
  if ('nativeEvent' in value || ('preventDefault' in value && 'type' in value))
    return `[event ${String((value as { type?: unknown }).type)}]`;
  if ('nodeType' in value && 'nodeName' in value) return `[element ${String(value.nodeName).toLowerCase()}]`;
  if (name === 'File') return `[file ${(value as File).name} ${(value as File).size}]`;
  if (name === 'FormData' || name === 'URLSearchParams' || name === 'Map' || name === 'Headers') {
    return `[${name} ${[...(value as Iterable<unknown>)].map((entry) => valueText(entry, depth + 1)).join(', ')}]`;
  }
  if (name === 'Set')
    return `[Set ${[...(value as Set<unknown>)].map((entry) => valueText(entry, depth + 1)).join(', ')}]`;
  if (Array.isArray(value)) return `[${value.map((entry) => valueText(entry, depth + 1)).join(', ')}]`;
  if ('message' in value && 'stack' in value) return `[error ${String(value.message)}]`;
  if ('length' in value && name === 'FileList')
    return `[${Array.from(value as unknown as ArrayLike<unknown>, (entry) => valueText(entry, depth + 1)).join(', ')}]`;
  const entries = Object.entries(value)
    .filter(([key]) => !key.startsWith('__') && !key.startsWith('ɵ'))
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([key, inner]) => `${key}: ${valueText(inner, depth + 1)}`);
  return `{ ${entries.join(', ')} }`.replace('{  }', '{}');
}
