import type { LedgerEntry } from '../../form/ledger.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import { overlaid, type Workspace } from '../../source/workspace.js';
import { changedFiles } from '../changed-files.js';
import { uncoveredReferences } from '../coverage.js';
import { formsOfFile, type FoundForm, type ReadSettings } from '../forms.js';
import type { StepPlan } from '../planned-step.js';
import type { FileChange } from '../results.js';
import { lostTokens } from './conservation.js';
import type { Caught, PlannedStep } from './caught.js';
import { differences } from './equality.js';
import { nestedChanges } from './nested-changes.js';
import { madeUp } from './novelty.js';
import { settledLedger, untrueFates } from './fate.js';
import { unsound } from './soundness.js';
import { changedCases } from './whole-cases.js';

/** The step as the net leaves it. */
export interface Netted {
  files: FileChange[];
  /** The account, with what was caught as places left by hand. */
  ledger: LedgerEntry[];
  caught: Caught[];
  /** The form as the target's reader sees it; undefined where something was caught. */
  after: FormModel | undefined;
}

/** The approach that is wanted; a step that only leaves one may reach any other. */
export interface Goal {
  to: string;
  leaves: boolean;
}

/**
 * Looks over a planned step before anyone sees it, and is the only judge of what is covered. What it catches becomes
 * a place left by hand.
 * @param step the plan of a writer that left nothing by hand
 * @throws Error where edits overlap: that is a fault of the tool
 */
export async function netted(
  step: StepPlan,
  goal: Goal,
  workspace: Workspace,
  settings: ReadSettings,
): Promise<Netted> {
  const files = changedFiles(step.plan, step.sources);
  const planned: PlannedStep = { ...step, to: goal.to, files };
  const caught: Caught[] = [
    ...uncoveredReferences(step.model, step.plan, step.sources).map(({ span, what, why }): Caught => ({
      check: 'fate',
      span,
      what,
      why,
    })),
    ...untrueFates(planned),
    ...unsound(planned),
    ...nestedChanges(planned),
  ];
  // what does not parse cannot be looked at any closer
  const parses = !caught.some(({ why }) => /does not parse/.test(why));
  const read = parses ? await readAgain(planned, goal, workspace, settings) : undefined;
  const after = read?.form?.read?.();
  if (parses) caught.push(...lostTokens({ ...planned, after }), ...changedCases(planned), ...madeUp(planned));
  if (read?.caught) caught.push(read.caught);
  if (read?.form) caught.push(...troubles(planned, read.form, workspace));
  if (after && read)
    caught.push(
      ...differences({
        before: step.model,
        after,
        to: goal.to,
        textBefore: step.sources.text,
        textAfter: read.text,
      }),
    );
  const byHand = caught.map(({ span, what, why }): LedgerEntry => ({ entry: 'by-hand', span, what, why }));
  return {
    files,
    caught,
    ledger: [...settledLedger(step), ...byHand],
    after: caught.length ? undefined : after,
  };
}

interface ReadAgain {
  form: FoundForm | undefined;
  caught: Caught | undefined;
  text(file: string): string;
}

/** The form as the target's reader finds it in the result. */
async function readAgain(
  { model, files }: PlannedStep,
  goal: Goal,
  workspace: Workspace,
  settings: ReadSettings,
): Promise<ReadAgain> {
  const result = overlaid(workspace, new Map(files.map((change) => [change.file, change.after])));
  const text = (file: string): string => {
    const read = result.read(file);
    return read.ok ? read.text : '';
  };
  const found = await formsOfFile(model.file, text(model.file), result, settings);
  const place = { span: { ...model.span, end: model.span.start }, what: model.component };
  const wrong = (why: string): ReadAgain => ({
    form: undefined,
    text,
    caught: { check: 'equality', ...place, why },
  });
  if (!found.ok) return wrong(`what would be written does not parse: ${found.problem.reason}`);
  const form = sameForm(model, found.forms, goal);
  // a group of values that becomes a variable of its own is one object: the next step takes it apart
  const halfway = goal.to === 'field-state' && form?.approach === 'object-state';
  if (form && (goal.leaves || halfway || form.approach === goal.to)) return { form, text, caught: undefined };
  return wrong(`the result would be read as ${form?.approach ?? 'no form'}, not as ${goal.to}`);
}

/** What the framework itself would not accept of the result. */
function troubles({ model, sources }: PlannedStep, form: FoundForm, workspace: Workspace): Caught[] {
  const { file } = model;
  const text = sources.text(file);
  return (form.trouble?.(sources.script(file), workspace) ?? []).map(({ name, why }) => {
    // the class speaks of it behind its own name, the template in front
    const from = Math.max(model.span.start, text.indexOf(`class ${model.component}`));
    const at = text.slice(from).search(new RegExp(`(?<![\\w$])${name.replaceAll('$', '\\$')}\\b`));
    const start = at < 0 ? model.span.start : from + at;
    return { check: 'soundness', span: { file, start, end: start }, what: at < 0 ? model.component : name, why };
  });
}

/** The form of the result that the rewritten one became: its name may speak of the old approach. */
function sameForm(model: FormModel, forms: readonly FoundForm[], { to, leaves }: Goal): FoundForm | undefined {
  const named = forms.find(({ name }) => name === model.name);
  if (named && (named.approach === to || leaves)) return named;
  const fields = fieldsOf(model);
  const shared = (form: FoundForm): number => fields.filter(({ name }) => form.fieldNames.includes(name)).length;
  const others = forms.filter(
    ({ component, approach }) => component === model.component && (approach === to || leaves),
  );
  return others.sort((a, b) => shared(b) - shared(a))[0] ?? named;
}
