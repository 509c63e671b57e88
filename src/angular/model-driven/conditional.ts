import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import type { AngularComponent } from '../component.js';

/** A field whose control exists only while a condition on other fields holds. */
export interface ConditionalField {
  field: string;
  condition: Span;
  negated: boolean;
  /** Fields the condition reads. */
  follows: string[];
}

/** The fields that come and go with a part of the template, where that matters to values and rules. */
export function conditionalFields(
  model: FormModel,
  component: AngularComponent,
  byHand: LedgerEntry[],
): ConditionalField[] {
  const found: ConditionalField[] = [];
  const { template } = component;
  for (const control of model.controls) {
    const element = template.elements.find((one) => one.start === control.span.start);
    let view = element?.view;
    while (view && view.kind !== 'condition') view = view.parent;
    if (!control.binding?.shownWhen || !view?.expression) continue;
    const form = model.template?.element;
    // the whole form comes and goes with its controls
    if (form && form.start >= view.start && form.end <= view.end) continue;
    const start = template.place.base + view.expression.sourceSpan.start;
    const end = template.place.base + view.expression.sourceSpan.end;
    const inside = (span: { start: number; end: number; file?: string }): boolean =>
      span.start >= start && span.end <= end;
    const names = template.names.filter(inside);
    const reads = model.uses.filter(
      (use) => use.kind === 'read' && use.span.file === template.place.file && inside(use.span),
    );
    const covered = names.every((name) => reads.some(({ span }) => name.start >= span.start && name.end <= span.end));
    const matters =
      model.rules.some((rule) => rule.fields.includes(control.field)) ||
      model.uses.some(
        (use) => (use.kind === 'read-all' && use.what === 'shown') || (use.kind === 'ask' && use.of === control.field),
      );
    if (!matters) continue;
    const condition = { file: template.place.file, start, end };
    if (!covered || !names.length) {
      byHand.push({
        entry: 'by-hand',
        span: condition,
        what: `${control.field} is shown only while ${control.binding.shownWhen.text}`,
        why: 'the condition depends on more than fields of the form, so when to enable and disable the control has to be said in the class',
      });
      continue;
    }
    found.push({
      field: control.field,
      condition,
      negated: view.negated,
      follows: [...new Set(reads.flatMap((use) => (use.kind === 'read' ? [use.field] : [])))],
    });
  }
  return found.filter((one, index) => found.findIndex(({ field }) => field === one.field) === index);
}
