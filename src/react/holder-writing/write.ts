import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { keptEntries } from '../kept-entries.js';
import { movedText, outermostUses } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { isControlUse, type DependUse, type HandOnUse, type Use } from '../../form/uses.js';
import { placeByHand, leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import type { Script } from '../../source/script.js';
import { indentAt } from '../../source/style.js';
import type { HookFile } from '../form-hook/hook-file.js';
import { changeRuns } from '../change-runs.js';
import { retiredDeclarations, retiredEntries, retireOldState } from '../old-state.js';
import { dependencyEdits, placeOfState, removeStateEdits } from '../state-edits.js';
import { reactImportEdits } from '../import-edits.js';
import { retirementOf } from '../retirement.js';
import { namedReferences } from '../references.js';
import { hookWords, type FurtherImports, type HookCall, type Beside, type Draft, namesFor } from './draft.js';
import { useText, runText } from './changes.js';
import { workedOutAtOnce } from './setter-calls.js';
import { aboveText, hookLines, isTyped, keepsFirst } from './state-lines.js';
import { heldLater, untoldStart } from '../untold-start.js';
import { untypedFields } from '../untyped-fields.js';
import { stepEdits, stepTroubles } from '../step-functions.js';
import { hookImport } from './hook-import.js';
import { isWired, wiredControls, wiredEntry, wiringPlan } from './wiring.js';
import { walk } from '../../source/traverse.js';

/** Writes a form with one state variable that holds an object of all values. */
export function writeObjectState(model: FormModel, context: WriteContext): RewritePlan {
  return writeHeldObject(model, context, undefined);
}

/**
 * Writes a form whose values one object holds.
 * @param hook the project's hook that keeps the object; undefined where a state variable does
 * @param call how the hook is asked, where that takes more than the initial values; the caller imports it then
 * @param beside what the caller does along with it
 */
export function writeHeldObject(
  model: FormModel,
  context: WriteContext,
  hook: HookFile | undefined,
  call?: HookCall,
  beside: Beside = { edits: [], lines: [], adds: [] },
): RewritePlan {
  const byHand = [
    ...unclearEntries(model),
    ...untoldStart(model, context),
    ...(hook ? heldLater(model, context, 'the hook') : []),
    ...unwritable(model, context),
    ...stepTroubles(model, context),
  ];
  if (byHand.length) return leftByHand(byHand);
  const script = context.script(model.file);
  const draft: Draft = {
    call,
    model,
    context,
    names: namesFor(model, context, call?.values, hook?.calls),
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => movedText(hole, draft.printer),
    },
    needs: { reset: false, values: false },
    constants: new Set(),
    hook: hook && hookWords(hook, model, context),
  };
  if (draft.hook) draft.hook.wired = wiredControls(draft);
  // an object of its own tells its type where the hook does not take it
  if (hook?.calls.typedByStart && !keepsFirst(draft) && isTyped(draft)) draft.needs.reset = true;
  const edits: RewritePlan['edits'] = [];
  const support = retiredDeclarations(model, ['support']);
  const inSupport = (use: Use): boolean =>
    support.some(({ span }) => use.span.start >= span.start && use.span.end <= span.end);
  const runs = changeRuns(model, script.text);
  const inRun = new Set(runs.flatMap((run) => run.uses));
  const isMoved = (at: { start: number; end: number }): boolean =>
    (beside.moved ?? []).some(({ start, end }) => at.start >= start && at.end <= end);
  const stable = new Map<string, HandOnUse>();
  const ledger: LedgerEntry[] = [];
  for (const use of outermostUses(model.uses.filter((one) => !inSupport(one)))) {
    if ((use.kind === 'set' && inRun.has(use)) || isMoved(use.span) || isWired(use, draft)) continue;
    if (use.kind === 'hand-on' && use.stable) stable.set(use.field, use);
    if (use.kind === 'depend') continue;
    const text = useText(use, draft);
    if (text !== undefined) edits.push({ ...use.span, text });
  }
  for (const run of runs.filter((one) => !isMoved(one)))
    edits.push({ file: model.file, start: run.start, end: run.end, text: runText(run, draft) });
  edits.push(...dependencyEdits(model, (use) => changersIn(use, edits, draft), context.text));
  const wiring = wiringPlan(draft);
  edits.push(...wiring.edits);
  ledger.push(...wiring.ledger);
  const movesAlong = { entry: 'carried', why: 'it moves along with the code around it' } as const;
  for (const use of model.uses)
    ledger.push(
      isWired(use, draft)
        ? wiredEntry(use, draft)
        : { ...accountOf(use, draft), ...(isMoved(use.span) ? movesAlong : {}) },
    );
  ledger.push(...keptEntries(model, { control: 'it shows the same value', rule: 'it reads the same values' }));
  for (const declaration of model.declarations)
    ledger.push({
      entry:
        declaration.role === 'alias' || declaration.span.file !== model.file
          ? 'kept'
          : declaration.role === 'support'
            ? 'retired'
            : 'carried',
      span: declaration.span,
      what: declaration.what,
      why:
        declaration.role === 'support'
          ? `${draft.names.setter} does its work`
          : `${draft.names.values} holds the value`,
    });
  const adds = [
    ...(hook && !keepsFirst(draft) ? [] : ['useState']),
    ...(stable.size ? ['useCallback'] : []),
    ...beside.adds.filter((name) => hook !== undefined || name !== 'useState'),
  ];
  const creates = hook?.text === undefined ? [] : [{ file: hook.file, text: hook.text }];
  const linesAt =
    (indent: string) =>
    (call: (name: string) => string): string[] => [
      ...hookLines(draft, call, [...stable.values()], indent),
      // `React.useState` where the file calls it so
      ...beside.lines.map((line) => line.replace(/(?<![.\w$])useState(?=[(<])/g, () => call('useState'))),
    ];
  edits.push(...stepEdits(model, context));
  const above = aboveText(draft);
  if (above) edits.push({ file: model.file, start: model.before, end: model.before, text: above });
  if (model.approach === 'field-state') {
    const states = model.declarations.filter(({ role }) => role === 'state').length;
    const usesLeft = (name: string): number =>
      namedReferences(script, name) - inEdits(script, name, beside.edits) - (isStateHook(script, name) ? states : 0);
    const drop = [...(adds.includes('useState') ? [] : ['useState']), ...namesIn(script, beside.edits)];
    const imports = reactImportEdits(script, { add: adds, drop }, usesLeft);
    edits.push(...imports.edits.map((edit) => ({ file: model.file, ...edit })));
    edits.push(
      ...removeStateEdits(model, script, (indent) =>
        linesAt(indent)(imports.call).join(`${context.style.newline}${indent}`),
      ),
    );
    edits.push(...unneeded(script, edits, beside.edits));
    if (hook && !call?.begins) edits.push(...hookImport(script, hook, alongside(draft), context, edits));
    return { edits, creates, deletes: [], dependencies: [], ledger };
  }
  const indent = indentAt(script.text, placeOfState(model).start);
  const known = [...edits, ...beside.edits];
  const retired = retireOldState(model, script, context.style, known, adds, linesAt(indent), ['support'], model.steps);
  edits.push(...retired.edits);
  ledger.push(...retiredEntries(model, retired.names));
  if (hook && !call?.begins) edits.push(...hookImport(script, hook, alongside(draft), context, edits));
  return { edits, creates, deletes: [], dependencies: [], ledger };
}

/** The members that a function with a list of dependencies calls now. */
function changersIn({ of }: DependUse, edits: RewritePlan['edits'], { hook, names }: Draft): string {
  if (!hook) return names.setter;
  const text = edits
    .filter(({ file, start, end }) => file === of.file && start >= of.start && end <= of.end)
    .map((edit) => edit.text)
    .join('\n');
  const called = [hook.one, names.setter, hook.reset, hook.look].filter(
    (name) => name !== '' && new RegExp(`(?<![\\w$.])${name}\\(`).test(text),
  );
  if (called.length) return called.join(', ');
  hook.called.add('one');
  return hook.one;
}

/** Whether a name is what the file calls `useState`. */
function isStateHook(script: Script, name: string): boolean {
  const declared = script.program.scope.getBinding(name)?.path.node;
  return t.isImportSpecifier(declared) ? t.isIdentifier(declared.imported, { name: 'useState' }) : name === 'useState';
}

/** What the file imports along with the hook: another hook that tells what the form stores. */
function alongside({ hook }: Draft): FurtherImports | undefined {
  const shown = hook?.file.calls.shown;
  if (!hook || shown?.by !== 'store') return undefined;
  return { names: [shown.hook === hook.shown ? shown.hook : `${shown.hook} as ${hook.shown}`], lines: [] };
}

/** How often a name stands in what the caller takes away. */
function inEdits(script: Script, name: string, edits: RewritePlan['edits']): number {
  return namesIn(script, edits).filter((one) => one === name).length;
}

/** The names that stand in what the caller takes away, as often as they do. */
function namesIn(script: Script, edits: RewritePlan['edits']): string[] {
  const names: string[] = [];
  const look = ({ node }: NodePath<t.Identifier>): void => {
    if (edits.some(({ start, end }) => (node.start ?? 0) >= start && (node.end ?? 0) <= end)) names.push(node.name);
  };
  if (edits.length) walk(script.program, { Identifier: look });
  return names;
}

/** Declarations that only code of the caller's needed, without those that have comments. */
function unneeded(script: Script, edits: RewritePlan['edits'], others: RewritePlan['edits']): RewritePlan['edits'] {
  if (!others.length) return [];
  const written = [...edits, ...others].map(({ text }) => text).join('\n');
  const retirement = retirementOf(script, others, written, () => false);
  return retirement.comments.length ? [] : retirement.edits.map((edit) => ({ file: script.file, ...edit }));
}

function unwritable(model: FormModel, context: WriteContext): LedgerEntry[] {
  // the type of all values tells that of each
  const entries: LedgerEntry[] = model.holder?.type === undefined ? untypedFields(model) : [];
  for (const use of model.uses) {
    if (use.kind === 'set' && !use.fresh && !use.statement && !use.arrowBody && use.assignments.length) {
      const early = workedOutAtOnce(use.assignments, { context });
      if (early.length && !use.whole)
        entries.push(
          placeByHand(
            use.span,
            context,
            'its value has to be worked out at once, in a statement of its own; move the call out of this expression first',
          ),
        );
    }
    if (!/^(reset|ask|watch)$/.test(use.kind)) continue;
    entries.push(placeByHand(use.span, context, 'this place cannot be said with a state variable yet'));
  }
  return entries;
}

function accountOf(use: Use, draft: Draft): LedgerEntry {
  const { values, setter } = draft.names;
  const fields =
    use.kind === 'set' || use.kind === 'made-handler' ? use.assignments.map(({ field }) => field).join(', ') : '';
  if (isControlUse(use))
    return { entry: 'kept', span: use.span, what: 'the form as a whole', why: 'nothing asks for it' };
  switch (use.kind) {
    case 'read':
      return {
        entry: 'kept',
        span: use.span,
        what: `read of ${use.field}`,
        why: `the value now comes out of ${values}`,
      };
    case 'read-all':
      return { entry: 'kept', span: use.span, what: 'all values read', why: `${values} holds them` };
    case 'depend':
      return {
        entry: 'carried',
        span: use.span,
        what: 'dependency',
        why: `${setter} takes its place; neither ever changes`,
      };
    case 'hand-on':
      return {
        entry: 'carried',
        span: use.span,
        what: `setter of ${use.field} handed on`,
        why: `a function that calls ${setter} is handed on instead`,
      };
    case 'set':
    case 'made-handler':
    case 'set-named':
      return {
        entry: 'carried',
        span: use.span,
        what: `change of ${fields || 'a field by its name'}`,
        why: `${setter} makes it`,
      };
    case 'hand-on-all':
      return { entry: 'carried', span: use.span, what: 'setter of all values', why: `${setter} is handed on` };
    case 'set-all':
      return { entry: 'carried', span: use.span, what: 'change of several fields', why: `${setter} makes it` };
    default: {
      const never: never = use;
      return never;
    }
  }
}
