import { keptEntries } from '../kept-entries.js';
import { movedText, outermostUses, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { isControlUse, type HandOnUse, type Use } from '../../form/uses.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import { indentAt } from '../../source/style.js';
import { placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { reactImportEdits } from '../import-edits.js';
import { dependencyEdits, placeOfState, removeStateEdits } from '../state-edits.js';
import { namedReferences } from '../references.js';
import { actionCollector } from './actions.js';
import { changeRuns } from '../change-runs.js';
import { untoldStart } from '../untold-start.js';
import { untypedFields } from '../untyped-fields.js';
import { retiredDeclarations, retiredEntries, retireOldState } from '../old-state.js';
import { declarationsText } from './declarations.js';
import { type ReducerDraft, namesFor } from './draft.js';
import { isEntangled, textOfUse, startsAttributeLine, runText } from './dispatches.js';
import { stableName, handlerText } from './handed-setters.js';

/**
 * Writes a form whose fields a reducer holds: types and a pure reducer above the component, one `useReducer` in it,
 * and a dispatch in place of each update. Reads keep their names, which now come out of the reducer's state.
 */
export function writeReducer(model: FormModel, context: WriteContext): RewritePlan {
  const script = context.script(model.file);
  const ledger: LedgerEntry[] = [];
  const byHand = [...unwritable(model), ...untoldStart(model, context)];
  if (byHand.length) return { edits: [], creates: [], deletes: [], ledger: byHand, dependencies: [] };

  const printer: CodePrinter = {
    textOf: (file) => context.script(file).text,
    uses: model.uses,
    use: (use) => useText(use),
    hole: (hole) => movedText(hole, printer),
  };
  const draft: ReducerDraft = {
    model,
    context,
    names: namesFor(model, context),
    printer,
    actions: actionCollector(model, printer),
    needs: { changed: false, reset: false, named: false, replaced: false, updated: false, guardedFields: [] },
  };
  const useText = (use: Use): string | undefined => textOfUse(use, draft);
  const apart = entangled(draft);
  if (apart.length) return { edits: [], creates: [], deletes: [], ledger: apart, dependencies: [] };

  const runs = changeRuns(model, script.text);
  const edits: RewritePlan['edits'] = [];
  const inRun = new Set(runs.flatMap((run) => run.uses));
  const stable = new Map<string, HandOnUse>();
  const support = retiredDeclarations(model, ['support']);
  const inSupport = (use: Use): boolean =>
    support.some(({ span }) => use.span.start >= span.start && use.span.end <= span.end);
  for (const use of outermostUses(model.uses.filter((one) => !inSupport(one)))) {
    if (use.kind === 'set' && inRun.has(use)) continue;
    if (use.kind === 'hand-on' && use.stable) stable.set(use.field, use);
    const text = textOfUse(use, draft);
    if (text !== undefined) edits.push(placed(use, text, draft));
  }
  for (const run of runs) edits.push({ file: model.file, start: run.start, end: run.end, text: runText(run, draft) });
  edits.push(...dependencyEdits(model, draft.names.dispatch, context.text));

  for (const use of model.uses) ledger.push(accountOf(use, draft));
  ledger.push(
    ...keptEntries(model, {
      control: 'it shows the same name and its events reach the reducer',
      rule: 'it reads the same names',
    }),
  );
  for (const other of model.others) {
    ledger.push({
      entry: 'kept',
      span: lineSpan(model, context, other.line),
      what: `state variable ${other.name}`,
      why: other.why,
    });
  }
  for (const declaration of model.declarations) {
    ledger.push({
      entry: declaration.role === 'alias' || declaration.span.file !== model.file ? 'kept' : 'carried',
      span: declaration.span,
      what: declaration.what,
      why: `its initial value stands in ${draft.names.initial}`,
    });
  }

  if (model.approach !== 'field-state') {
    const declared = declarationsText(draft);
    if (declared.above) edits.push({ file: model.file, start: model.before, end: model.before, text: declared.above });
    const indent = indentAt(script.text, placeOfState(model).start);
    const adds = ['useReducer', ...(stable.size ? ['useCallback'] : [])];
    const lines = (call: (name: string) => string): string[] => [
      hookText(draft, declared.initial, call, [...stable.values()])(indent),
    ];
    const retired = retireOldState(model, script, context.style, edits, adds, lines, ['support']);
    ledger.push(...retiredEntries(model, retired.names));
    return { edits: [...edits, ...retired.edits], creates: [], deletes: [], ledger, dependencies: [] };
  }
  const usesLeft = (name: string): number =>
    namedReferences(script, name) - model.declarations.filter((declaration) => declaration.role === 'state').length;
  const wishes = ['useReducer', ...(stable.size ? ['useCallback'] : [])];
  const imports = reactImportEdits(script, { add: wishes, drop: ['useState'] }, usesLeft);
  edits.push(...imports.edits.map((edit) => ({ file: model.file, ...edit })));

  const declared = declarationsText(draft);
  edits.push({ file: model.file, start: model.before, end: model.before, text: declared.above });
  edits.push(...removeStateEdits(model, script, hookText(draft, declared.initial, imports.call, [...stable.values()])));
  return { edits, creates: [], deletes: [], ledger, dependencies: [] };
}

function lineSpan(model: FormModel, context: WriteContext, line: number): LedgerEntry['span'] {
  const { text } = context.script(model.file);
  let start = 0;
  for (let count = 1; count < line; count++) start = text.indexOf('\n', start) + 1;
  return { file: model.file, start, end: start };
}

/** What keeps the form from becoming a reducer, as entries left by hand. */
function unwritable(model: FormModel): LedgerEntry[] {
  const entries: LedgerEntry[] = [...unclearEntries(model), ...untypedFields(model)];
  for (const use of model.uses) {
    const kept = use.kind === 'hand-on-all' && use.stable;
    if (kept || /^(reset|ask|watch)$/.test(use.kind) || (use.kind === 'read-all' && !model.holder)) {
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what: 'values read or set together',
        why: kept
          ? 'it is handed to something that needs the same function at every render'
          : 'this place cannot be said as an action yet',
      });
    }
  }
  return entries;
}

