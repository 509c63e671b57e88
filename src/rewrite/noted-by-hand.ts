import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { applyEdits } from '../source/edits.js';
import { lineIndex } from '../source/lines.js';
import type { Script } from '../source/script.js';
import { styleOf } from '../source/style.js';
import type { Sources } from './sources.js';
import type { FileChange } from './results.js';
import { walk } from '../source/traverse.js';

/** A piece of source on one line, cut where it is long. */
export function oneLine(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length > 80 ? `${line.slice(0, 77)}…` : line;
}

/** Start of the innermost statement around an offset: a comment can stand before it, which it cannot inside markup. */
function statementStart(script: Script, offset: number): number {
  let start = 0;
  walk(script.program, {
    Statement(path) {
      const holds = (path.node.start ?? 0) <= offset && (path.node.end ?? 0) > offset;
      if (holds && (path.parentPath?.isProgram() === true || path.parentPath?.isBlockStatement() === true))
        start = path.node.start ?? 0;
    },
  });
  return start;
}

/** The form's files with a comment at each place that is left by hand; unchanged unless that was asked for. */
export function notedByHand(
  model: FormModel,
  ledger: readonly LedgerEntry[],
  sources: Sources,
  wanted: boolean,
): FileChange[] {
  if (!wanted) return [];
  // a schema is data and takes no comments
  const files = model.files.filter((file) => !file.endsWith('.json'));
  return files.flatMap((file): FileChange[] => {
    const before = sources.text(file);
    const lines = lineIndex(before);
    const script = /\.[cm]?[jt]sx?$/.test(file) ? sources.script(file) : undefined;
    const places = new Map<number, string>();
    for (const entry of ledger) {
      if (entry.entry !== 'by-hand' || entry.span.file !== file) continue;
      const start = script ? statementStart(script, entry.span.start) : entry.span.start;
      const lineStart = lines.lineStart(start);
      const indent = /^[ \t]*/.exec(before.slice(lineStart))?.[0] ?? '';
      const words = `graft: line ${lines.lineAt(entry.span.start)}, ${oneLine(entry.what)}: ${entry.why}`;
      const comment = indent + (script ? `// ${words}` : `<!-- ${words.replace(/--/g, '- -')} -->`);
      const above = places.get(lineStart);
      places.set(lineStart, above === undefined ? comment : `${above}\n${comment}`);
    }
    if (!places.size) return [];
    const { newline } = styleOf(before);
    const edits = [...places].map(([start, text]) => ({ start, end: start, text: text + newline }));
    return [{ file, change: 'edit', before, after: applyEdits(before, edits) }];
  });
}
