import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Span } from '../../form/code.js';
import type { Control, FormModel, PlainWiring } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { quoted } from '../../source/style.js';
import type { Draft } from './draft.js';

/** A plain control that a hook's own attributes tie to its field. */
interface WiredControl {
  control: Control;
  wiring: PlainWiring;
}

function holds(outer: Span, inner: Span): boolean {
  return outer.file === inner.file && inner.start >= outer.start && inner.end <= outer.end;
}

/** The controls of a form that a hook can tie to their fields by attributes of its own. */
export function wiredControls({ model, hook }: Pick<Draft, 'model' | 'hook'>): WiredControl[] {
  if (hook?.file.calls.registers === undefined) return [];
  return model.controls.flatMap((control) => {
    const { wiring } = control;
    return wiring && takesItIn(control, wiring, model) ? [{ control, wiring }] : [];
  });
}

/** Whether all that the handler of a control does is to keep what was typed. */
function takesItIn(
  { field, wayIn, label }: Control,
  { shows, changes, call, name }: PlainWiring,
  model: FormModel,
): boolean {
  const known = model.fields.some(({ name }) => name === field);
  const inside = model.uses.filter(({ span }) => holds(changes, span));
  const [change] = inside.filter(({ span }) => span.start === call.start && span.end === call.end);
  // a hook gives a name, by which nobody has called a control without a label so far
  if (!name && label === undefined) return false;
  if (!known || wayIn !== undefined || change?.kind !== 'set' || change.assignments.length !== 1) return false;
  const [assignment] = change.assignments;
  if (assignment?.field !== field || assignment.value.kind !== 'value' || assignment.value.operator) return false;
  const others = inside.filter((use) => use !== change && !holds(change.span, use.span));
  return (
    !others.length && model.uses.some((use) => use.kind === 'read' && use.field === field && holds(shows, use.span))
  );
}

/** Whether a use goes with the attributes that a hook's own take the place of. */
export function isWired({ span }: Use, draft: Pick<Draft, 'model' | 'hook'>): boolean {
  return wiredControls(draft).some(({ wiring }) => holds(wiring.shows, span) || holds(wiring.changes, span));
}

/** The edits that tie plain controls to their fields by the hook's own attributes. */
export function wiringEdits(draft: Draft): RewritePlan['edits'] {
  const { hook, context } = draft;
  if (!hook) return [];
  return wiredControls(draft).flatMap(({ control, wiring }) => {
    hook.called.add('register');
    const text = `{...${hook.register}(${quoted(control.field, context.style)})}`;
    const gone = [wiring.changes, ...(wiring.name ? [wiring.name] : [])].map((span) => {
      const before = context.text(span.file).slice(0, span.start);
      return { ...span, start: before.trimEnd().length, text: '' };
    });
    return [{ ...wiring.shows, text }, ...gone];
  });
}

/** What becomes of such a use, for the account. */
export function wiredEntry(use: Use, draft: Draft): LedgerEntry {
  const what = use.kind === 'read' ? `read of ${use.field}` : 'change of a value by its control';
  return { entry: 'carried', span: use.span, what, why: `${draft.hook?.register ?? ''} ties the control to it` };
}