/** An arrow function's body that grew too long for its line moves to a line of its own. */
export function placed(use: Use, text: string, draft: ReducerDraft): RewritePlan['edits'][number] {
  const { style } = draft.context;
  const source = draft.context.script(use.span.file).text;
  const lineStart = source.lastIndexOf('\n', use.span.start - 1) + 1;
  const { start, end } = use.span;
  if (
    use.kind !== 'set' ||
    !startsAttributeLine(use, source) ||
    text.includes('\n') ||
    start - lineStart + text.length < style.width
  ) {
    return { file: use.span.file, start, end, text };
  }
  const indent = indentAt(source, start);
  let from = start;
  while (source[from - 1] === ' ') from--;
  return {
    file: use.span.file,
    start: from,
    end,
    text: `${style.newline}${indent}${style.indent}${text}${style.newline}${indent}`,
  };
}

/** Changes that cannot be told apart: a value is computed from another one that changes with it. */
function entangled({ model, context, printer }: ReducerDraft): LedgerEntry[] {
  return model.uses.flatMap((use): LedgerEntry[] => {
    if (use.kind !== 'set' || use.whole || use.resetsAll || !isEntangled(use)) return [];
    if (actionCollector(model, printer).actionForAll(use)) return [];
    return [placeByHand(use.span, context, 'values are computed from one another in one step here')];
  });
}

