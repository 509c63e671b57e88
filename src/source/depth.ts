/** What to say of code in which something stands in something too often for any reader. */
export const tooDeep = 'it is nested too deeply to be read';

/** Whether an error says that something stands in something too often. */
export function isTooDeep(error: unknown): boolean {
  return error instanceof RangeError && /call stack/.test(error.message);
}
