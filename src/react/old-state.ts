import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { Declaration, FormModel, StepFunctions } from '../form/model.js';
import { wholeLines } from '../source/removal.js';
import type { Script } from '../source/script.js';
import { indentAt, type TextStyle } from '../source/style.js';
import { reactImportEdits } from './import-edits.js';
import { namedReferences } from './references.js';
import { retirementOf } from './retirement.js';
import { stepImportEdit } from './step-functions.js';

/** Declarations of the form's own file that go with the old state. */
export function retiredDeclarations(
  model: FormModel,
  roles: readonly Declaration['role'][] = ['support', 'alias'],
): Declaration[] {
  return model.declarations.filter(({ role, span }) => roles.includes(role) && span.file === model.file);
}

/** What went because nothing refers to it any more, for the account. */
export function retiredEntries(
  model: FormModel,
  names: readonly { name: string; start: number; end: number }[],
): LedgerEntry[] {
  return names
    .filter(({ start }) => !model.declarations.some(({ span }) => span.start === start))
    .map(({ name, start, end }) => ({
      entry: 'retired',
      span: { file: model.file, start, end },
      what: name,
      why: 'nothing refers to it any more',
    }));
}

/**
 * Puts new lines in the place of the old state, and takes away what only that needed: functions, types, constants,
 * imports. Comments of what goes stand above the new lines.
 * @param edits the edits made so far
 * @param adds names of React that the new lines need
 * @param linesOf the new lines, given how React's names are called in this file
 * @param steps functions that take the place of a reducer of another file, whose import gives way to theirs
 */
export function retireOldState(
  model: FormModel,
  script: Script,
  style: TextStyle,
  edits: RewritePlan['edits'],
  adds: string[],
  linesOf: (call: (name: string) => string) => string[],
  roles: readonly Declaration['role'][] = ['support', 'alias'],
  steps?: StepFunctions,
): { edits: RewritePlan['edits']; names: { name: string; start: number; end: number }[] } {
  const support = retiredDeclarations(model, roles);
  const inside = support.filter(({ span }) => span.start >= model.span.start && span.end <= model.span.end);
  const made: RewritePlan['edits'] = inside.map(({ span }) => ({
    file: model.file,
    ...wholeLines(script.text, span),
    text: '',
  }));
  const state = model.declarations.find((declaration) => declaration.role === 'state');
  if (!state) throw new Error(`${model.name} declares no state`);
  const gone = [...edits, ...made, state.span, ...support.map(({ span }) => span)].filter(
    (span) => span.file === model.file,
  );
  const indent = indentAt(script.text, state.span.start);
  const usesLeft = (name: string): number => usesLeftOf(script, name, gone) ?? namedReferences(script, name) - 1;
  const importsFor = (drop: string[]): ReturnType<typeof reactImportEdits> =>
    reactImportEdits(script, { add: adds, drop: drop.filter((name) => !adds.includes(name)) }, usesLeft);
  const lines = linesOf(importsFor([]).call);
  const written = [
    ...edits.map((edit) => edit.text),
    lines.join('\n'),
    ...model.fields.map((field) => field.type ?? ''),
  ].join('\n');
  const retirement = retirementOf(script, gone, written, () => false);
  const stepImport = steps?.module === undefined ? undefined : stepImportEdit(script, steps, retirement);
  const inRetired = inside.flatMap(({ span }) => commentsWithin(script, span));
  const spare = [...retirement.comments.map(({ text }) => text), ...inRetired].filter(
    (text) => !written.includes(text),
  );
  made.push({ ...state.span, text: [...spare, ...lines].join(`${style.newline}${indent}`) });
  const kept = retirement.edits.filter(
    ({ start, end }) => !stepImport || end <= stepImport.start || start >= stepImport.end,
  );
  made.push(...[...kept, ...(stepImport ? [stepImport] : [])].map((edit) => ({ file: model.file, ...edit })));
  const imports = importsFor(['useReducer', 'useState', 'useCallback', ...retirement.deadReactNames]);
  made.push(...imports.edits.map((edit) => ({ file: model.file, ...edit })));
  return { edits: made, names: retirement.names };
}

function commentsWithin(script: Script, span: { start: number; end: number }): string[] {
  return (script.ast.comments ?? [])
    .filter(({ start, end }) => (start ?? 0) >= span.start && (end ?? 0) <= span.end)
    .map(({ start, end }) => script.text.slice(start ?? 0, end ?? 0));
}

/** References to an imported name that stand outside of what goes. */
function usesLeftOf(script: Script, name: string, gone: readonly { start: number; end: number }[]): number | undefined {
  const binding = script.program.scope.getBinding(name);
  return binding?.referencePaths.filter(
    ({ node }) => !gone.some((span) => (node.start ?? 0) >= span.start && (node.end ?? 0) <= span.end),
  ).length;
}
