import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import { codeText } from '../../form/code-text.js';
import type { Span } from '../../form/code.js';
import type { Control, FormModel, PlainWiring } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { quoted } from '../../source/style.js';
import type { Draft, WiredControl } from './draft.js';

/** What of a draft tells which controls can be tied. */
type WiringDraft = Pick<Draft, 'model' | 'hook' | 'context' | 'printer'>;

function holds(outer: Span, inner: Span): boolean {
  return outer.file === inner.file && inner.start >= outer.start && inner.end <= outer.end;
}

/** The controls of a form that a hook can tie to their fields by attributes of its own. */
export function wiredControls(draft: WiringDraft): WiredControl[] {
  const { model, hook, context } = draft;
  if (hook?.file.calls.registers === undefined) return [];
  return model.controls.flatMap((control) => {
    const { wiring } = control;
    const takes =
      wiring &&
      takesItIn(control, wiring, draft) &&
      !mayRefuse(control, wiring, model, context) &&
      !leavesNameIdle(control, wiring, model, context);
    return takes ? [{ control, wiring }] : [];
  });
}

/** Whether all that the handler of a control does is to keep what was typed. */
function takesItIn(
  { field, wayIn, label, type }: Control,
  { shows, changes, call, name }: PlainWiring,
  { model, printer }: WiringDraft,
): boolean {
  const known = model.fields.some((one) => one.name === field);
  const inside = model.uses.filter(({ span }) => holds(changes, span));
  const [change] = inside.filter(({ span }) => span.start === call.start && span.end === call.end);
  // a hook gives a name, by which nobody has called a control without a label so far
  if ((!name && label === undefined) || !known || wayIn !== undefined) return false;
  if ((change?.kind !== 'set' && change?.kind !== 'made-handler') || change.assignments.length !== 1) return false;
  const [assignment] = change.assignments;
  if (assignment?.field !== field || assignment.value.kind !== 'value' || assignment.value.operator) return false;
  if (change.kind === 'made-handler' && !isTyped(codeText(assignment.value.code, printer), type)) return false;
  const others = inside.filter((use) => use !== change && !holds(change.span, use.span));
  return (
    !others.length && model.uses.some((use) => use.kind === 'read' && use.field === field && holds(shows, use.span))
  );
}

/** Whether what a handler keeps is what was typed, and nothing else. */
function isTyped(text: string, type: string | undefined): boolean {
  return new RegExp(`^[\\w$]+\\.(?:target|currentTarget)\\.${type === 'checkbox' ? 'checked' : 'value'}$`).test(text);
}

/** Whether a name that a pattern takes out of the values would be left without a use. */
function leavesNameIdle(
  { field }: Control,
  { shows }: PlainWiring,
  model: FormModel,
  context: Draft['context'],
): boolean {
  const reads = model.uses.filter((use) => use.kind === 'read' && use.field === field);
  const textOf = ({ span }: Use): string => context.text(span.file).slice(span.start, span.end);
  const shown = reads.find(({ span }) => holds(shows, span));
  const isName = shown !== undefined && /^\w+$/.test(textOf(shown));
  if (!isName || !model.declarations.some(({ role }) => role === 'alias')) return false;
  return !reads.some((use) => use !== shown && textOf(use) === textOf(shown));
}

/** Types of controls that hold nothing but what fits them, and nothing at all in its place. */
const strict = /^(?:number|range|date|time|datetime-local|month|week|color)$/;

/**
 * Whether a control might be given what it does not hold, so that the value that is kept and the one that is shown are
 * two: values from elsewhere, of which nobody knows here whether they fit.
 */
function mayRefuse(
  { field, type }: Control,
  { changes }: PlainWiring,
  model: FormModel,
  context: Draft['context'],
): boolean {
  if (!strict.test(type ?? '')) return false;
  const given = model.uses.some((use) => {
    if (use.kind === 'set-all' || use.kind === 'hand-on-all') return true;
    if (use.kind === 'hand-on') return use.field === field;
    if (use.kind !== 'set' && use.kind !== 'made-handler') return false;
    return (
      !holds(changes, use.span) &&
      use.assignments.some(
        ({ field: name, value }) =>
          name === field &&
          value.kind !== 'initial' &&
          !(
            value.kind === 'value' &&
            /^['"\d-]/.test(context.text(value.code.file).slice(value.code.start, value.code.end))
          ),
      )
    );
  });
  return given || model.fields.some(({ name, initial }) => name === field && initial.when !== 'constant');
}

/** Whether a use goes with the attributes that a hook's own take the place of. */
export function isWired({ span }: Use, { hook }: Pick<Draft, 'hook'>): boolean {
  return hook?.wired.some(({ wiring }) => holds(wiring.shows, span) || holds(wiring.changes, span)) === true;
}

/** The edits that tie plain controls to their fields by the hook's own attributes, and the account of what these replace. */
export function wiringPlan({ hook, context }: Draft): Pick<RewritePlan, 'edits' | 'ledger'> {
  const edits: RewritePlan['edits'] = [];
  const ledger: LedgerEntry[] = [];
  for (const { control, wiring } of hook?.wired ?? []) {
    const { shows, changes, name } = wiring;
    const register = hook?.register ?? '';
    hook?.called.add('register');
    edits.push({ ...shows, text: `{...${register}(${quoted(control.field, context.style)})}` });
    for (const span of name ? [changes, name] : [changes]) {
      const before = context.text(span.file).slice(0, span.start);
      edits.push({ ...span, start: before.trimEnd().length, text: '' });
    }
    for (const span of name ? [shows, changes, name] : [shows, changes])
      ledger.push({
        entry: 'carried',
        span,
        what: context.text(span.file).slice(span.start, span.end),
        why: `${register} ties the control to ${control.field}`,
        takenOver: true,
      });
  }
  return { edits, ledger };
}

/** What becomes of a use in such an attribute, for the account. */
export function wiredEntry(use: Use, { hook }: Draft): LedgerEntry {
  const what = use.kind === 'read' ? `read of ${use.field}` : 'change of a value by its control';
  return { entry: 'carried', span: use.span, what, why: `${hook?.register ?? ''} ties the control to it` };
}
