import type { Span } from '../../form/code.js';
import type { FormLife, StepKind, SubmitStep } from '../../form/life.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import type { Caught } from './caught.js';
import type { FormMatch } from './form-match.js';

/** Approaches whose code tells its life in the author's own statements, before and after. */
const toldInCode = new Set([
  'field-state',
  'object-state',
  'reducer',
  'class-state',
  'formik',
  'react-hook-form',
  'tanstack-form',
  'model-driven',
  'template-driven',
  'template-one-way',
  'signal-model',
]);

/** What happens to a form besides its values, where it would not be the same any more. */
export function lifeDifferences(
  { before, after }: { before: FormModel; after: FormModel },
  match: FormMatch,
): Caught[] {
  if (!toldInCode.has(before.approach) || !toldInCode.has(after.approach)) return [];
  const [old, now] = [before.life?.(), after.life?.()];
  if (!old || !now) return [];
  // a reader that takes status for a field cannot tell what it opens
  const isField = (model: FormModel, name: string): boolean => fieldsOf(model).some((field) => field.name === name);
  const taken =
    old.status.some(({ name }) => isField(after, name)) || now.status.some(({ name }) => isField(before, name));
  return [...stepDifferences(old, now), ...(taken ? [] : messageDifferences(old, now, before, match))];
}

function caught(span: Span, what: string, why: string): Caught {
  return { check: 'equality', span, what, why };
}

/** Steps that readers of all approaches see alike; what becomes of the others conservation looks after. */
const surelyTold = new Set<StepKind>([
  'send',
  'begin',
  'end',
  'stop-if-wrong',
  'touch-all',
  'focus-first',
  'field-errors',
]);

/** Steps of the submit that the result lacks, branch by branch. */
function stepDifferences(old: FormLife, now: FormLife): Caught[] {
  const said = ({ does, branch }: SubmitStep): string => `${does.replace('reset-some', 'reset')} ${branch}`;
  const left = now.course.steps.map(said);
  const found: Caught[] = [];
  if (old.course.by !== now.course.by)
    found.push(caught(old.course.span, 'submit', `it would be sent by ${now.course.by}, not by ${old.course.by}`));
  else if (old.course.prevents === true && now.course.prevents === false)
    found.push(caught(old.course.span, 'submit', 'the browser would leave the page'));
  for (const step of old.course.steps) {
    const { does, branch, span } = step;
    if (!surelyTold.has(does)) continue;
    const wanted = [said(step), ...(does === 'field-errors' ? [`keep-errors ${branch}`, `message ${branch}`] : [])];
    // what one text for the form keeps is errors to one reader and a message to another
    const index = left.findIndex((one) => wanted.includes(one));
    if (index >= 0) left.splice(index, 1);
    else
      found.push(caught(span, `submit: ${does}`, `the step would be lost${branch === 'before' ? '' : ` (${branch})`}`));
  }
  return found;
}

/** Messages that would show at another time, or not at all. */
function messageDifferences(old: FormLife, now: FormLife, before: FormModel, match: FormMatch): Caught[] {
  const known = new Set(fieldsOf(before).map(({ name }) => name));
  const said = (field: string | null, after: readonly string[], all = false): string =>
    `${field ?? ''}: ${[...after].sort().join(all ? '&' : '|')}`;
  const left = now.shown.map(({ field, after, all }) =>
    said(field === null ? null : match.nameBefore(field), after, all),
  );
  // fewer than before are told by the reader, not by the form: their texts are looked after by conservation
  if (now.shown.length !== old.shown.length) return [];
  const fields = (name: string | null): boolean =>
    now.shown.some((one) => (one.field === null ? null : match.nameBefore(one.field)) === name);
  return old.shown.flatMap(({ field, after, all, span }): Caught[] => {
    if (!fields(field)) return [];
    if (field !== null && !known.has(field)) return [];
    const index = left.indexOf(said(field, after, all));
    if (index >= 0) left.splice(index, 1);
    return index >= 0
      ? []
      : [caught(span, `message of ${field ?? 'the form'}`, 'it would show at another time, or not at all')];
  });
}
