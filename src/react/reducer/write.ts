import { functionAt } from '../handed-functions.js';
import { codeText, movedText, outermostUses, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type {
  Field,
  FormModel,
  HandOnAllUse,
  HandOnUse,
  MadeHandlerUse,
  SetNamedUse,
  SetUse,
  Use,
} from '../../form/model.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import { indentAt, quoted } from '../../source/style.js';
import type { WriteContext } from '../../form/writing.js';
import { reactImportEdits } from '../import-edits.js';
import { dependencyEdits, placeOfState, removeStateEdits } from '../state-edits.js';
import { baseNameOf, pascal } from '../form-names.js';
import { namedReferences } from '../references.js';
import { actionCollector, type ActionCollector } from './actions.js';
import { changeRuns, type ChangeRun } from '../change-runs.js';
import { startsAsConstants, valueOf } from '../initial-values.js';
import { retiredDeclarations, retireOldState } from '../old-state.js';
import { declarationsText } from './declarations.js';

/** Names that a form's reducer is known by. */
export interface ReducerNames {
  state: string;
  action: string;
  reducer: string;
  initial: string;
  dispatch: string;
  stateVariable: string;
}

/** What the parts of the writer share while one form is written. */
export interface ReducerDraft {
  model: FormModel;
  context: WriteContext;
  names: ReducerNames;
  printer: CodePrinter;
  actions: ActionCollector;
  /** Whether the component needs an action that changes fields to given values, and one that resets. */
  needs: { changed: boolean; reset: boolean; named: boolean; replaced: boolean; guardedFields: string[] };
}

function namesFor(model: FormModel, context: WriteContext): ReducerNames {
  const base = baseNameOf(model);
  const full = pascal(model.name);
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const lowerFull = full.charAt(0).toLowerCase() + full.slice(1);
  return {
    state: model.holder?.type ?? context.freeName(`${base}State`, `${full}State`, `${base}Values`),
    action: context.freeName(`${base}Action`, `${full}Action`),
    reducer: context.freeName(`${lower}Reducer`, `${lowerFull}Reducer`),
    initial: model.holder?.initial ?? context.freeName(`initial${base}`, `initial${full}`, `initial${base}State`),
    dispatch: model.shared
      ? context.freeName(`dispatch${base}`, `dispatch${full}`)
      : context.freeName('dispatch', `dispatch${base}`),
    stateVariable: model.holder
      ? model.holder.name
      : model.shared
        ? context.freeName(`${lower}State`, `${lowerFull}Values`)
        : context.freeName('state', 'values', `${lower}Values`),
  };
}

/**
 * Writes a form whose fields a reducer holds: types and a pure reducer above the component, one `useReducer` in it,
 * and a dispatch in place of each update. Reads keep their names, which now come out of the reducer's state.
 */
export function writeReducer(model: FormModel, context: WriteContext): RewritePlan {
  const script = context.script(model.file);
  const ledger: LedgerEntry[] = [];
  const byHand = [...unwritable(model), ...entangled(model, context)];
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
    needs: { changed: false, reset: false, named: false, replaced: false, guardedFields: [] },
  };
  const useText = (use: Use): string | undefined => textOfUse(use, draft);

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
  for (const control of model.controls) {
    ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same name and its events reach the reducer',
    });
  }
  for (const rule of model.rules)
    ledger.push({ entry: 'kept', span: rule.span, what: rule.condition, why: 'it reads the same names' });
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
      entry: 'carried',
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
  const entries: LedgerEntry[] = model.unclear.map(({ span, what, why }) => ({ entry: 'by-hand', span, what, why }));
  for (const field of model.fields) {
    if (model.typescript && field.type === undefined) {
      entries.push({
        entry: 'by-hand',
        span: field.declared,
        what: `type of ${field.name}`,
        why: `its initial value ${field.initial.text} does not tell it; write useState<…> with the type first`,
      });
    }
  }
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

