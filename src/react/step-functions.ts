import * as t from '@babel/types';
import { codeText, type CodePrinter } from '../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { FormModel, StepFunction, StepFunctions } from '../form/model.js';
import type { SetAllUse } from '../form/uses.js';
import type { WriteContext } from '../form/writing.js';
import { movedLines } from '../source/moved-lines.js';
import { wholeLines } from '../source/removal.js';
import type { Script } from '../source/script.js';
import { styleOf, type TextStyle } from '../source/style.js';
import { retirementOf, type Retirement } from './retirement.js';

/** What a function of all values is given beside these, as text. */
export function stepArguments(use: SetAllUse, printer: CodePrinter): string[] {
  const texts = (use.step?.arguments ?? []).map((code) => (code ? codeText(code, printer) : 'undefined'));
  while (texts.at(-1) === 'undefined') texts.pop();
  return texts;
}

/** What keeps functions from taking the place of a reducer: others that use it. */
export function stepTroubles(model: FormModel, context: WriteContext): LedgerEntry[] {
  const { steps } = model;
  if (!steps || steps.reducer.file === model.file) return [];
  const { file, start, end } = steps.reducer;
  const script = context.script(file);
  const why = whyShared(model, script, steps, context);
  if (why === undefined) return [];
  return [{ entry: 'by-hand', span: steps.reducer, what: firstLine(context.text(file).slice(start, end)), why }];
}

/** Why a reducer of another file has to stay, in words. */
function whyShared(model: FormModel, script: Script, steps: StepFunctions, context: WriteContext): string | undefined {
  const names = exportsOf(script, steps);
  if (!names) return 'the reducer is exported in a way that could not be followed';
  const users = names.map((name) => context.importers(script.file, name));
  if (users.includes(undefined))
    return 'no package.json tells where the project ends, so that nobody can say who else uses this reducer';
  if (users.some((found) => found?.some((one) => one !== model.file))) return 'other files use this reducer as well';
  const { start, end } = steps.reducer;
  const own = ownName(script.ast.program.body.find((node) => node.start === start));
  const references = own === undefined ? [] : (script.program.scope.getBinding(own)?.referencePaths ?? []);
  const inItself = references.some(
    ({ node, parent }) =>
      !((node.start ?? 0) >= start && (node.end ?? 0) <= end) && !t.isExportDefaultDeclaration(parent),
  );
  return inItself ? 'its own file uses this reducer as well' : undefined;
}

function firstLine(text: string): string {
  return text.split('\n')[0] ?? '';
}

/** The edits that put functions in the place of a reducer. */
export function stepEdits(model: FormModel, context: WriteContext): RewritePlan['edits'] {
  const { steps } = model;
  if (!steps) return [];
  const script = context.script(steps.reducer.file);
  const style = styleOf(script.text);
  const apart = style.newline + style.newline;
  if (script.file === model.file) {
    const text = steps.functions.map((step) => functionText(step, script, style, false)).join(apart);
    return [{ file: model.file, start: model.before, end: model.before, text: text + apart }];
  }
  const text = steps.functions.map((step) => functionText(step, script, style, true)).join(apart);
  const { start, end } = steps.reducer;
  const isUsed = (name: string): boolean => context.importers(script.file, name)?.length !== 0;
  const also = defaultExport(script, steps);
  const gone = [{ start, end }, ...(also ? [also] : [])];
  const retirement = retirementOf(script, gone, text, (name) => !isUsed(name));
  const within = (edit: { start: number; end: number }): boolean =>
    gone.some((one) => edit.start < one.end && edit.end > one.start);
  return [
    { file: script.file, start, end, text },
    ...(also ? [{ file: script.file, ...wholeLines(script.text, also), text: '' }] : []),
    ...retirement.edits.filter((edit) => !within(edit)).map((edit) => ({ file: script.file, ...edit })),
  ];
}

/** The names under which a reducer's file exports it; undefined where a list of exports names it. */
function exportsOf(script: Script, { reducer }: StepFunctions): string[] | undefined {
  const own = script.ast.program.body.find(({ start }) => start === reducer.start);
  const declared = ownName(own);
  const names: string[] = [];
  if (t.isExportDefaultDeclaration(own)) names.push('default');
  else if (t.isExportNamedDeclaration(own) && declared !== undefined) names.push(declared);
  for (const node of script.ast.program.body) {
    if (node === own) continue;
    if (t.isExportDefaultDeclaration(node) && t.isIdentifier(node.declaration, { name: declared ?? '' }))
      names.push('default');
    const listed =
      t.isExportNamedDeclaration(node) &&
      node.specifiers.some((one) => t.isExportSpecifier(one) && one.local.name === declared);
    if (listed) return undefined;
  }
  return names;
}

