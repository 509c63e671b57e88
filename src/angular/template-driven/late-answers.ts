import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Use } from '../../form/uses.js';
import { isInTemplate } from '../use-edits.js';
import { hasDisabled } from '../disabled.js';
import type { TemplateDraft } from './draft.js';

/** What a control tells only after its template has handed it the new value. */
const settled = /^(valid|invalid|errors|status|pending|hasError|getError|value)$/;

/**
 * Places that ask the form how it is in the same turn in which its values were set: the controls of a template hear of
 * a change of the model later.
 */
export function lateAnswers(draft: TemplateDraft): LedgerEntry[] {
  const { model, context, component } = draft;
  const { script } = component;
  const own = ({ span }: Use): boolean => span.file === script.file && !isInTemplate(span, component);
  const asks = model.uses.filter(
    (use) =>
      own(use) &&
      ((use.kind === 'ask' && settled.test(use.member ?? '')) ||
        (use.kind === 'read-all' && use.what === 'shown' && hasDisabled(model))),
  );
  const changes = model.uses.filter((use) => own(use) && /^(?:set|set-all|set-named|change-rows)$/.test(use.kind));
  if (!asks.length || !changes.length) return [];
  const methods = [...component.members.values()].map(({ name, path }) => ({ name, path }));
  const methodAt = (offset: number): { name: string; path: NodePath } | undefined =>
    methods.find(({ path: { node } }) => (node.start ?? 0) <= offset && (node.end ?? 0) > offset);
  const entries = asks.flatMap((ask): LedgerEntry[] => {
    const home = methodAt(ask.span.start);
    const places = [ask.span.start, ...callsOf(home?.name, draft)];
    const late = places.some((place) =>
      changes.some(({ span }) => methodAt(span.start) === methodAt(place) && isBefore(span.end, place, script.text)),
    );
    if (!late) return [];
    const what = context.text(ask.span.file).slice(ask.span.start, ask.span.end);
    const why = 'values are set just before this; the controls of a template would hear of them only afterwards';
    return [{ entry: 'by-hand', span: ask.span, what, why }];
  });
  return entries;
}

/** Whether one place runs before another in the same turn. */
function isBefore(change: number, ask: number, text: string): boolean {
  return change <= ask && !/\bawait\b/.test(text.slice(change, ask));
}

/** Where the class calls one of its methods. */
function callsOf(name: string | undefined, { component }: TemplateDraft): number[] {
  const references: NodePath<t.Node>[] = component.members.get(name ?? '')?.references ?? [];
  return references.filter(({ key }) => key === 'callee').map(({ node }) => node.start ?? 0);
}
