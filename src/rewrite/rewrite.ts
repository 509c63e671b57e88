import path from 'node:path';
import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { applyEdits } from '../source/edits.js';
import { lineIndex } from '../source/lines.js';
import { packageFile, withDependencies } from '../source/packages.js';
import { parseScript, type ParseProblem, type Script } from '../source/script.js';
import { styleOf } from '../source/style.js';
import { overlaid, type Workspace } from '../source/workspace.js';
import { formsOfFile, type FoundForm, type ReadSettings } from './forms.js';
import { freeNames } from './free-names.js';
import { alongRoute } from './route.js';
import { selfCheck } from './self-check.js';
import type { Sources } from './sources.js';
import { uncoveredReferences } from './coverage.js';

/** One file of a rewrite: whole texts before and after; null where there is no file. Paths are absolute. */
export interface FileChange {
  file: string;
  change: 'edit' | 'create' | 'delete';
  before: string | null;
  after: string | null;
}

export interface Figures {
  lines: number;
  stateVariables: number;
  handlers: number;
}

/** A rewrite of one form, ready to be shown or written. Lines of the ledger count in the texts before. */
export interface Rewrite {
  form: string;
  from: string;
  to: string;
  route: string[];
  files: FileChange[];
  ledger: (Omit<LedgerEntry, 'span'> & { file: string; line: number })[];
  figures: { before: Figures; after: Figures };
  dependencies: { name: string; range: string }[];
}

/** Why there is no rewrite: what was asked for cannot be done with what is there. `next` says what to do. */
export interface Refusal {
  kind: 'refusal';
  message: string;
  next: string;
}

/** A self-check that failed: a fault of the tool. */
export interface Fault {
  kind: 'fault';
  failed: string[];
}

export type RewriteResult =
  { kind: 'rewrite'; rewrite: Rewrite } | { kind: 'same'; form: string; approach: string } | Refusal | Fault;

export interface RewriteRequest {
  /** Absolute path of the file. */
  file: string;
  to: string;
  form?: string | undefined;
  acceptByHand?: boolean;
  /** Way of stating rules, where the approach allows several. */
  rules?: string | undefined;
  /** Writes packages that the result needs into the project's package.json. */
  addDependency?: boolean;
}

/** The forms of a file that a name stands for: one form, or every form of one component. */
export function chooseForms(
  forms: readonly FoundForm[],
  name: string | undefined,
  file: string,
): { ok: true; forms: FoundForm[] } | Refusal {
  const refuse = (message: string, next: string): Refusal => ({ kind: 'refusal', message, next });
  const names = forms.map((form) => form.name).join(', ');
  if (!forms.length)
    return refuse(`${file} holds no form`, 'name a file with a form; `lively-graft survey` lists them');
  if (name !== undefined) {
    const chosen = forms.filter((form) => form.name === name || form.component === name);
    return chosen.length
      ? { ok: true, forms: chosen }
      : refuse(`${file} holds no form called ${name}`, `choose one of: ${names}`);
  }
  const apart =
    new Set(forms.map((form) => form.component)).size > 1 || (forms.length > 1 && forms[0]?.framework === 'angular');
  if (apart) {
    return refuse(`${file} holds ${forms.length} forms: ${names}`, 'say which one with --form NAME');
  }
  return { ok: true, forms: [...forms] };
}

/** Rewrites a form in memory. Nothing is written. */
export async function rewriteForm(
  request: RewriteRequest,
  workspace: Workspace,
  settings: ReadSettings,
): Promise<RewriteResult> {
  const { file, to } = request;
  const first = await readForms(file, workspace, settings);
  if ('kind' in first) return first;
  const chosen = chooseForms(first.forms, request.form, path.basename(file));
  if ('kind' in chosen) return chosen;
  const waiting = chosen.forms.filter((form) => form.approach !== to);
  const single = chosen.forms[0];
  const shown = chosen.forms.length === 1 ? single?.name : single?.component;
  if (!waiting.length) return { kind: 'same', form: shown ?? '', approach: to };
  const uncovered = waiting.find((form) => !form.route(to));
  if (uncovered) {
    return {
      kind: 'refusal',
      message: `no rewrite to ${to} is covered for ${uncovered.name}, a form of ${uncovered.framework}`,
      next: '`lively-graft approaches` lists the rewrites that are',
    };
  }
  let current = workspace;
  const parts: Rewrite[] = [];
  for (const { name } of waiting) {
    const result = await rewriteAlong({ ...request, form: name }, current, settings, parts.length ? undefined : first);
    if (result.kind !== 'rewrite') return result;
    parts.push(result.rewrite);
    current = overlaid(current, new Map(result.rewrite.files.map((change) => [change.file, change.after])));
  }
  const rewrite = { ...joined(parts), form: shown ?? '' };
  const open = rewrite.ledger.some(({ entry }) => entry === 'by-hand');
  if (!request.addDependency || open || !rewrite.dependencies.length) return { kind: 'rewrite', rewrite };
  return withPackages(rewrite, file, workspace);
}

