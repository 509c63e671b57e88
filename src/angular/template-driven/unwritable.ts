import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, type FormModel } from '../../form/model.js';
import type { SetAllUse } from '../../form/uses.js';
import { placeByHand } from '../../form/writing.js';
import { rowTrouble } from './rows-text.js';
import type { TemplateDraft } from './draft.js';
import { lateAnswers } from './late-answers.js';
import { isStream, streamEntries } from './streams.js';

/** What keeps the form from becoming template-driven. */
export function unwritable(draft: TemplateDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [
    ...nativeResets(draft),
    ...hiddenControls(model),
    ...rowTrouble(draft),
    ...untypedFields(draft),
    ...lateAnswers(draft),
    ...loosePaths(model),
    ...streamEntries(draft),
  ];
  for (const { binding } of model.controls)
    if (binding?.disabled?.usableWhile?.again)
      entries.push(
        placeByHand(
          binding.disabled.span,
          context,
          'the control begins anew whenever it is switched off, which an attribute of the template does not say',
        ),
      );
  for (const span of model.follows ?? [])
    entries.push(
      placeByHand(span, context, 'it follows the values as a signal, which those of a template’s form are not'),
    );
  for (const use of model.uses) {
    const what = context.text(use.span.file).slice(use.span.start, use.span.end);
    const trouble = use.kind === 'set-all' && use.merge ? whyNotMerged(use, draft) : undefined;
    if (trouble !== undefined) entries.push({ entry: 'by-hand', span: use.span, what, why: trouble });
    const early = use.where === 'effect';
    if (early && ((use.kind === 'ask' && !isStream(use)) || use.kind === 'reset'))
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what,
        why: 'the controls of a template are not there yet when this runs',
      });
    if (use.kind === 'ask' && !isStream(use) && /^(valueChanges|statusChanges|events)$/.test(use.member ?? ''))
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

/** Rules of a group or the form that look for a field where a template's form does not keep it. */
function loosePaths({ rules, fields, template }: FormModel): LedgerEntry[] {
  const groups = new Set((template?.groups ?? []).map(({ name }) => name));
  const loose = fields.find(({ name }) => {
    // each control of a row is named by itself
    if (isRowField(name)) return true;
    const keys = name.split('.').slice(0, -1);
    return keys.some((_, index) => !groups.has(keys.slice(0, index + 1).join('.')));
  });
  if (!loose) return [];
  return rules
    .filter(({ of, constraint }) => of !== undefined && constraint?.kind === 'custom')
    .map(({ span, condition }) => ({
      entry: 'by-hand',
      span,
      what: condition.split('\n')[0] ?? '',
      why: `it may look for ${loose.name}, which no group of the template holds`,
    }));
}

/** Values whose type neither the class nor what they begin with tells: the interface of the model would guess. */
function untypedFields({ model }: TemplateDraft): LedgerEntry[] {
  return model.fields
    .filter(({ type, initial }) => type === undefined && !/^(?:null|undefined|''|"")$/.test(initial.text))
    .filter(({ name, kind }) => kind !== 'list of rows' && kind !== 'group' && !isRowField(name))
    .map(({ name, declared, initial }) => ({
      entry: 'by-hand',
      span: declared,
      what: name,
      why: `the type of ${initial.text.split('\n')[0] ?? ''} is not written, so the model’s type for ${name} would be a guess; give the control its type`,
    }));
}

/** Why given values cannot be laid over the model: the form takes only what it knows of them, an object takes all. */
function whyNotMerged({ gives, code }: SetAllUse, { model: { fields }, context }: TemplateDraft): string | undefined {
  if (!gives)
    return 'the form takes what it knows of these values; nothing tells whether they hold more than its fields';
  const known = new Set(fields.map(({ name }) => name.split('.')[0] ?? ''));
  const unsure = gives.find(({ key, optional }) => optional && known.has(key));
  const more = gives.find(({ key }) => !known.has(key))?.key;
  if (more === undefined) return undefined;
  const text = context.text(code.file).slice(code.start, code.end);
  if (!/^(?:this\.)?[\w$]+$/.test(text)) return `the form has no ${more}, and leaves it out`;
  if (unsure) return `${unsure.key} may be missing in these values, which hold more than the form’s fields`;
  return undefined;
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
      (use.kind === 'set-all' && use.quiet !== true),
  );
}
