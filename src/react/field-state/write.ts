import { codeText, outermostUses, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type {
  Assignment,
  Field,
  FormModel,
  HandOnAllUse,
  Hole,
  MadeHandlerUse,
  SetNamedUse,
  SetUse,
  Use,
} from '../../form/model.js';
import { laidOut } from '../../source/layout.js';
import { indentAt, quoted } from '../../source/style.js';
import { placeOfState } from '../state-edits.js';
import { wholeLines } from '../../source/removal.js';
import type { WriteContext } from '../../form/writing.js';
import { retiredDeclarations, retireOldState } from '../old-state.js';
import { isOneBlock } from '../handed-functions.js';
import { variableNames, type VariableNames } from './names.js';

interface Draft {
  model: FormModel;
  context: WriteContext;
  names: Map<string, VariableNames>;
  printer: CodePrinter;
  /** Setters and values that the new code calls by their names. */
  used: { setters: Set<string>; values: Set<string>; whole: boolean };
}

/** Writes a form with one state variable for each value, and a setter in place of each update. */
export function writeFieldState(model: FormModel, context: WriteContext): RewritePlan {
  const nothing = { edits: [], creates: [], deletes: [], dependencies: [] };
  const byHand: LedgerEntry[] = model.unclear.map(({ span, what, why }) => ({ entry: 'by-hand', span, what, why }));
  byHand.push(
    ...staleUpdates(model, context),
    ...wholeFormUses(model, context),
    ...lackingReads(model, context),
    ...wholeSetters(model, context),
    ...mixedNames(model, context),
  );
  if (byHand.length) return { ...nothing, ledger: byHand };

  const script = context.script(model.file);
  const printer: CodePrinter = {
    textOf: (file) => context.script(file).text,
    uses: model.uses,
    use: (use) => textOfUse(use, draft),
    hole: (hole) => holeText(hole, draft),
  };
  const draft: Draft = {
    model,
    context,
    names: variableNames(model, context),
    printer,
    used: { setters: new Set(), values: new Set(), whole: false },
  };
  const edits: RewritePlan['edits'] = [];
  const support = retiredDeclarations(model);
  const inSupport = (use: Use): boolean =>
    support.some(({ span }) => use.span.start >= span.start && use.span.end <= span.end);
  for (const use of outermostUses(
    model.uses.filter((candidate) => !inSupport(candidate) && candidate.kind !== 'depend'),
  )) {
    const edit = editOf(use, draft);
    if (edit) edits.push(edit);
    if (use.kind === 'set-named')
      for (const spare of use.spares) edits.push({ file: spare.file, ...wholeLines(script.text, spare), text: '' });
  }
  edits.push(...dependencyEdits(model, context));
  const retired = retireOldState(model, script, context.style, edits, ['useState'], (call) =>
    stateLines(draft, call('useState')),
  );
  edits.push(...retired.edits);
  return { ...nothing, edits, ledger: accountOf(model, draft, retired.names) };
}

/** Uses of the form as one object, which separate state variables do not have. */
function wholeFormUses(model: FormModel, context: WriteContext): LedgerEntry[] {
  return model.uses
    .filter(({ kind }) => kind === 'set-all' || kind === 'reset' || kind === 'ask' || kind === 'watch')
    .map(({ span }) => ({
      entry: 'by-hand',
      span,
      what: context.script(span.file).text.slice(span.start, span.end),
      why: 'separate state variables have no object that stands for the whole form',
    }));
}

/** Changes of a field whose name only the running form knows, where the fields do not hold the same kind of value. */
function mixedNames(model: FormModel, context: WriteContext): LedgerEntry[] {
  const types = new Set(model.fields.map(({ type }) => type));
  if (!model.typescript || types.size === 1) return [];
  return model.uses
    .filter((use) => use.kind === 'set-named' && use.any === true)
    .map(({ span }) => ({
      entry: 'by-hand',
      span,
      what: context.text(span.file).slice(span.start, span.end),
      why: 'which field it changes is known only when the form runs, and the fields are of different types',
    }));
}

/** Setters of all values that are handed to something that computes new values from the ones before. */
function wholeSetters(model: FormModel, context: WriteContext): LedgerEntry[] {
  return model.uses
    .filter((use) => use.kind === 'hand-on-all' && (use.takes === 'updater' || use.stable))
    .map(({ span }) => ({
      entry: 'by-hand',
      span,
      what: context.text(span.file).slice(span.start, span.end),
      why: 'it is handed to something that may compute all values from the ones before; separate variables have no setter for that',
    }));
}

/** Values handed on together while the object lacks some: made of variables, it would name each as undefined. */
function lackingReads(model: FormModel, context: WriteContext): LedgerEntry[] {
  const absent = model.fields.filter((field) => field.absent === true).map(({ name }) => name);
  if (!absent.length) return [];
  return model.uses
    .filter((use) => use.kind === 'read-all' && !use.named && !use.listed)
    .map(({ span }) => ({
      entry: 'by-hand',
      span,
      what: context.script(span.file).text.slice(span.start, span.end),
      why: `it lacks ${absent.join(', ')} until they are set; made of state variables it would hold them as undefined`,
    }));
}

/** Updates computed from values that may be old where they would be computed now. */
function staleUpdates(model: FormModel, context: WriteContext): LedgerEntry[] {
  const entries: LedgerEntry[] = [];
  for (const use of model.uses) {
    if (use.kind !== 'set') continue;
    for (const { field, value } of use.assignments) {
      if (value.kind !== 'from-previous' || use.fresh || value.reads.every((read) => read === field)) continue;
      entries.push({
        entry: 'by-hand',
        span: use.span,
        what: context.script(use.span.file).text.slice(use.span.start, use.span.end),
        why: `the reducer computes ${field} from ${value.reads.filter((read) => read !== field).join(', ')} as they are at that moment; state variables would give older values here`,
      });
    }
  }
  return entries;
}

function namesOf(draft: Draft, field: string): VariableNames {
  const names = draft.names.get(field);
  if (!names) throw new Error(`no field ${field}`);
  return names;
}

function valueName(draft: Draft, field: string): string {
  draft.used.values.add(field);
  return namesOf(draft, field).value;
}

function holeText(hole: Hole, draft: Draft): string | undefined {
  const keyed = (text: string): string =>
    hole.kind !== 'returned' && hole.shorthand !== undefined && hole.shorthand !== text
      ? `${hole.shorthand}: ${text}`
      : text;
  switch (hole.kind) {
    case 'previous':
      return keyed(valueName(draft, hole.field));
    case 'given': {
      const text =
        codeText({ ...hole.code, holes: hole.code.holes.filter((inner) => inner !== hole) }, draft.printer) ||
        'undefined';
      return keyed(hole.wrap ? `(${text})${hole.suffix}` : text + hole.suffix);
    }
    case 'text':
      return keyed(hole.text);
    case 'returned':
      return codeText(hole.value, draft.printer);
    case 'captured':
      return undefined;
    default: {
      const never: never = hole;
      return never;
    }
  }
}

/** A name for the previous value that stands nowhere in a text. */
function previousName(text: string): string {
  return ['prev', 'previous', 'before'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'previousValue';
}

function setterCall({ field, value }: Assignment, draft: Draft): string {
  draft.used.setters.add(field);
  const { setter } = namesOf(draft, field);
  if (value.kind === 'initial') return `${setter}(${initialText(fieldNamed(draft.model, field), draft)})`;
  if (value.kind === 'value') return `${setter}(${codeText(value.code, draft.printer) || 'undefined'})`;
  // a function that is handed over as it stands
  if (value.whole && value.body.start === value.whole.start && value.body.end === value.whole.end)
    return `${setter}(${codeText(value.whole, draft.printer)})`;
  const source = draft.context.script(value.body.file).text.slice(value.body.start, value.body.end);
  const name = value.parameter ?? previousName(source);
  const ownOnly = value.reads.every((read) => read === field);
  const printer: CodePrinter = {
    ...draft.printer,
    hole(hole) {
      if (hole.kind === 'previous' && hole.field === field && ownOnly)
        return hole.shorthand === undefined ? name : `${hole.shorthand}: ${name}`;
      if (hole.kind === 'returned') return hole.unchanged ? name : codeText(hole.value, printer);
      if (hole.kind === 'given') return codeText(hole.code, printer) ? holeText(hole, draft) : undefined;
      return holeText(hole, draft);
    },
  };
  const text = codeText(value.body, printer);
  if (!ownOnly && !value.block) return `${setter}(${text})`;
  const body =
    value.block && !isOneBlock(text)
      ? blockText(text, draft, value.body)
      : /^\{/.test(text) && !value.block
        ? `(${text})`
        : text;
  return `${setter}((${name}) => ${body})`;
}

/** Statements of a reducer's case as the body of a function. */
function blockText(statements: string, draft: Draft, at: { file: string; start: number }): string {
  const { style } = draft.context;
  const old = indentAt(draft.context.script(at.file).text, at.start);
  const lines = statements
    .split(/\r?\n/)
    .map((line, index) => style.indent + (index > 0 && line.startsWith(old) ? line.slice(old.length) : line));
  return `{${style.newline}${lines.join(style.newline)}${style.newline}}`;
}

function fieldNamed(model: FormModel, name: string): Field {
  const field = model.fields.find((candidate) => candidate.name === name);
  if (!field) throw new Error(`no field ${name}`);
  return field;
}

function initialText(field: Field, draft: Draft): string {
  return field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text;
}

function textOfUse(use: Use, draft: Draft): string | undefined {
  switch (use.kind) {
    case 'read': {
      const name = valueName(draft, use.field);
      return use.key === undefined ? name : pair(use.key, name);
    }
    case 'read-all':
      if (use.listed) return draft.model.fields.map(({ name }) => valueName(draft, name)).join(', ');
      draft.used.whole = true;
      if (draft.model.holder) {
        for (const field of draft.model.fields) draft.used.values.add(field.name);
        return undefined;
      }
      return `{ ${draft.model.fields.map((field) => pair(field.name, valueName(draft, field.name))).join(', ')} }`;
    case 'set':
      return setText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return madeText(use, draft);
    case 'depend':
    case 'set-all':
    case 'reset':
    case 'ask':
    case 'watch':
    case 'rows':
    case 'change-rows':
    case 'make-row':
      return undefined;
    case 'hand-on': {
      draft.used.setters.add(use.field);
      const { setter } = namesOf(draft, use.field);
      return use.shorthand === undefined ? setter : `${use.shorthand}: ${setter}`;
    }
    case 'hand-on-all':
      return wholeSetterText(use, draft);
    default: {
      const never: never = use;
      return never;
    }
  }
}

/** A function that gives every variable its value, in the place of the setter of one object. */
function wholeSetterText(use: HandOnAllUse, draft: Draft): string {
  const { style } = draft.context;
  const source = draft.context.text(use.span.file);
  const indent = indentAt(source, use.span.start);
  const lines = draft.model.fields.map(({ name }) => {
    draft.used.setters.add(name);
    return `${indent}${style.indent}${namesOf(draft, name).setter}(next.${name})${style.semicolon}`;
  });
  const type = draft.model.typescript && !use.typed ? `: ${draft.model.holder?.type ?? 'unknown'}` : '';
  const text = [`(next${type}) => {`, ...lines, `${indent}}`].join(style.newline);
  return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
}

function pair(key: string, value: string): string {
  return key === value ? key : `${key}: ${value}`;
}

function setText(use: SetUse, draft: Draft): string {
  const { style } = draft.context;
  const calls = use.assignments.map((assignment) => setterCall(assignment, draft));
  const [first] = calls;
  if (calls.length === 1 && first !== undefined) return reindented(first, draft, use.span);
  const source = draft.context.script(use.span.file).text;
  const indent = indentAt(source, use.span.start);
  const alone = source.slice(source.lastIndexOf('\n', use.span.start - 1) + 1, use.span.start).trim() === '';
  if (use.statement) return calls.join(alone ? `${style.semicolon}${style.newline}${indent}` : '; ');
  if (use.arrowBody) {
    if (!calls.length) return '{}';
    const lines = calls.map((call) => `${indent}${style.indent}${call}${style.semicolon}${style.newline}`).join('');
    return `{${style.newline}${lines}${indent}}`;
  }
  return calls.length ? `(${calls.join(', ')})` : 'undefined';
}

/** Lines after the first one of a text that came from elsewhere, at the depth of the place it goes to. */
function reindented(text: string, draft: Draft, span: { file: string; start: number }): string {
  if (!text.includes('\n') || draft.model.files.length === 0) return text;
  const indent = indentAt(draft.context.script(span.file).text, span.start);
  const lines = text.split('\n');
  const margin = Math.min(
    ...lines
      .slice(1)
      .filter((line) => line.trim())
      .map((line) => /^\s*/.exec(line)?.[0].length ?? 0),
  );
  if (margin >= indent.length) return text;
  return [lines[0], ...lines.slice(1).map((line) => indent + line)].join('\n');
}

function namedText(use: SetNamedUse, draft: Draft): string {
  const { style } = draft.context;
  const indent = indentAt(draft.context.script(use.span.file).text, use.span.start);
  const step = style.indent;
  const cases = use.choices.map((choice) => {
    const call = narrowed(choice, setterCall(choice, draft), draft);
    return [
      `${indent}${step}case ${quoted(choice.field, style)}:`,
      `${indent}${step}${step}${call}${style.semicolon}`,
      `${indent}${step}${step}break${style.semicolon}`,
    ].join(style.newline);
  });
  const rest = use.rest.map((assignment) => `${indent}${setterCall(assignment, draft)}${style.semicolon}`);
  const text = [`switch (${codeText(use.key, draft.printer)}) {`, ...cases, `${indent}}`, ...rest].join(style.newline);
  return use.arrowBody ? `{ ${text} }` : text;
}

/** A value of which only some texts are allowed is checked for them: the name that was computed let any text through. */
function narrowed({ field, value }: Assignment, call: string, draft: Draft): string {
  const { type } = fieldNamed(draft.model, field);
  const texts = type?.split('|').map((one) => one.trim()) ?? [];
  const given = value.kind === 'value' ? codeText(value.code, draft.printer) : '';
  if (!draft.model.typescript || texts.length < 2 || !texts.every((one) => /^(['"])[^'"]*\1$/.test(one))) return call;
  if (!/^[\w.]+$/.test(given)) return call;
  const { style } = draft.context;
  const test = texts.map((one) => `${given} === ${quoted(one.slice(1, -1), style)}`).join(' || ');
  return `if (${test}) ${call}`;
}

function madeText(use: MadeHandlerUse, draft: Draft): string {
  const { style } = draft.context;
  const calls = use.assignments.map((assignment) => setterCall(assignment, draft));
  if (calls.length === 1) return `${use.parameters} => ${calls[0] ?? ''}`;
  const indent = indentAt(draft.context.script(use.span.file).text, use.span.start);
  const lines = calls.map((call) => `${indent}${style.indent}${call}${style.semicolon}${style.newline}`).join('');
  return `${use.parameters} => {${style.newline}${lines}${indent}}`;
}

function editOf(use: Use, draft: Draft): RewritePlan['edits'][number] | undefined {
  const text = textOfUse(use, draft);
  if (text === undefined) return undefined;
  const source = draft.context.script(use.span.file).text;
  if (use.kind === 'set-named' && use.statement) {
    // a switch takes no semicolon of the statement it stands for
    return { file: use.span.file, start: use.span.start, end: use.statement.end, text };
  }
  if (use.kind === 'set' && use.statement && use.assignments.length === 0) {
    return { file: use.span.file, ...wholeLines(source, use.statement), text: '' };
  }
  return { ...use.span, text };
}

/** The dispatch function goes from dependency lists: setters need not stand in them. */
function dependencyEdits(model: FormModel, context: WriteContext): RewritePlan['edits'] {
  return model.uses
    .filter((use) => use.kind === 'depend')
    .map(({ span }) => {
      const { text } = context.script(span.file);
      let { start, end } = span;
      if (/^\s*,/.test(text.slice(end))) {
        end += /^\s*,\s*/.exec(text.slice(end))?.[0].length ?? 0;
      } else {
        const before = /,\s*$/.exec(text.slice(0, start));
        if (before) start -= before[0].length;
      }
      return { file: span.file, start, end, text: '' };
    });
}

/** One line for each value, in the order of the initial state. */
function stateLines(draft: Draft, useState: string): string[] {
  const { model, context } = draft;
  const lines: string[] = [];
  for (const field of model.fields) {
    const reads = draft.used.values.has(field.name);
    const sets = draft.used.setters.has(field.name);
    if (!reads && !sets) continue;
    const { value, setter } = namesOf(draft, field.name);
    const pattern = [reads ? value : '', ...(sets ? [setter] : [])].join(', ');
    const type = model.typescript && field.typeWritten && field.type !== undefined ? `<${field.type}>` : '';
    const text = initialText(field, draft);
    const lazy =
      field.initial.when === 'once' && field.initial.callable !== true
        ? text.startsWith('{')
          ? `() => (${text})`
          : `() => ${text}`
        : text;
    const argument = text === 'undefined' && type !== '' ? '' : lazy;
    lines.push(...field.commentsBefore);
    const behind = field.commentBehind === undefined ? '' : ` ${field.commentBehind}`;
    lines.push(`const [${pattern}] = ${useState}${type}(${argument})${context.style.semicolon}${behind}`);
  }
  const { holder } = model;
  if (holder && draft.used.whole) {
    const type = holder.type === undefined || !model.typescript ? '' : `: ${holder.type}`;
    const lead = `const ${holder.name}${type} = `;
    const items = model.fields.map((field) => ({
      lead: '',
      value: pair(field.name, namesOf(draft, field.name).value),
    }));
    const indent = indentAt(context.text(model.file), placeOfState(model).start);
    const object = laidOut({ open: '{', close: '}', items }, context.style, indent, indent.length + lead.length + 1);
    lines.push(`${lead}${object}${context.style.semicolon}`);
  }
  return lines;
}

/** What became of a use, in words. */
function wordsOf(use: Use, model: FormModel): Pick<LedgerEntry, 'what' | 'why'> {
  const holder = model.holder?.name ?? 'an object';
  switch (use.kind) {
    case 'read':
      return { what: `read of ${use.field}`, why: 'the state variable is read' };
    case 'read-all':
      return use.listed
        ? {
            what: 'all values in a dependency list',
            why: 'each is listed: it follows changes of values, not of the object',
          }
        : { what: 'all values read', why: `${holder} is made of the state variables` };
    case 'depend':
      return { what: 'dispatch in a dependency list', why: 'setters never change, so they need not be listed' };
    case 'hand-on-all':
      return { what: 'setter of all values handed on', why: 'a function that calls each setter is handed on instead' };
    case 'set':
    case 'made-handler':
      return { what: `change of ${use.assignments.map(({ field }) => field).join(', ')}`, why: 'the setter is called' };
    default:
      return { what: 'change of a field by its name', why: 'the setter of that field is called' };
  }
}

function accountOf(
  model: FormModel,
  draft: Draft,
  retired: { name: string; start: number; end: number }[],
): LedgerEntry[] {
  const ledger: LedgerEntry[] = [];
  for (const use of model.uses) {
    ledger.push({ entry: use.kind === 'depend' ? 'retired' : 'carried', span: use.span, ...wordsOf(use, model) });
  }
  for (const control of model.controls)
    ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'only the names in it change',
    });
  for (const rule of model.rules)
    ledger.push({ entry: 'kept', span: rule.span, what: rule.condition, why: 'only the names in it change' });
  for (const declaration of model.declarations) {
    ledger.push({
      entry: declaration.role === 'state' ? 'carried' : 'retired',
      span: declaration.span,
      what: declaration.what,
      why:
        declaration.role === 'state'
          ? `state variables ${[...draft.names.values()].map(({ value }) => value).join(', ')}`
          : 'the setters do its work',
    });
  }
  for (const { name, start, end } of retired) {
    if (model.declarations.some(({ span }) => span.start === start)) continue;
    ledger.push({
      entry: 'retired',
      span: { file: model.file, start, end },
      what: name,
      why: 'nothing refers to it any more',
    });
  }
  return ledger;
}