/** A rewrite that also tells the project's package.json of the packages it needs. */
function withPackages(rewrite: Rewrite, file: string, workspace: Workspace): RewriteResult {
  const place = packageFile(file, (name) => workspace.exists(name));
  const read = place === undefined ? undefined : workspace.read(place);
  const after = read?.ok ? withDependencies(read.text, rewrite.dependencies) : undefined;
  if (place === undefined || !read?.ok || after === undefined)
    return {
      kind: 'refusal',
      message:
        place === undefined ? `no package.json stands at or above ${file}` : `${place} is no JSON that could be edited`,
      next: `install ${rewrite.dependencies.map(({ name }) => name).join(', ')} by hand and leave --add-dependency out`,
    };
  const change: FileChange = { file: place, change: 'edit', before: read.text, after };
  return { kind: 'rewrite', rewrite: { ...rewrite, files: [...rewrite.files, change] } };
}

interface ReadForms {
  forms: FoundForm[];
  script: Script;
}

async function readForms(file: string, workspace: Workspace, settings: ReadSettings): Promise<ReadForms | Refusal> {
  const read = workspace.read(file);
  if (!read.ok) return { kind: 'refusal', message: `cannot read ${file}: ${read.reason}`, next: 'check the path' };
  const found = await formsOfFile(file, read.text, workspace, settings);
  return found.ok ? found : unreadable(found.problem, file);
}

/** What to say of a file whose forms cannot be read. `name` is how the person calls the file. */
export function unreadable({ file, line, column, reason }: ParseProblem, name: string): Refusal {
  const template = /template/.test(reason);
  return {
    kind: 'refusal',
    message: template ? `${file}:${line}:${column} ${reason}` : `${name}:${line}:${column} does not parse: ${reason}`,
    next: template ? 'mend the template, or the path that leads to it' : 'mend the syntax error first',
  };
}

/** Rewrites one form by way of the approaches that lead to the target. */
async function rewriteAlong(
  request: RewriteRequest & { form: string },
  workspace: Workspace,
  settings: ReadSettings,
  known: ReadForms | undefined,
): Promise<RewriteResult> {
  const steps: Rewrite[] = [];
  let current = workspace;
  let name = request.form;
  for (let left = 24; left > 0; left--) {
    const read = steps.length || !known ? await readForms(request.file, current, settings) : known;
    if ('kind' in read) return read;
    const form = formAfter(read.forms, name);
    if (form?.approach === request.to && steps.length) break;
    const next = form?.route(request.to)?.[0];
    if (!form || next === undefined) {
      const at = form?.approach ?? 'no form that is known';
      return { kind: 'fault', failed: [`the way to ${request.to} ends at ${at}`] };
    }
    const result = await rewriteOne({ ...request, form: form.name, to: next }, current, settings, read);
    if (result.kind !== 'rewrite') return result;
    steps.push(result.rewrite);
    name = form.name;
    if (result.rewrite.ledger.some(({ entry }) => entry === 'by-hand')) break;
    current = overlaid(current, new Map(result.rewrite.files.map((change) => [change.file, change.after])));
  }
  return { kind: 'rewrite', rewrite: alongRoute(steps, request.to) };
}

/** The form of a name, or the one that its component holds where a step changed the name. */
function formAfter(forms: readonly FoundForm[], name: string): FoundForm | undefined {
  const component = name.split(':')[0];
  const own = forms.filter((form) => form.component === component);
  return forms.find((form) => form.name === name) ?? (own.length === 1 ? own[0] : undefined);
}

