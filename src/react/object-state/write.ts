import * as t from '@babel/types';
import { codeText, movedText, outermostUses, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Assignment, Field, FormModel, HandOnUse, SetNamedUse, SetUse, Use } from '../../form/model.js';
import { leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { laidOut, type Item } from '../../source/layout.js';
import type { Script } from '../../source/script.js';
import { indentAt, quoted } from '../../source/style.js';
import { hookMembers, type HookFile } from '../own-hook/hook-file.js';
import { changeRuns, type ChangeRun } from '../change-runs.js';
import { baseNameOf, pascal } from '../form-names.js';
import { initialItems, membersText, startsAsConstants, valueOf } from '../initial-values.js';
import { retiredDeclarations, retireOldState } from '../old-state.js';
import { dependencyEdits, placeOfState, removeStateEdits } from '../state-edits.js';
import { functionAt, isOneBlock } from '../handed-functions.js';
import { reactImportEdits } from '../import-edits.js';
import { retirementOf } from '../retirement.js';
import { namedReferences } from '../references.js';

/** How a form asks a generated hook for its values, where that takes more than what they begin as. */
export interface HookCall {
  /** The variable that holds the values; a free name where left out. */
  values?: string;
  /** What the hook begins with, where that is no object of values; the caller writes what stands above then. */
  begins?: { arguments: string; type: string | undefined };
  /** A further argument behind what the form begins as. */
  more?: string | undefined;
  /** Further members that the component takes, with the names they get: `errors: problems`. */
  also: string[];
}

/** What the caller does along with the rewrite of the state. */
export interface Beside {
  /** Edits of the caller's own: what stands there goes. */
  edits: RewritePlan['edits'];
  /** Lines that stand below the new state, and the names of React that they need. */
  lines: string[];
  adds: string[];
}

/** What a file imports of a generated file beside the hook, and lines of imports that stand along with it. */
export interface FurtherImports {
  names: string[];
  lines: string[];
}

interface Draft {
  call: HookCall | undefined;
  model: FormModel;
  context: WriteContext;
  /** The variable that holds the values, its setter, and the names of its type and of what it begins as. */
  names: { values: string; setter: string; type: string; initial: string };
  printer: CodePrinter;
  needs: { reset: boolean; values: boolean };
  /** The project's hook that holds the object, where no state variable does; and its members that are called. */
  hook: { file: HookFile; one: string; reset: string; called: Set<'one' | 'all' | 'reset'> } | undefined;
}

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
  const byHand = [...unclearEntries(model), ...unwritable(model, context)];
  if (byHand.length) return leftByHand(byHand);
  const script = context.script(model.file);
  const draft: Draft = {
    call,
    model,
    context,
    names: namesFor(model, context, call?.values),
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => movedText(hole, draft.printer),
    },
    needs: { reset: false, values: false },
    hook: hook && {
      file: hook,
      one: context.freeName(hookMembers.one, `set${pascal(baseNameOf(model))}Value`),
      reset: context.freeName(hookMembers.reset, `reset${pascal(baseNameOf(model))}`),
      called: new Set(),
    },
  };
  const edits: RewritePlan['edits'] = [];
  const support = retiredDeclarations(model, ['support']);
  const inSupport = (use: Use): boolean =>
    support.some(({ span }) => use.span.start >= span.start && use.span.end <= span.end);
  const runs = changeRuns(model, script.text);
  const inRun = new Set(runs.flatMap((run) => run.uses));
  const stable = new Map<string, HandOnUse>();
  const ledger: LedgerEntry[] = [];
  for (const use of outermostUses(model.uses.filter((one) => !inSupport(one)))) {
    if (use.kind === 'set' && inRun.has(use)) continue;
    if (use.kind === 'hand-on' && use.stable) stable.set(use.field, use);
    if (use.kind === 'depend') continue;
    if (use.kind === 'hand-on') draft.hook?.called.add('one');
    const text = useText(use, draft);
    if (text !== undefined) edits.push({ ...use.span, text });
  }
  for (const run of runs) edits.push({ file: model.file, start: run.start, end: run.end, text: runText(run, draft) });
  if (model.uses.some(({ kind }) => kind === 'depend')) draft.hook?.called.add('one');
  edits.push(...dependencyEdits(model, draft.hook?.one ?? draft.names.setter, context.text));
  for (const use of model.uses) ledger.push(accountOf(use, draft));
  for (const control of model.controls)
    ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same value',
    });
  for (const rule of model.rules)
    ledger.push({ entry: 'kept', span: rule.span, what: rule.condition, why: 'it reads the same values' });
  for (const declaration of model.declarations)
    ledger.push({
      entry: declaration.role === 'support' ? 'retired' : declaration.role === 'alias' ? 'kept' : 'carried',
      span: declaration.span,
      what: declaration.what,
      why:
        declaration.role === 'support'
          ? `${draft.names.setter} does its work`
          : `${draft.names.values} holds the value`,
    });
  const adds = [
    ...(hook ? [] : ['useState']),
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
  const above = aboveText(draft);
  if (above) edits.push({ file: model.file, start: model.before, end: model.before, text: above });
  if (model.approach === 'field-state') {
    const usesLeft = (name: string): number =>
      namedReferences(script, name) -
      inEdits(script, name, beside.edits) -
      model.declarations.filter(({ role }) => role === 'state').length +
      1;
    const drop = hook ? ['useState'] : [];
    const imports = reactImportEdits(script, { add: adds, drop }, (name) => usesLeft(name) - 1);
    edits.push(...imports.edits.map((edit) => ({ file: model.file, ...edit })));
    edits.push(
      ...removeStateEdits(model, script, (indent) =>
        linesAt(indent)(imports.call).join(`${context.style.newline}${indent}`),
      ),
    );
    if (hook && !call?.begins) edits.push(...hookImport(script, hook, undefined, context, edits));
    edits.push(...unneeded(script, edits, beside.edits));
    return { edits, creates, deletes: [], dependencies: [], ledger };
  }
  const indent = indentAt(script.text, placeOfState(model).start);
  const known = [...edits, ...beside.edits];
  const retired = retireOldState(model, script, context.style, known, adds, linesAt(indent), ['support']);
  edits.push(...retired.edits);
  if (hook && !call?.begins) edits.push(...hookImport(script, hook, undefined, context, edits));
  return { edits, creates, deletes: [], dependencies: [], ledger };
}