/** The line of the component that asks for the reducer, and handlers that have to stay the same at every render. */
function hookText(
  draft: ReducerDraft,
  initial: { argument: string | Group; once: boolean },
  call: (name: string) => string,
  stable: HandOnUse[],
): (indent: string) => string {
  const { model, names, context } = draft;
  const { style } = context;
  const read = new Set(model.uses.filter((use) => use.kind === 'read').map((use) => use.field));
  const pattern: Item[] = model.fields
    .filter((field) => read.has(field.name))
    .map((field) => {
      const local = field.names.value ?? field.name;
      return { lead: '', value: local === field.name ? local : `${field.name}: ${local}` };
    });
  return (indent) => {
    const start = `${call('useReducer')}(${names.reducer}, ${initial.once ? 'null, ' : ''}`;
    const reducerCall: Group =
      typeof initial.argument === 'string'
        ? { open: `${start}${initial.argument}`, close: ')', items: [] }
        : { open: start + initial.argument.open, close: `${initial.argument.close})`, items: initial.argument.items };
    if (draft.model.holder) {
      const lead = `const [${names.stateVariable}, ${names.dispatch}] = `;
      const lines = [
        `${lead}${laidOut(reducerCall, style, indent, indent.length + lead.length + 1)}${style.semicolon}`,
      ];
      for (const use of stable)
        lines.push(
          `const ${stableName(use)} = ${call('useCallback')}(${handlerText(use, draft)}, [])${style.semicolon}`,
        );
      return lines.join(`${style.newline}${indent}`);
    }
    const flatCall = laidOut(reducerCall, { ...style, width: 10_000 }, indent, 0);
    const flatPattern = laidOut({ open: '{', close: '}', items: pattern }, { ...style, width: 10_000 }, indent, 0);
    const whole = `const [${flatPattern}, ${names.dispatch}] = ${flatCall}${style.semicolon}`;
    const lines: string[] = [];
    if (!flatCall.includes('\n') && indent.length + whole.length <= style.width) lines.push(whole);
    else {
      const lead = `const [${names.stateVariable}, ${names.dispatch}] = `;
      const hooked = laidOut(reducerCall, style, indent, indent.length + lead.length + 1);
      lines.push(`${lead}${hooked}${style.semicolon}`);
      const taken = laidOut(
        { open: 'const {', close: `} = ${names.stateVariable}`, items: pattern },
        style,
        indent,
        indent.length + 1,
      );
      lines.push(`${taken}${style.semicolon}`);
    }
    for (const use of new Map(stable.map((one) => [one.field, one])).values()) {
      lines.push(`const ${stableName(use)} = ${call('useCallback')}(${handlerText(use, draft)}, [])${style.semicolon}`);
    }
    return lines.join(`${style.newline}${indent}`);
  };
}

function accountOf(use: Use, draft: ReducerDraft): LedgerEntry {
  const { names } = draft;
  const together = `they are ${names.reducer}'s state now`;
  if (isControlUse(use)) return { entry: 'carried', span: use.span, what: 'values together', why: together };
  switch (use.kind) {
    case 'read':
      return {
        entry: 'kept',
        span: use.span,
        what: `read of ${use.field}`,
        why: `the name now comes out of ${names.reducer}'s state`,
      };
    case 'set':
      return {
        entry: 'carried',
        span: use.span,
        what: `change of ${use.assignments.map(({ field }) => field).join(', ')}`,
        why: `it is an action of ${names.reducer} now`,
      };
    case 'hand-on':
      return {
        entry: 'carried',
        span: use.span,
        what: `setter of ${use.field} handed on`,
        why: `a function that dispatches is handed on instead`,
      };
    case 'depend':
      return {
        entry: 'carried',
        span: use.span,
        what: 'setter in a dependency list',
        why: `${names.dispatch} takes its place; neither ever changes`,
      };
    case 'hand-on-all':
      return {
        entry: 'carried',
        span: use.span,
        what: 'setter of all values handed on',
        why: 'a function that dispatches is handed on instead',
      };
    case 'read-all':
      return {
        entry: 'carried',
        span: use.span,
        what: 'values together',
        why: together,
        untouched: true,
      };
    case 'set-named':
    case 'made-handler':
    case 'set-all':
      return {
        entry: 'carried',
        span: use.span,
        what: 'values together',
        why: together,
      };
    default: {
      const never: never = use;
      return never;
    }
  }
}
