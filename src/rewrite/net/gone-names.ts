import { parseScript } from '../../source/script.js';
import { approachWords } from './approach-words.js';
import { bindingsOf, type Declared } from './bindings.js';
import type { PlannedStep } from './caught.js';
import { isScript } from './placed-token.js';

/**
 * Names that nothing in the result declares any more. `own`: they may go wherever they stand, because the form's state,
 * a parameter or the approach's own import is called so; `helpers`: only where a holder that goes speaks of them.
 */
export function goneNames({ model, files, plan, sources }: PlannedStep): { own: Set<string>; helpers: Set<string> } {
  const words = approachWords(model.approach);
  const after = new Set<string>();
  const before: Declared[] = [];
  for (const change of files) {
    if (!isScript(change.file)) continue;
    const isOwnText = change.after !== null && change.before !== null;
    const parsed = isOwnText ? parseScript(change.file, change.after ?? '') : undefined;
    if (parsed?.ok) for (const { name } of bindingsOf(parsed.script)) after.add(name);
    if (change.before !== null) before.push(...bindingsOf(sources.script(change.file)));
  }
  const own = new Set(before.filter((one) => one.parameter).map(({ name }) => name));
  const named = new Set(model.names.map(({ name }) => name));
  if (model.holder?.initial !== undefined) named.add(model.holder.initial);
  // what built the form, and what ended a subscription to it
  if (model.framework === 'angular')
    for (const [, name] of sources
      .text(model.file)
      .matchAll(/(\w+)\s*(?::\s*|=\s*inject\(\s*)(?:\w*FormBuilder|DestroyRef)\b/g))
      own.add(name ?? '');
  // the whole of a hook, and what it gave, is told by the uses
  const all = model.approach === 'own-hook' || model.approach === 'dom-values' || model.approach === 'class-state';
  const isOwn = ({ name, imported, parameter }: Declared): boolean =>
    all || named.has(name) || parameter || (imported !== undefined && words.imports.test(imported));
  const helpers = new Set<string>();
  for (const one of before) {
    const removed =
      plan.deletes.includes(one.file) ||
      plan.edits.some(({ file, start, end }) => file === one.file && start <= one.start && end >= one.end);
    // what a hook declares takes other names where they are taken
    if (removed && (!after.has(one.name) || model.approach === 'own-hook')) (isOwn(one) ? own : helpers).add(one.name);
    if (one.imported !== undefined && words.imports.test(one.imported)) own.add(one.name);
    if (model.approach === 'dom-values' && one.ref) own.add(one.name);
  }
  return { own, helpers };
}
