import type { Span } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Caught, PlannedStep } from './caught.js';

interface Item {
  what: string;
  span: Span;
}

/**
 * Every use, control, rule and declaration of the form has an entry in the ledger, and what the ledger calls carried or
 * retired lies in an edit.
 */
export function untrueFates(step: PlannedStep): Caught[] {
  const { model, plan } = step;
  const caught = (span: Span, what: string, why: string): Caught => ({ check: 'fate', span, what, why });
  const items: Item[] = [
    ...model.uses.map(({ kind, span }) => ({ what: `use (${kind})`, span })),
    ...model.controls.map(({ field, span }) => ({ what: `control of ${field}`, span })),
    // a rule that no edit touches stays what it was
    ...model.rules.filter(({ span }) => touches(span, step)).map(({ condition, span }) => ({ what: condition, span })),
    ...model.declarations.map(({ what, span }) => ({ what, span })),
  ];
  const edited = new Set([...plan.edits.map(({ file }) => file), ...plan.deletes]);
  const open = items.filter(
    ({ span }) =>
      edited.has(span.file) && !plan.ledger.some((entry) => holds(entry.span, span)) && !isTaken(span, step),
  );
  const untrue = plan.ledger.filter(
    (entry) =>
      (entry.entry === 'carried' || entry.entry === 'retired') && !entry.untouched && !touches(entry.span, step),
  );
  return [
    ...unknownFields(step),
    ...open.map(({ span, what }) => caught(span, what, 'nothing of the rewrite speaks of this place')),
    ...untrue.map(({ span, what }) => caught(span, what, 'it should have changed, and no edit touches it')),
  ];
}

/** Uses of a field that the form does not have: the target would have no place for it. */
function unknownFields({ model }: PlannedStep): Caught[] {
  const names = new Set(model.fields.map(({ name }) => name));
  const isKnown = (name: string): boolean =>
    names.has(name) ||
    model.fields.some((field) => field.name.startsWith(`${name}.`) || field.name.startsWith(`${name}[]`));
  return model.uses.flatMap((use): Caught[] => {
    const asked =
      use.kind === 'read'
        ? [use.field]
        : use.kind === 'set' || use.kind === 'made-handler'
          ? use.assignments.map(({ field }) => field)
          : [];
    const field = asked.find((name) => !isKnown(name) && !isKnown(name.replace(/\[\]$/, '')));
    if (field === undefined) return [];
    return [
      {
        check: 'fate',
        span: use.span,
        what: field,
        why: `${field} is no field of the form, and nothing else says where it belongs`,
      },
    ];
  });
}

/** The ledger with what is true of each place: what an edit touches is carried, not kept. The same is said once. */
export function settledLedger({ plan }: Pick<PlannedStep, 'plan'>): LedgerEntry[] {
  const settled = new Map<string, LedgerEntry>();
  for (const entry of plan.ledger) {
    const inEdit = plan.edits.some(
      ({ file, start, end }) =>
        file === entry.span.file && start <= entry.span.start && end >= entry.span.end && start < end,
    );
    const true_: LedgerEntry = entry.entry === 'kept' && inEdit ? { ...entry, entry: 'carried' } : entry;
    settled.set(`${entry.span.file}:${entry.span.start}:${entry.span.end}:${entry.what}:${entry.why}`, true_);
  }
  return [...settled.values()];
}

function holds(outer: Span, inner: Span): boolean {
  return outer.file === inner.file && outer.start <= inner.start && outer.end >= inner.end;
}

/** Whether an edit takes the whole place away. */
function isTaken(span: Span, { plan }: PlannedStep): boolean {
  return plan.deletes.includes(span.file) || plan.edits.some((edit) => holds({ ...edit }, span));
}

/** Whether an edit, or something put in, lies in a place. */
function touches(span: Span, { plan }: PlannedStep): boolean {
  return (
    plan.deletes.includes(span.file) ||
    plan.edits.some(
      ({ file, start, end }) =>
        file === span.file &&
        (start === end ? start >= span.start && start <= span.end : start < span.end && end > span.start),
    )
  );
}
