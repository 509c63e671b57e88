import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import { writeHeldObject } from '../object-state/write.js';
import { hookFile } from './hook-file.js';

/** Writes a form whose values a hook of the project keeps; the hook is written once and used again by the next form. */
export function writeOwnHook(model: FormModel, context: WriteContext): RewritePlan {
  return writeHeldObject(model, context, hookFile(model.file, model.typescript, context));
}
