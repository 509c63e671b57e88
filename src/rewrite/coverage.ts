import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { Span } from '../form/code.js';
import type { Script } from '../source/script.js';
import type { Sources } from './sources.js';
import { walk } from '../source/traverse.js';

/**
 * References to the form's names that nobody accounted for. Whatever a writer forgot becomes an entry left by hand.
 * @param plan the writer's plan; an edit that replaces a reference covers it
 */
export function uncoveredReferences(model: FormModel, plan: RewritePlan, sources: Sources): LedgerEntry[] {
  const entries: LedgerEntry[] = [];
  const known = new Map<string, ReturnType<typeof referencesByDeclaration>>();
  for (const owned of model.names) {
    const { name, declaredAt } = owned;
    if (owned.references) {
      for (const span of owned.references) if (!isCovered(model, plan, span)) entries.push(uncovered(span, name));
      continue;
    }
    const { file } = owned;
    const references = known.get(file) ?? referencesByDeclaration(sources.script(file));
    known.set(file, references);
    for (const place of references.get(declaredAt) ?? []) {
      const span = { file, ...place };
      if (!isCovered(model, plan, span)) entries.push(uncovered(span, name));
    }
  }
  return entries;
}

function isCovered(model: FormModel, plan: RewritePlan, { file, start, end }: Span): boolean {
  const holds = (span: Span): boolean => span.file === file && span.start <= start && span.end >= end;
  return [...model.uses, ...model.declarations].some(({ span }) => holds(span)) || plan.edits.some(holds);
}

function uncovered(span: Span, name: string): LedgerEntry {
  return { entry: 'by-hand', span, what: name, why: 'this reference was not understood' };
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
  walk(script.program, {
    Scope(path) {
      for (const binding of Object.values(path.scope.bindings)) {
        const places = [...binding.referencePaths, ...binding.constantViolations].map(place);
        found.set(binding.identifier.start ?? 0, places);
      }
    },
  });
  return found;
}
