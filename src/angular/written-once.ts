import path from 'node:path';
import type { RewritePlan } from '../form/ledger.js';
import type { WriteContext } from '../form/writing.js';

/** A file of the result that is written beside a class once, and used by every form of that folder. */
export interface WrittenOnce {
  fileName: string;
  text(context: Pick<WriteContext, 'style'>): string;
}

/** A directive in a file of its own: its class, and the attribute that it is bound by. */
export interface OwnDirective extends WrittenOnce {
  className: string;
  attribute: string;
}

/**
 * The files that do not stand beside a class yet.
 * @param file the class's own file
 */
export function besideOnce(
  file: string,
  files: readonly WrittenOnce[],
  context: Pick<WriteContext, 'style' | 'exists'>,
): RewritePlan['creates'] {
  return files
    .map((one) => ({ file: path.join(path.dirname(file), one.fileName), text: one.text(context) }))
    .filter((one) => !context.exists(one.file));
}