/** How often a name stands in what the caller takes away. */
function inEdits(script: Script, name: string, edits: RewritePlan['edits']): number {
  const references = script.program.scope.getBinding(name)?.referencePaths ?? [];
  return references.filter(({ node }) =>
    edits.some(({ start, end }) => (node.start ?? 0) >= start && (node.end ?? 0) <= end),
  ).length;
}

/** Declarations that only code of the caller's needed, without those that have comments. */
function unneeded(script: Script, edits: RewritePlan['edits'], others: RewritePlan['edits']): RewritePlan['edits'] {
  if (!others.length) return [];
  const written = [...edits, ...others].map(({ text }) => text).join('\n');
  const retirement = retirementOf(script, others, written, () => false);
  return retirement.comments.length ? [] : retirement.edits.map((edit) => ({ file: script.file, ...edit }));
}

/** A name for the variable that holds all values: the form's own, or a free one. */
export function valuesName(model: FormModel, context: WriteContext): string {
  const base = baseNameOf(model);
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  return (
    model.holder?.name ??
    (model.shared ? context.freeName(`${lower}Values`) : context.freeName('values', `${lower}Values`))
  );
}

function namesFor(model: FormModel, context: WriteContext, known: string | undefined): Draft['names'] {
  const base = baseNameOf(model);
  const values = known ?? valuesName(model, context);
  return {
    values,
    setter: context.freeName(`set${pascal(values)}`, `change${pascal(values)}`),
    type: model.holder?.type ?? context.freeName(`${base}Values`, `${base}State`),
    initial: model.holder?.initial ?? context.freeName(`initial${base}`, `empty${base}`),
  };
}

function unwritable(model: FormModel, context: WriteContext): LedgerEntry[] {
  const entries: LedgerEntry[] = [];
  for (const field of model.fields) {
    if (!model.typescript || field.type !== undefined || model.holder?.type !== undefined) continue;
    entries.push({
      entry: 'by-hand',
      span: field.declared,
      what: `type of ${field.name}`,
      why: `its initial value ${field.initial.text} does not tell it; write useState<…> with the type first`,
    });
  }
  for (const use of model.uses) {
    if (!/^(reset|ask|watch)$/.test(use.kind)) continue;
    entries.push({
      entry: 'by-hand',
      span: use.span,
      what: context.text(use.span.file).slice(use.span.start, use.span.end),
      why: 'this place cannot be said with a state variable yet',
    });
  }
  return entries;
}

