import { codeText, outermostUses, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Field, FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { laidOut } from '../../source/layout.js';
import { indentAt } from '../../source/style.js';
import { placeOfState } from '../state-edits.js';
import { wholeLines } from '../../source/removal.js';
import type { WriteContext } from '../../form/writing.js';
import { stepEdits, stepTroubles } from '../step-functions.js';
import { retiredDeclarations, retireOldState } from '../old-state.js';
import { variableNames } from './names.js';
import { type Draft, namesOf, initialText } from './draft.js';
import { heldLater, untoldStart } from '../untold-start.js';
import { wholeFormUses, mixedNames, wholeSetters, lackingReads, openReads, staleUpdates } from './unwritable.js';
import { holeText, textOfUse, pair } from './changes.js';
import { accountOf } from './account.js';

/** Writes a form with one state variable for each value, and a setter in place of each update. */
export function writeFieldState(model: FormModel, context: WriteContext): RewritePlan {
  const nothing = { edits: [], creates: [], deletes: [], dependencies: [] };
  const byHand: LedgerEntry[] = model.unclear.map(({ span, what, why }) => ({ entry: 'by-hand', span, what, why }));
  byHand.push(
    ...staleUpdates(model, context),
    ...untoldStart(model, context),
    ...heldLater(model, context, 'one variable a field'),
    ...wholeFormUses(model, context),
    ...lackingReads(model, context),
    ...openReads(model, context),
    ...stepTroubles(model, context),
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
  edits.push(...dependencyEdits(model, context), ...stepEdits(model, context));
  const retired = retireOldState(
    model,
    script,
    context.style,
    edits,
    ['useState'],
    (call) => stateLines(draft, call('useState')),
    undefined,
    model.steps,
  );
  edits.push(...retired.edits);
  return { ...nothing, edits, ledger: accountOf(model, draft, retired.names) };
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
  const begins = startLine(draft, useState);
  const lines: string[] = begins ? [begins.line] : [];
  for (const field of model.fields) {
    const reads = draft.used.values.has(field.name);
    const sets = draft.used.setters.has(field.name);
    if (!reads && !sets) continue;
    const { value, setter } = namesOf(draft, field.name);
    const pattern = [reads ? value : '', ...(sets ? [setter] : [])].join(', ');
    lines.push(...field.commentsBefore);
    const behind = field.commentBehind === undefined ? '' : ` ${field.commentBehind}`;
    const asked = begins ? `(${begins.name}.${field.name})` : startOf(field, draft);
    lines.push(`const [${pattern}] = ${useState}${asked}${context.style.semicolon}${behind}`);
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

/** What a variable begins as, with the type it is given. */
function startOf(field: Field, draft: Draft): string {
  const { model } = draft;
  const type = model.typescript && field.typeWritten && field.type !== undefined ? `<${field.type}>` : '';
  const text = initialText(field, draft);
  const lazy =
    field.initial.when === 'once' && field.initial.callable !== true
      ? text.startsWith('{')
        ? `() => (${text})`
        : `() => ${text}`
      : text;
  return `${type}(${text === 'undefined' && (type !== '' || !model.typescript) ? '' : lazy})`;
}

/** What all values begin as, where that is told only as a whole: each variable begins as its part of it. */
function startLine(draft: Draft, useState: string): { name: string; line: string } | undefined {
  const { model, context, printer } = draft;
  const { start, type } = model.holder ?? {};
  if (!start) return undefined;
  const name = context.freeName('start', 'startValues', 'begins');
  const code = codeText(start.code, printer);
  const { semicolon } = context.style;
  const typed = model.typescript && type !== undefined;
  if (start.once)
    return { name, line: `const [${name}] = ${useState}${typed ? `<${type}>` : ''}(${code})${semicolon}` };
  return { name, line: `const ${name}${typed ? `: ${type}` : ''} = ${code}${semicolon}` };
}