async function rewriteOne(
  request: RewriteRequest & { form: string },
  workspace: Workspace,
  settings: ReadSettings,
  known: ReadForms | undefined,
): Promise<RewriteResult> {
  const read = known ?? (await readForms(request.file, workspace, settings));
  if ('kind' in read) return read;
  const form = read.forms.find((candidate) => candidate.name === request.form);
  if (form?.obstacle !== undefined && !form.read)
    return { kind: 'refusal', message: `${form.name}: ${form.obstacle}`, next: 'mend that first' };
  if (!form?.read) {
    return {
      kind: 'refusal',
      message: `${request.form} follows ${form?.approach ?? 'no approach that is known'}, which is recognised but cannot be read in full yet`,
      next: '`lively-graft approaches` lists the rewrites that are covered',
    };
  }
  if (form.obstacle !== undefined)
    return { kind: 'refusal', message: form.obstacle, next: 'declare it in a module, or make it standalone' };
  const write = form.writer(request.to);
  if (!write) throw new Error(`no writer of ${request.to}`);
  const model = form.read();
  const trouble = await schemaTrouble(model, workspace);
  if (trouble) return trouble;
  const sources = sourcesOf(workspace, read.script);
  const plan = write(model, {
    script: sources.script,
    text: sources.text,
    exists: (file) => workspace.exists(file),
    style: styleOf(read.script.text),
    hook: settings.hook,
    rules: request.rules,
    freeName: freeNames(model.files.map(sources.text)),
  });
  const uncovered = plan.edits.length ? uncoveredReferences(model, plan, sources) : [];
  const ledger = [...plan.ledger, ...uncovered];
  const lines = new Map<string, ReturnType<typeof lineIndex>>();
  const lineOf = (entry: LedgerEntry): number => {
    const index = lines.get(entry.span.file) ?? lineIndex(sources.text(entry.span.file));
    lines.set(entry.span.file, index);
    return index.lineAt(entry.span.start);
  };
  const told = ledger.map((entry) => ({
    entry: entry.entry,
    file: entry.span.file,
    line: lineOf(entry),
    what: oneLine(entry.what),
    why: entry.why,
  }));
  const byHand = ledger.some((entry) => entry.entry === 'by-hand');
  const files = byHand
    ? notedByHand(model, ledger, sources, request.acceptByHand ?? false)
    : changedFiles(plan, sources);
  const check = byHand
    ? { failed: [], model }
    : await selfCheck(model, files, { to: request.to, leaves: form.leaves === true }, workspace, settings, sources);
  if (check.failed.length) return { kind: 'fault', failed: check.failed };
  const reached = byHand ? request.to : (check.model?.approach ?? request.to);
  const before = figuresOf(model, sources.text(model.file));
  const afterText = files.find((change) => change.file === model.file)?.after ?? sources.text(model.file);
  return {
    kind: 'rewrite',
    rewrite: {
      form: model.name,
      from: model.approach,
      to: reached,
      route: [model.approach, reached],
      files,
      ledger: told.sort((a, b) => a.file.localeCompare(b.file) || a.line - b.line),
      figures: { before, after: figuresOf(check.model ?? model, afterText) },
      dependencies: plan.dependencies,
    },
  };
}

/** What is wrong with the schema of a form that has one. */
export async function schemaTrouble(model: FormModel, workspace: Workspace): Promise<Refusal | undefined> {
  const file = model.files.find((name) => name.endsWith('.json'));
  const read = file === undefined ? undefined : workspace.read(file);
  if (file === undefined || !read?.ok) return undefined;
  // only forms with a schema pay for the checker
  const { readableSchema } = await import('../rules/json-schema/check.js');
  const checked = readableSchema(path.basename(file), read.text);
  return checked.ok ? undefined : { kind: 'refusal', message: checked.message, next: checked.next };
}

/** Texts of a form's files, and scripts among them parsed; each is read once. */
function sourcesOf(workspace: Workspace, known: Script): Sources {
  const scripts = new Map<string, Script>([[known.file, known]]);
  const texts = new Map<string, string>([[known.file, known.text]]);
  const text = (file: string): string => {
    const seen = texts.get(file);
    if (seen !== undefined) return seen;
    const read = workspace.read(file);
    if (!read.ok) throw new Error(`${file} cannot be read: ${read.reason}`);
    texts.set(file, read.text);
    return read.text;
  };
  return {
    text,
    script(file) {
      const seen = scripts.get(file);
      if (seen) return seen;
      const parsed = parseScript(file, text(file));
      if (!parsed.ok) throw new Error(`${file} is a part of the form and does not parse`);
      scripts.set(file, parsed.script);
      return parsed.script;
    },
  };
}

function oneLine(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length > 80 ? `${line.slice(0, 77)}…` : line;
}