function ownName(statement: t.Statement | undefined): string | undefined {
  const node =
    t.isExportNamedDeclaration(statement) || t.isExportDefaultDeclaration(statement)
      ? statement.declaration
      : statement;
  if (t.isFunctionDeclaration(node)) return node.id?.name;
  const [only] = t.isVariableDeclaration(node) ? node.declarations : [];
  return t.isIdentifier(only?.id) ? only.id.name : undefined;
}

/** The statement that only exports a reducer declared elsewhere in its file. */
function defaultExport(script: Script, { reducer }: StepFunctions): { start: number; end: number } | undefined {
  const own = script.ast.program.body.find(({ start }) => start === reducer.start);
  const name = ownName(own);
  const found = script.ast.program.body.find(
    (node) =>
      node !== own && t.isExportDefaultDeclaration(node) && t.isIdentifier(node.declaration, { name: name ?? '' }),
  );
  return found ? { start: found.start ?? 0, end: found.end ?? 0 } : undefined;
}

function functionText(step: StepFunction, script: Script, style: TextStyle, exported: boolean): string {
  const { newline, indent } = style;
  const typed = (name: string, type: string | undefined): string => (type === undefined ? name : `${name}: ${type}`);
  const later = (index: number): boolean => step.parameters.slice(index).every(({ optional }) => optional);
  const parameters = step.parameters.map(({ name, type, optional }, index) => {
    if (type === undefined || !optional) return typed(name, type);
    return later(index) ? `${name}?: ${type}` : `${name}: ${type} | undefined`;
  });
  const values = step.state.asked ? [typed(step.state.name, step.state.type)] : [];
  const all = [...values, ...parameters].join(', ');
  const result = step.state.type === undefined ? '' : `: ${step.state.type}`;
  const head = `${exported ? 'export ' : ''}function ${step.name}(${all})${result} {`;
  const printer: CodePrinter = {
    textOf: () => script.text,
    uses: [],
    use: () => undefined,
    hole: (hole) =>
      hole.kind !== 'text'
        ? undefined
        : hole.shorthand !== undefined && hole.shorthand !== hole.text
          ? `${hole.shorthand}: ${hole.text}`
          : hole.text,
  };
  const body = codeText(step.body, printer);
  const column = step.body.start - script.lines.lineStart(step.body.start);
  const margin = script.text.slice(step.body.start - column, step.body.start);
  const lines = movedLines(body, (line, index) =>
    index === 0 ? indent + line : line.startsWith(margin) ? indent + line.slice(margin.length) : line,
  );
  return [head, lines, '}'].join(newline);
}

/**
 * The import of a reducer as that of the functions that take its place, without what nothing needs any more.
 * @returns the edit of the whole import; undefined where no import names the reducer
 */
export function stepImportEdit(
  script: Script,
  { name, functions, module }: StepFunctions,
  retirement: Pick<Retirement, 'isDead'>,
): { start: number; end: number; text: string } | undefined {
  const node = script.ast.program.body.find(
    (one): one is t.ImportDeclaration =>
      t.isImportDeclaration(one) && one.specifiers.some(({ local }) => local.name === name),
  );
  if (!node) return undefined;
  const text = (of: t.Node): string => script.text.slice(of.start ?? 0, of.end ?? 0);
  const left = node.specifiers.filter(({ local }) => local.name !== name && !retirement.isDead(local.name));
  const whole = left.filter((one) => !t.isImportSpecifier(one)).map(text);
  const kept = left.filter((one) => t.isImportSpecifier(one)).map(text);
  const steps = functions.map((step) => step.name);
  const tail = script.text.slice(node.source.start ?? 0, node.end ?? 0);
  const importing = (named: readonly string[], from: string, first: readonly string[] = []): string[] => {
    const what = [...first, ...(named.length ? [`{ ${named.join(', ')} }`] : [])].join(', ');
    return what === '' ? [] : [`import ${what} from ${from}`];
  };
  // a file that only hands the reducer on does not know the functions
  const lines =
    module === undefined || module === node.source.value
      ? importing([...kept, ...steps], tail, whole)
      : [...importing(kept, tail, whole), ...importing(steps, tail.replace(node.source.value, module))];
  return { start: node.start ?? 0, end: node.end ?? 0, text: lines.join('\n') };
}
