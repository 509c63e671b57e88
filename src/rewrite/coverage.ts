import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { Script } from '../source/script.js';

/**
 * References to the form's names that nobody accounted for. Whatever a writer forgot becomes an entry left by hand.
 * @param plan the writer's plan; an edit that replaces a reference covers it
 */
export function uncoveredReferences(model: FormModel, plan: RewritePlan, scriptOf: (file: string) => Script): LedgerEntry[] {
  const entries: LedgerEntry[] = [];
  for (const { file, name, declaredAt } of model.names) {
    const script = scriptOf(file);
    const covered = (start: number, end: number): boolean =>
      [...model.uses, ...model.declarations].some(({ span }) => span.file === file && span.start <= start && span.end >= end) ||
      plan.edits.some((edit) => edit.file === file && edit.start <= start && edit.end >= end);
    for (const { start, end } of referencesOf(script, name, declaredAt)) {
      if (covered(start, end)) continue;
      entries.push({ entry: 'by-hand', span: { file, start, end }, what: name, why: 'this reference was not understood' });
    }
  }
  return entries;
}

/** Every reference to the variable that is declared at an offset, assignments included. */
function referencesOf(script: Script, name: string, declaredAt: number): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  const visit = (node: { start?: number | null; end?: number | null }): void => {
    found.push({ start: node.start ?? 0, end: node.end ?? 0 });
  };
  script.program.traverse({
    Scope(path) {
      const binding = path.scope.getOwnBinding(name);
      if (binding?.identifier.start !== declaredAt || binding.scope.path.node !== path.node) return;
      for (const reference of binding.referencePaths) visit(reference.node);
      for (const change of binding.constantViolations) visit(change.node);
    },
  });
  return found;
}