/** A name for the previous values that stands nowhere in a text. */
function previousName(text: string): string {
  return ['prev', 'previous', 'before'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'previousValues';
}

function keyed(hole: { shorthand?: string }, text: string): string {
  return hole.shorthand !== undefined && hole.shorthand !== text ? `${hole.shorthand}: ${text}` : text;
}

/** Prints code of a change, in which the previous values have a name. */
function changeCode(code: Parameters<typeof codeText>[0], draft: Draft, previous: string, field: string): string {
  const printer: CodePrinter = {
    ...draft.printer,
    hole(hole) {
      switch (hole.kind) {
        case 'previous':
          return keyed(hole, `${previous}.${hole.field}`);
        case 'returned':
          return hole.unchanged ? previous : `{ ...${previous}, ${field}: ${codeText(hole.value, printer)} }`;
        case 'given':
        case 'text':
          return movedText(hole, printer);
        case 'captured':
          return undefined;
        default: {
          const never: never = hole;
          return never;
        }
      }
    },
  };
  return codeText(code, printer);
}

function property(name: string, value: string): string {
  return name === value ? name : `${name}: ${value}`;
}

/** Code whose value may be another one by the time React asks for it. */
const fleeting = /currentTarget|\.current\b|\.files\b|\bawait\b|\bnew Date\b|\bDate\.now|\brandom|\+\+|--/;

/** The setter call that makes some changes in one step. */
function setterCall(assignments: readonly Assignment[], draft: Draft, repeats: boolean): string {
  const one = oneSetterCall(assignments, draft);
  if (one !== undefined) return one;
  draft.hook?.called.add('all');
  const { setter, values } = draft.names;
  const source = assignments
    .map(({ value }) => (value.kind === 'value' ? value.code : value.kind === 'from-previous' ? value.body : undefined))
    .map((code) => (code ? draft.context.text(code.file).slice(code.start, code.end) : ''))
    .join(' ');
  const [first] = assignments;
  const named = first?.value.kind === 'from-previous' ? first.value.parameter : undefined;
  const fits = named !== undefined && (assignments.length === 1 || !/^\w$/.test(named));
  const previous = fits && first?.field !== named ? named : previousName(source);
  if (first?.value.kind === 'from-previous' && assignments.length === 1 && first.value.block) {
    const body = changeCode(first.value.body, draft, previous, first.field);
    const { newline, indent } = draft.context.style;
    const block = isOneBlock(body) ? body : `{${newline}${indent}${body}${newline}}`;
    return `${setter}((${previous}) => ${block})`;
  }
  const parts = assignments.map(({ field, value }) => {
    if (value.kind === 'initial') return property(field, valueOf(fieldNamed(draft, field), draft.printer));
    if (value.kind === 'value') return property(field, changeCode(value.code, draft, previous, field) || 'undefined');
    if (value.whole && value.body.start === value.whole.start && value.body.end === value.whole.end)
      return `${field}: (${changeCode(value.whole, draft, previous, field)})(${previous}.${field})`;
    return property(field, changeCode(value.body, draft, previous, field));
  });
  if (fleeting.test(source) && assignments.every(({ value }) => value.kind !== 'from-previous'))
    return `${setter}({ ...${values}, ${parts.join(', ')} })`;
  const next = `{ ...${previous}, ${parts.join(', ')} }`;
  if (repeats && first?.value.kind === 'value') {
    const value = changeCode(first.value.code, draft, previous, first.field);
    return `${setter}((${previous}) => (Object.is(${previous}.${first.field}, ${value}) ? ${previous} : ${next}))`;
  }
  return `${setter}((${previous}) => (${next}))`;
}

/** The call that changes one value of the hook's; undefined where the change is about more, or no hook holds it. */
function oneSetterCall(assignments: readonly Assignment[], draft: Draft): string | undefined {
  const [first, ...more] = assignments;
  if (!draft.hook || !first || more.length) return undefined;
  const { field, value } = first;
  const { quote } = draft.context.style;
  const start = `${draft.hook.one}(${quote}${field}${quote}, `;
  if (value.kind === 'from-previous') {
    if (value.reads.some((read) => read !== field)) return undefined;
    if (value.whole && value.body.start === value.whole.start && value.body.end === value.whole.end) {
      draft.hook.called.add('one');
      return `${start}${codeText(value.whole, draft.printer)})`;
    }
    const source = draft.context.text(value.body.file).slice(value.body.start, value.body.end);
    const previous = value.parameter ?? previousName(source);
    const printer: CodePrinter = {
      ...draft.printer,
      hole(hole) {
        if (hole.kind === 'previous') return keyed(hole, previous);
        if (hole.kind === 'returned') return hole.unchanged ? previous : codeText(hole.value, printer);
        return hole.kind === 'captured' ? undefined : movedText(hole, printer);
      },
    };
    const body = codeText(value.body, printer);
    if (value.block && !isOneBlock(body)) return undefined;
    draft.hook.called.add('one');
    return `${start}(${previous}) => ${/^\{/.test(body) && !value.block ? `(${body})` : body})`;
  }
  draft.hook.called.add('one');
  if (value.kind === 'initial') return `${start}${valueOf(fieldNamed(draft, field), draft.printer)})`;
  const text = changeCode(value.code, draft, 'previous', field) || 'undefined';
  return `${start}${text})`;
}

function fieldNamed(draft: Draft, name: string): Field {
  const field = draft.model.fields.find((candidate) => candidate.name === name);
  if (!field) throw new Error(`no field ${name}`);
  return field;
}

/** The object that the values begin as, where it stands by itself. */
function startText(draft: Draft): string {
  draft.needs.reset = true;
  return draft.names.initial;
}

function useText(use: Use, draft: Draft): string | undefined {
  switch (use.kind) {
    case 'read':
    case 'depend':
      return undefined;
    case 'read-all':
      draft.needs.values = true;
      return draft.model.holder ? undefined : draft.names.values;
    case 'set':
      return setText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return `${use.parameters} => ${setterCall(use.assignments, draft, false)}`;
    case 'hand-on': {
      const text = use.stable
        ? `change${pascal(use.field)}`
        : functionAt(handlerText(use, draft), draft.context.text(use.span.file), use.span);
      return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
    }
    case 'hand-on-all':
      draft.hook?.called.add('all');
      return use.shorthand === undefined ? draft.names.setter : `${use.shorthand}: ${draft.names.setter}`;
    case 'set-all': {
      draft.hook?.called.add('all');
      const code = codeText(use.code, draft.printer);
      const previous = previousName(code);
      return `${draft.names.setter}((${previous}) => ({ ...${previous}, ...${code} }))`;
    }
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

function setText(use: SetUse, draft: Draft): string {
  if (use.resetsAll && startsAsConstants(draft.model)) return resetText(draft);
  return setterCall(use.assignments, draft, use.repeats);
}

function resetText(draft: Draft): string {
  if (!draft.hook) return `${draft.names.setter}(${startText(draft)})`;
  draft.hook.called.add('reset');
  return `${draft.hook.reset}()`;
}

function runText(run: ChangeRun, draft: Draft): string {
  if (run.resetsAll) return resetText(draft);
  const assignments = run.uses.flatMap((use) => use.assignments);
  const last = assignments.filter(
    (one, index) => assignments.findLastIndex(({ field }) => field === one.field) === index,
  );
  return setterCall(last, draft, false);
}

function namedText(use: SetNamedUse, draft: Draft): string {
  const key = codeText(use.key, draft.printer);
  const value = codeText(use.value, draft.printer);
  draft.hook?.called.add('all');
  const previous = previousName(`${key} ${value}`);
  const rest = use.rest.map(({ field, value: given }) =>
    property(
      field,
      given.kind === 'initial'
        ? valueOf(fieldNamed(draft, field), draft.printer)
        : changeCode(given.kind === 'value' ? given.code : given.body, draft, previous, field),
    ),
  );
  return `${draft.names.setter}((${previous}) => ({ ...${previous}, ${[`[${key}]: ${value}`, ...rest].join(', ')} }))`;
}

/** A function that takes the place of a setter that is handed on. */
function handlerText(use: HandOnUse, draft: Draft): string {
  const type = fieldNamed(draft, use.field).type ?? 'unknown';
  const { typescript } = draft.model;
  const { setter } = draft.names;
  const typed = typescript && (!use.typed || use.stable);
  if (draft.hook) {
    draft.hook.called.add('one');
    const { quote } = draft.context.style;
    const name = use.takes === 'value' ? use.field : 'next';
    const own = use.takes === 'value' ? type : `${type} | ((${use.field}: ${type}) => ${type})`;
    return `(${name}${typed || (typescript && use.takes !== 'value') ? `: ${own}` : ''}) => ${draft.hook.one}(${quote}${use.field}${quote}, ${name})`;
  }
  if (use.takes === 'value')
    return `(${use.field}${typed ? `: ${type}` : ''}) => ${setter}((prev) => ({ ...prev, ${use.field} }))`;
  const parameter = typescript ? `(next: ${type} | ((${use.field}: ${type}) => ${type}))` : '(next)';
  const quote = draft.context.style.quote;
  return `${parameter} => ${setter}((prev) => ({ ...prev, ${use.field}: typeof next === ${quote}function${quote} ? next(prev.${use.field}) : next }))`;
}

/** Whether the initial object stands above the component: it is needed for a reset as well. */
function standsAbove(draft: Draft): boolean {
  return draft.needs.reset && draft.model.holder?.initial === undefined;
}

function isTyped({ model }: Draft): boolean {
  if (!model.typescript) return false;
  return (
    model.holder?.type !== undefined ||
    model.fields.some((field) => field.typeWritten || /^(\[\]|null|undefined)$/.test(field.initial.text))
  );
}

/** What stands above the component: the type of the values and the object they begin as, where they are needed. */
function aboveText(draft: Draft): string {
  const { model, names, context } = draft;
  const { style } = context;
  const parts: string[] = [];
  // what stands above a form with a schema is said along with the schema
  if (draft.call?.begins) return '';
  if (isTyped(draft) && model.holder?.type === undefined) parts.push(membersText(model, names.type, context));
  if (standsAbove(draft)) {
    const lead = `const ${names.initial}${isTyped(draft) ? `: ${names.type}` : ''} = `;
    const items = initialItems(model, draft.printer);
    parts.push(`${lead}${laidOut({ open: '{', close: '}', items }, style, '', lead.length + 1)}${style.semicolon}`);
  }
  return parts.length ? parts.join(style.newline + style.newline) + style.newline + style.newline : '';
}

/** The members of the hook that the component takes, under the names they get. */
function takenParts({ hook, names, needs, model, call }: Draft): string[] {
  const pair = (member: string, local: string): string => (member === local ? member : `${member}: ${local}`);
  const reads = needs.values || model.holder !== undefined || model.uses.some(({ kind }) => kind === 'read');
  return [
    ...(reads ? [pair(hookMembers.values, names.values)] : []),
    ...(hook?.called.has('one') ? [pair(hookMembers.one, hook.one)] : []),
    ...(hook?.called.has('all') ? [pair(hookMembers.all, names.setter)] : []),
    ...(hook?.called.has('reset') ? [pair(hookMembers.reset, hook.reset)] : []),
    ...(call?.also ?? []),
  ];
}

/** The pattern that takes the hook's members: in one line where it fits. */
function takenText(draft: Draft, call: string, indent: string): string {
  const { style } = draft.context;
  const parts = takenParts(draft);
  const line = `const { ${parts.join(', ')} } = `;
  if (indent.length + line.length + call.length + 12 <= style.width) return line;
  const inner = parts.map((part) => `${indent}${style.indent}${part},`);
  if (!style.trailingComma) inner.push((inner.pop() ?? '').slice(0, -1));
  return ['const {', ...inner, `${indent}} = `].join(style.newline);
}

/** The import of the project's hook, where the file lacks it. `others` are the edits made so far. */
export function hookImport(
  script: Script,
  hook: HookFile,
  further: FurtherImports | undefined,
  { style }: WriteContext,
  others: RewritePlan['edits'],
): RewritePlan['edits'] {
  const imports = script.ast.program.body.filter((node) => t.isImportDeclaration(node));
  const known = imports.find((node) => node.specifiers.some(({ local }) => local.name === hook.name));
  if (known) return importedBeside(known, script.file, further, style);
  const last = imports.at(-1);
  const names = [hook.name, ...(further?.names ?? [])].join(', ');
  const own = `import { ${names} } from ${quoted(hook.from, style)}${style.semicolon}`;
  const line = [own, ...(further?.lines ?? [])].join(style.newline);
  const start = last?.end ?? 0;
  // the last import may go itself, with its line
  const gone = others.find(
    (edit) => edit.file === script.file && edit.start < start && edit.end >= start && edit.text === '',
  );
  if (gone) return [{ file: script.file, start: gone.end, end: gone.end, text: line + style.newline }];
  return [{ file: script.file, start, end: start, text: last ? `${style.newline}${line}` : `${line}${style.newline}` }];
}

/** What a form needs of a hook that another form of the file has imported already. */
function importedBeside(
  known: t.ImportDeclaration,
  file: string,
  further: FurtherImports | undefined,
  style: WriteContext['style'],
): RewritePlan['edits'] {
  const there = new Set(known.specifiers.map(({ local }) => local.name));
  const names = (further?.names ?? []).filter((name) => !there.has(name.replace(/^type /, '')));
  const last = known.specifiers.at(-1)?.end ?? 0;
  const end = known.end ?? 0;
  return [
    ...(names.length ? [{ file, start: last, end: last, text: `, ${names.join(', ')}` }] : []),
    ...(further?.lines ?? []).map((line) => ({ file, start: end, end, text: `${style.newline}${line}` })),
  ];
}

/** The lines of the component that ask for the state, and handlers that stay the same at every render. */
function hookLines(draft: Draft, call: (name: string) => string, stable: HandOnUse[], indent: string): string[] {
  const { model, names, context } = draft;
  const { style } = context;
  const end = style.semicolon;
  const asked = draft.call?.begins;
  const typeName = asked ? asked.type : isTyped(draft) ? names.type : undefined;
  const type = typeName === undefined ? '' : `<${typeName}>`;
  const lead = draft.hook
    ? `${takenText(draft, `${draft.hook.file.name}${type}(`, indent)}${draft.hook.file.name}${type}(`
    : `const [${names.values}, ${names.setter}] = ${call('useState')}${type}(`;
  const once = model.fields.some((field) => field.initial.when === 'once');
  const literal = laidOut(
    { open: once ? '() => ({' : '{', close: once ? '})' : '}', items: initialItems(model, draft.printer) },
    style,
    indent,
    indent.length + lead.length + 2,
  );
  const above = draft.needs.reset ? names.initial : model.holder?.initial;
  const more = draft.call?.more === undefined ? '' : `, ${draft.call.more}`;
  const lines = [`${lead}${asked?.arguments ?? above ?? literal}${more})${end}`];
  const read = new Set(model.uses.filter((use) => use.kind === 'read').map((use) => use.field));
  const pattern: Item[] = model.fields
    .filter((field) => read.has(field.name))
    .map((field) => ({
      lead: '',
      value:
        field.names.value === undefined || field.names.value === field.name
          ? field.name
          : `${field.name}: ${field.names.value}`,
    }));
  if (!model.holder && pattern.length)
    lines.push(
      laidOut({ open: 'const {', close: `} = ${names.values}`, items: pattern }, style, indent, indent.length + 1) +
        end,
    );
  for (const use of stable)
    lines.push(
      `const change${pascal(use.field)} = ${call('useCallback')}(${handlerText(use, draft)}, [${draft.hook?.one ?? ''}])${end}`,
    );
  return lines;
}

function accountOf(use: Use, draft: Draft): LedgerEntry {
  const { values, setter } = draft.names;
  const fields =
    use.kind === 'set' || use.kind === 'made-handler' ? use.assignments.map(({ field }) => field).join(', ') : '';
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
    case 'reset':
    case 'ask':
    case 'watch':
    case 'rows':
    case 'change-rows':
    case 'make-row':
      return { entry: 'kept', span: use.span, what: 'the form as a whole', why: 'nothing asks for it' };
    default: {
      const never: never = use;
      return never;
    }
  }
}