function fieldNamed(draft: ReducerDraft, name: string): Field {
  const field = draft.model.fields.find((candidate) => candidate.name === name);
  if (!field) throw new Error(`no field ${name}`);
  return field;
}

/** An arrow function's body that grew too long for its line moves to a line of its own. */
function placed(use: Use, text: string, draft: ReducerDraft): RewritePlan['edits'][number] {
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

/** The text that takes the place of a use; undefined where it stays. */
function textOfUse(use: Use, draft: ReducerDraft): string | undefined {
  switch (use.kind) {
    case 'read':
    case 'depend':
      return undefined;
    case 'set':
      return dispatchOf([use], draft, use.span.start);
    case 'hand-on':
      return handOnText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return `${use.parameters} => ${dispatchOf([asSet(use)], draft, use.span.start)}`;
    case 'hand-on-all':
      return handOnAllText(use, draft);
    case 'set-all':
      draft.needs.changed = true;
      return `${draft.names.dispatch}({ type: ${str(draft, 'changed')}, ${flatProperty('values', codeText(use.code, draft.printer))} })`;
    case 'read-all':
    case 'reset':
    case 'ask':
    case 'watch':
    case 'rows':
    case 'change-rows':
    case 'make-row':
      return undefined;
    default: {
      const never: never = use;
      return never;
    }
  }
}

function asSet(use: MadeHandlerUse): SetUse {
  return {
    ...use,
    kind: 'set',
    resetsAll: false,
    statement: undefined,
    arrowBody: false,
    fresh: true,
    repeats: false,
    called: undefined,
  };
}

/** The dispatch that changes a field whose name is told when the form runs. */
function namedText(use: SetNamedUse, draft: ReducerDraft): string {
  draft.needs.named = true;
  const parts = [
    `type: ${str(draft, 'fieldChanged')}`,
    flatProperty('name', codeText(use.key, draft.printer)),
    flatProperty('value', codeText(use.value, draft.printer)),
  ];
  const named = `${draft.names.dispatch}({ ${parts.join(', ')} })`;
  if (!use.rest.length) return named;
  const rest = use.rest.map(({ field, value }) => property(field, valueText(value, draft, field)));
  const group = changeGroup(draft, rest);
  return `${named}${draft.context.style.semicolon} ${draft.names.dispatch}(${laidOut(group, { ...draft.context.style, width: 10_000 }, '', 0)})`;
}

function flatProperty(name: string, value: string): string {
  return value === name ? name : `${name}: ${value}`;
}

function str(draft: ReducerDraft, text: string): string {
  return quoted(text, draft.context.style);
}

function property(name: string, value: string): Item {
  return value === name ? { lead: '', value: name } : { lead: `${name}: `, value };
}

function changeGroup(draft: ReducerDraft, values: Item[]): Group {
  draft.needs.changed = true;
  return {
    open: '{',
    close: '}',
    items: [
      { lead: 'type: ', value: str(draft, 'changed') },
      { lead: 'values: ', value: { open: '{', close: '}', items: values } },
    ],
  };
}

/** A change of several values, some of them computed from the ones before: each of these is an action of its own. */
function separate(use: SetUse): SetUse[] | undefined {
  const computed = use.assignments.filter(({ value }) => value.kind === 'from-previous');
  if (!computed.length || use.assignments.length < 2 || use.resetsAll) return undefined;
  const rest = use.assignments.filter(({ value }) => value.kind !== 'from-previous');
  const parts = [...(rest.length ? [rest] : []), ...computed.map((one) => [one])];
  return parts.map((assignments) => ({ ...use, assignments, statement: undefined, arrowBody: false }));
}

/** Changes that cannot be told apart: a value is computed from another one that changes with it. */
function entangled(model: FormModel, context: WriteContext): LedgerEntry[] {
  return model.uses.flatMap((use): LedgerEntry[] => {
    if (use.kind !== 'set' || !separate(use)) return [];
    const changed = use.assignments.map(({ field }) => field);
    const mixed = use.assignments.some(
      ({ field, value }) =>
        value.kind === 'from-previous' && value.reads.some((read) => read !== field && changed.includes(read)),
    );
    if (!mixed) return [];
    const what = context.text(use.span.file).slice(use.span.start, use.span.end);
    return [{ entry: 'by-hand', span: use.span, what, why: 'values are computed from one another in one step here' }];
  });
}

function separateText(use: SetUse, parts: readonly SetUse[], draft: ReducerDraft): string {
  const { style } = draft.context;
  const source = draft.context.text(use.span.file);
  const indent = indentAt(source, use.span.start);
  const calls = parts.map((part) => dispatchOf([part], draft, use.span.start));
  if (use.statement) return calls.join(`${style.semicolon || ';'}${style.newline}${indent}`);
  if (!use.arrowBody) return `(${calls.join(', ')})`;
  const lines = calls.map((call) => `${indent}${style.indent}${call}${style.semicolon}${style.newline}`).join('');
  return `{${style.newline}${lines}${indent}}`;
}

/** The dispatch that makes the changes of one or several uses. */
function dispatchOf(uses: readonly SetUse[], draft: ReducerDraft, start: number): string {
  const [only, ...others] = uses;
  const parts = only && !others.length ? separate(only) : undefined;
  if (only && parts) return separateText(only, parts, draft);
  const { style } = draft.context;
  const source = draft.context.script(draft.model.file).text;
  const group = actionGroup(uses, draft);
  const indent = indentAt(source, start);
  const lineStart = source.lastIndexOf('\n', start - 1) + 1;
  const first = uses[0];
  const used =
    first?.arrowBody !== true
      ? start - lineStart + 1
      : startsAttributeLine(first, source)
        ? indent.length + style.indent.length
        : 0;
  const call = { ...group, open: `${draft.names.dispatch}(${group.open}`, close: `${group.close})` };
  return laidOut(call, style, indent, used);
}

/** Whether a change is the body of a handler whose attribute stands alone on its line. */
function startsAttributeLine(use: SetUse, source: string): boolean {
  const lineStart = source.lastIndexOf('\n', use.span.start - 1) + 1;
  return (
    use.arrowBody &&
    source[use.span.end] === '}' &&
    /^\s*[\w-]+=\{[^{}]*=>\s*$/.test(source.slice(lineStart, use.span.start))
  );
}

function actionGroup(uses: readonly SetUse[], draft: ReducerDraft): Group {
  const first = uses[0];
  const assignment = first?.assignments[0];
  if (!first || !assignment) throw new Error('a change without an assignment');
  const field = fieldNamed(draft, assignment.field);
  if (first.resetsAll && startsAsConstants(draft.model)) {
    draft.needs.reset = true;
    return { open: '{', close: '}', items: [{ lead: 'type: ', value: str(draft, 'reset') }] };
  }
  if (assignment.value.kind === 'from-previous') {
    const action = draft.actions.actionFor(field, assignment.value, first);
    const items = [
      { lead: 'type: ', value: str(draft, action.type) },
      ...action.payload.map(({ name, argument }) => property(name, argument)),
    ];
    return { open: '{', close: '}', items };
  }
  const values = uses
    .flatMap((use) => use.assignments)
    .map(({ field: name, value }) => property(name, valueText(value, draft, name)));
  if (first.repeats && values[0]) {
    if (!draft.needs.guardedFields.includes(field.name)) draft.needs.guardedFields.push(field.name);
    return { open: '{', close: '}', items: [{ lead: 'type: ', value: str(draft, `${field.name}Changed`) }, values[0]] };
  }
  return changeGroup(draft, values);
}

function valueText(value: SetUse['assignments'][number]['value'], draft: ReducerDraft, field: string): string {
  if (value.kind === 'initial') return valueOf(fieldNamed(draft, field), draft.printer);
  if (value.kind === 'from-previous') throw new Error(`the change of ${field} is computed from its previous value`);
  return codeText(value.code, draft.printer) || 'undefined';
}

function runText(run: ChangeRun, draft: ReducerDraft): string {
  if (run.resetsAll) {
    draft.needs.reset = true;
    return `${draft.names.dispatch}({ type: ${str(draft, 'reset')} })`;
  }
  return dispatchOf(run.uses, draft, run.start);
}

/** A function that takes the place of a setter that is handed on. */
function handOnText(use: HandOnUse, draft: ReducerDraft): string {
  const text = use.stable
    ? stableName(use)
    : functionAt(handlerText(use, draft), draft.context.text(use.span.file), use.span);
  return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
}

/** A function that takes all values, in the place of the setter of their object. */
function handOnAllText(use: HandOnAllUse, draft: ReducerDraft): string {
  const { names, model } = draft;
  const typed = model.typescript && !use.typed;
  const quotedType = (type: string): string => str(draft, type);
  if (use.takes === 'value') draft.needs.changed = true;
  else draft.needs.replaced = true;
  const text =
    use.takes === 'value'
      ? `(values${typed ? `: ${names.state}` : ''}) => ${names.dispatch}({ type: ${quotedType('changed')}, values })`
      : `(next${typed ? `: ${names.state} | ((state: ${names.state}) => ${names.state})` : ''}) => ${names.dispatch}({ type: ${quotedType('replaced')}, next })`;
  const placed = functionAt(text, draft.context.text(use.span.file), use.span);
  return use.shorthand === undefined ? placed : `${use.shorthand}: ${placed}`;
}

function stableName(use: HandOnUse): string {
  return `change${pascal(use.field)}`;
}

function handlerText(use: HandOnUse, draft: ReducerDraft): string {
  const field = fieldNamed(draft, use.field);
  const { typescript } = draft.model;
  const type = field.type ?? 'unknown';
  const parameter = use.field;
  draft.needs.changed = true;
  const change = `{ type: ${str(draft, 'changed')}, values: { ${parameter} } }`;
  if (use.takes === 'value') {
    const written = typescript && (!use.typed || use.stable) ? `(${parameter}: ${type})` : `(${parameter})`;
    return `${written} => ${draft.names.dispatch}(${change})`;
  }
  const value = 'next';
  const update = draft.actions.actionFor(
    field,
    {
      kind: 'from-previous',
      body: { ...field.declared, holes: [] },
      block: false,
      reads: [field.name],
      parameter: undefined,
      // the function that is handed over stays what it is
      whole: { ...field.declared, holes: [] },
    },
    { ...setLike(use), repeats: false },
  );
  const written = typescript ? `(${value}: ${type} | ((${field.name}: ${type}) => ${type}))` : `(${value})`;
  const asChange = `{ type: ${str(draft, 'changed')}, values: { ${field.name}: ${value} } }`;
  return `${written} => ${draft.names.dispatch}(typeof ${value} === ${str(draft, 'function')} ? { type: ${str(draft, update.type)}, update: ${value} } : ${asChange})`;
}

function setLike(use: HandOnUse): SetUse {
  return {
    kind: 'set',
    span: use.span,
    where: use.where,
    assignments: [],
    resetsAll: false,
    statement: undefined,
    arrowBody: false,
    fresh: false,
    repeats: false,
    called: undefined,
  };
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
    case 'set-named':
    case 'made-handler':
    case 'set-all':
    case 'reset':
    case 'ask':
    case 'watch':
    case 'rows':
    case 'change-rows':
    case 'make-row':
      return {
        entry: 'carried',
        span: use.span,
        what: 'values together',
        why: `they are ${names.reducer}'s state now`,
      };
    default: {
      const never: never = use;
      return never;
    }
  }
}
