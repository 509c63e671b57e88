import type { Token } from '../../source/tokens.js';

/** A token with the file it stands in. */
export interface PlacedToken extends Token {
  file: string;
}

/** Whether a file holds code rather than markup or data. */
export function isScript(file: string): boolean {
  return /\.[cm]?[jt]sx?$/.test(file);
}
