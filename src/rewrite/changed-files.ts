import type { RewritePlan } from '../form/ledger.js';
import { applyEdits } from '../source/edits.js';
import { styleOf } from '../source/style.js';
import type { Sources } from './sources.js';
import type { FileChange } from './results.js';

/** The files of a plan as whole texts before and after. */
export function changedFiles(plan: RewritePlan, sources: Sources): FileChange[] {
  const files: FileChange[] = [];
  for (const file of new Set(plan.edits.map((edit) => edit.file))) {
    if (plan.deletes.includes(file)) continue;
    const before = sources.text(file);
    const edits = plan.edits.filter((edit) => edit.file === file);
    const written = edits.map((edit) => ({ ...edit, text: withLineEnds(edit.text, before) }));
    const after = withoutGaps(before, applyEdits(before, written));
    files.push({ file, change: 'edit', before, after });
  }
  for (const { file, text } of plan.creates) files.push({ file, change: 'create', before: null, after: text });
  for (const file of plan.deletes) files.push({ file, change: 'delete', before: sources.text(file), after: null });
  return files;
}

/** Blank lines that met where something between them went, as one. */
function withoutGaps(before: string, after: string): string {
  const gap = /\n(?:[ \t]*\r?\n){2,}/g;
  // a file that has such gaps of its own keeps them all
  return new RegExp(gap).test(before)
    ? after
    : after.replace(gap, (lines) => (lines.includes('\r') ? '\n\r\n' : '\n\n'));
}

function withLineEnds(text: string, original: string): string {
  return styleOf(original).newline === '\r\n' ? text.replace(/\r?\n/g, '\r\n') : text;
}
