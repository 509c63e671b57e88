import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { rowTrouble } from './rows-text.js';
import type { TemplateDraft } from './draft.js';

/** What keeps the form from becoming template-driven. */
export function unwritable(draft: TemplateDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [...nativeResets(draft), ...hiddenControls(model), ...rowTrouble(draft)];
  for (const use of model.uses) {
    const what = context.text(use.span.file).slice(use.span.start, use.span.end);
    const early = use.where === 'effect';
    if (early && (use.kind === 'ask' || use.kind === 'reset'))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the controls of a template are not there yet when this runs',
      });
    if (use.kind === 'ask' && /^(valueChanges|statusChanges|events)$/.test(use.member ?? ''))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the stream is followed with operators, which an event of the template does not have',
      });
    if (use.kind === 'ask' && /^(addControl|removeControl|setControl|registerControl|contains)$/.test(use.member ?? ''))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'controls come and go here; in a template they do so with their elements',
      });
    if (use.kind === 'watch' && use.of === undefined)
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'it follows every value of the form; say which fields it is about',
      });
    if (use.kind === 'watch' && programmatic(use.of, model))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the class sets this field as well, which the template’s event would not tell',
      });
  }
  return entries;
}

/** Controls that count although they are not shown; in a template they are not there then. */
function hiddenControls(model: FormModel): LedgerEntry[] {
  return model.controls
    .filter(({ field, binding }) => {
      const ruled = model.rules.some((rule) => rule.fields.includes(field));
      const asked = model.uses.some((use) => use.kind === 'ask' && use.of === field);
      return binding?.shownWhen !== undefined && (ruled || asked);
    })
    .map(({ field, binding, span }) => ({
      entry: 'by-hand',
      span,
      what: `${field} is shown only while ${binding?.shownWhen?.text ?? ''}`,
      why: 'its rules count while it is hidden as well; in a template the control would be gone then',
    }));
}

/** A reset button of the page leaves every field of a template's form null. */
function nativeResets({ model, component }: TemplateDraft): LedgerEntry[] {
  const { elements, place } = component.template;
  const kept = model.fields.filter((field) => field.resets === 'initial' && field.initial.text !== 'null');
  const form = model.template?.element;
  if (!kept.length || !form) return [];
  return elements
    .filter(
      ({ start, end, attributes }) =>
        start >= form.start &&
        end <= form.end &&
        attributes.some(({ name, value }) => name === 'type' && value === 'reset'),
    )
    .map(({ start, end }) => ({
      entry: 'by-hand',
      span: { file: place.file, start, end },
      what: 'reset button',
      why: `it would leave ${kept.map(({ name }) => name).join(', ')} null, where the controls go back to their start; call the form's reset from a handler`,
    }));
}

function programmatic(field: string | undefined, model: FormModel): boolean {
  return model.uses.some(
    (use) =>
      (use.kind === 'set' && use.quiet !== true && use.assignments.some((one) => one.field === field)) ||
      use.kind === 'set-all',
  );
}