function changedFiles(plan: RewritePlan, sources: Sources): FileChange[] {
  const files: FileChange[] = [];
  for (const file of new Set(plan.edits.map((edit) => edit.file))) {
    if (plan.deletes.includes(file)) continue;
    const before = sources.text(file);
    const edits = plan.edits.filter((edit) => edit.file === file);
    const written = edits.map((edit) => ({ ...edit, text: withLineEnds(edit.text, before) }));
    files.push({ file, change: 'edit', before, after: withoutGaps(before, applyEdits(before, written)) });
  }
  for (const { file, text } of plan.creates) files.push({ file, change: 'create', before: null, after: text });
  for (const file of plan.deletes) files.push({ file, change: 'delete', before: sources.text(file), after: null });
  return files;
}

/** Blank lines that met where something between them went, as one. */
function withoutGaps(before: string, after: string): string {
  const gap = /\n(?:[ \t]*\r?\n){2,}/g;
  // a file that has such gaps of its own keeps them all
  return new RegExp(gap).test(before)
    ? after
    : after.replace(gap, (lines) => (lines.includes('\r') ? '\n\r\n' : '\n\n'));
}

function withLineEnds(text: string, original: string): string {
  return styleOf(original).newline === '\r\n' ? text.replace(/\r?\n/g, '\r\n') : text;
}

/** Start of the innermost statement around an offset: a comment can stand before it, which it cannot inside markup. */
function statementStart(script: Script, offset: number): number {
  let start = 0;
  script.program.traverse({
    Statement(path) {
      const holds = (path.node.start ?? 0) <= offset && (path.node.end ?? 0) > offset;
      if (holds && (path.parentPath?.isProgram() === true || path.parentPath?.isBlockStatement() === true))
        start = path.node.start ?? 0;
    },
  });
  return start;
}

/** The form's files with a comment at each place that is left by hand; unchanged unless that was asked for. */
function notedByHand(
  model: FormModel,
  ledger: readonly LedgerEntry[],
  sources: Sources,
  wanted: boolean,
): FileChange[] {
  if (!wanted) return [];
  // a schema is data and takes no comments
  const files = model.files.filter((file) => !file.endsWith('.json'));
  return files.flatMap((file): FileChange[] => {
    const before = sources.text(file);
    const lines = lineIndex(before);
    const script = /\.[cm]?[jt]sx?$/.test(file) ? sources.script(file) : undefined;
    const places = new Map<number, string>();
    for (const entry of ledger) {
      if (entry.entry !== 'by-hand' || entry.span.file !== file) continue;
      const start = script ? statementStart(script, entry.span.start) : entry.span.start;
      const lineStart = lines.lineStart(start);
      const indent = /^[ \t]*/.exec(before.slice(lineStart))?.[0] ?? '';
      const words = `graft: line ${lines.lineAt(entry.span.start)}, ${oneLine(entry.what)}: ${entry.why}`;
      const comment = indent + (script ? `// ${words}` : `<!-- ${words.replace(/--/g, '- -')} -->`);
      const above = places.get(lineStart);
      places.set(lineStart, above === undefined ? comment : `${above}\n${comment}`);
    }
    if (!places.size) return [];
    const { newline } = styleOf(before);
    const edits = [...places].map(([start, text]) => ({ start, end: start, text: text + newline }));
    return [{ file, change: 'edit', before, after: applyEdits(before, edits) }];
  });
}

function figuresOf(model: FormModel, text: string): Figures {
  return {
    lines: text.split(/\r?\n/).length - (/\n$/.test(text) ? 1 : 0),
    stateVariables: model.stateVariables,
    handlers: model.handlers,
  };
}

/** Rewrites of several forms of one file, one after the other, as one. */
function joined(parts: readonly Rewrite[]): Rewrite {
  const [first, ...rest] = parts;
  if (!first) throw new Error('nothing was rewritten');
  return rest.reduce((whole, part) => {
    const files = [...whole.files];
    for (const change of part.files) {
      const index = files.findIndex((known) => known.file === change.file);
      const known = files[index];
      if (known) files[index] = { ...known, after: change.after };
      else files.push(change);
    }
    return {
      ...whole,
      files,
      ledger: [...whole.ledger, ...part.ledger],
      figures: {
        before: summed(whole.figures.before, part.figures.before),
        after: { ...summed(whole.figures.after, part.figures.after), lines: part.figures.after.lines },
      },
      dependencies: [...whole.dependencies, ...part.dependencies],
    };
  }, first);
}

function summed(a: Figures, b: Figures): Figures {
  return { lines: a.lines, stateVariables: a.stateVariables + b.stateVariables, handlers: a.handlers + b.handlers };
}
