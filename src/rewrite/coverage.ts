import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { Script } from '../source/script.js';

/**
 * References to the form's names that nobody accounted for. Whatever a writer forgot becomes an entry left by hand.
 * @param plan the writer's plan; an edit that replaces a reference covers it
 */
export function uncoveredReferences(
  model: FormModel,
  plan: RewritePlan,
  scriptOf: (file: string) => Script,
): LedgerEntry[] {
  const entries: LedgerEntry[] = [];
  const known = new Map<string, ReturnType<typeof referencesByDeclaration>>();
  for (const { file, name, declaredAt } of model.names) {
    const references = known.get(file) ?? referencesByDeclaration(scriptOf(file));
    known.set(file, references);
    const covered = (start: number, end: number): boolean =>
      [...model.uses, ...model.declarations].some(
        ({ span }) => span.file === file && span.start <= start && span.end >= end,
      ) || plan.edits.some((edit) => edit.file === file && edit.start <= start && edit.end >= end);
    for (const { start, end } of references.get(declaredAt) ?? []) {
      if (covered(start, end)) continue;
      entries.push({
        entry: 'by-hand',
        span: { file, start, end },
        what: name,
        why: 'this reference was not understood',
      });
    }
  }
  return entries;
}

/** Every reference to each variable of a file, assignments included, by the offset of its declaration. */
function referencesByDeclaration(script: Script): Map<number, { start: number; end: number }[]> {
  const found = new Map<number, { start: number; end: number }[]>();
  const place = ({
    node,
  }: {
    node: { start?: number | null; end?: number | null };
  }): { start: number; end: number } => ({
    start: node.start ?? 0,
    end: node.end ?? 0,
  });
  script.program.traverse({
    Scope(path) {
      for (const binding of Object.values(path.scope.bindings)) {
        const places = [...binding.referencePaths, ...binding.constantViolations].map(place);
        found.set(binding.identifier.start ?? 0, places);
      }
    },
  });
  return found;
}
