import path from 'node:path';
import { escapedTemplates, withPlainTemplates } from '../angular/plain-templates.js';
import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { lineIndex } from '../source/lines.js';
import { packageFile, withDependencies } from '../source/packages.js';
import { tooDeep } from '../source/depth.js';
import type { ParseProblem, Script } from '../source/script.js';
import { overlaid, type Workspace } from '../source/workspace.js';
import { formsOfFile, type FoundForm, type ReadSettings } from './forms.js';
import { alongRoute } from './route.js';
import { withoutIdleReact } from './idle-react.js';
import { brokenLines } from './long-lines.js';
import { netted } from './net/net.js';
import { plannedStep } from './planned-step.js';
import type { Sources } from './sources.js';
import type { FileChange, Rewrite, Refusal, RewriteResult, RewriteRequest } from './results.js';
import { oneLine, notedByHand } from './noted-by-hand.js';
import { figuresOf, joined, linesOf } from './figures.js';

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
  const result = await rewritePlain(request, withPlainTemplates(workspace), settings);
  if (result.kind !== 'rewrite') return result;
  const files = result.rewrite.files.map((change) => withEscapes(change, workspace));
  return { kind: 'rewrite', rewrite: { ...result.rewrite, files } };
}

/** A change of a file as it stands on disk, its templates escaped as their literals need it. */
function withEscapes(change: FileChange, workspace: Workspace): FileChange {
  if (!change.file.endsWith('.ts') || change.before === null) return change;
  const read = workspace.read(change.file);
  const after = change.after === null ? null : escapedTemplates(change.after);
  return { ...change, before: read.ok ? read.text : change.before, after };
}

async function rewritePlain(
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
  const together = { ...joined(parts), form: shown ?? '' };
  const open = isLeftByHand(together.ledger);
  const rewrite = open ? together : tidied(together, file);
  if (!request.addDependency || open || !rewrite.dependencies.length) return { kind: 'rewrite', rewrite };
  return withPackages(rewrite, file, workspace);
}

/** A rewrite whose scripts hold no import that only what went has needed, and no lines that only the rewrite made too long. */
function tidied(rewrite: Rewrite, main: string): Rewrite {
  const files = rewrite.files.map((change) => {
    const { file, before, after } = change;
    const isEdit = change.change === 'edit' && before !== null && after !== null && /\.[cm]?[jt]sx?$/.test(file);
    return isEdit ? { ...change, after: brokenLines(file, before, withoutIdleReact(file, before, after)) } : change;
  });
  const after = files.find(({ file }) => file === main)?.after;
  const lines = after === null || after === undefined ? rewrite.figures.after.lines : linesOf(after);
  return { ...rewrite, files, figures: { ...rewrite.figures, after: { ...rewrite.figures.after, lines } } };
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
  if (reason === tooDeep)
    return { kind: 'refusal', message: `${name}: ${reason}`, next: 'name a file that people write and read' };
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
    if (isLeftByHand(result.rewrite.ledger)) break;
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
    return {
      kind: 'refusal',
      message: `${form.name}: ${form.obstacle}`,
      next: 'mend that first, or keep all values in one place',
    };
  if (!form?.read) {
    return {
      kind: 'refusal',
      message: `${request.form} follows ${form?.approach ?? 'no approach that is known'}, which is recognised but cannot be read in full yet`,
      next: '`lively-graft approaches` lists the rewrites that are covered',
    };
  }
  if (form.obstacle !== undefined)
    return {
      kind: 'refusal',
      message: `${form.name}: ${form.obstacle}`,
      next:
        form.framework === 'angular'
          ? 'declare it in a module, or make it standalone'
          : 'keep its values in one plain place first, or rewrite it by hand; `lively-graft inspect` shows what is seen of it',
    };
  if (!form.writer(request.to)) throw new Error(`no writer of ${request.to}`);
  const trouble = await schemaTrouble(form.read(), workspace);
  if (trouble) return trouble;
  const step = plannedStep(form, read.script, request, workspace, settings);
  const { model, plan, sources } = step;
  const goal = { to: request.to, leaves: form.leaves === true };
  const net = isLeftByHand(plan.ledger)
    ? { ledger: plan.ledger, files: [], after: undefined }
    : await netted(step, goal, workspace, settings);
  const { ledger } = net;
  const byHand = isLeftByHand(ledger);
  const files = byHand ? notedByHand(model, ledger, sources, request.acceptByHand ?? false) : net.files;
  const reached = byHand ? request.to : (net.after?.approach ?? request.to);
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
      ledger: toldByLine(ledger, sources),
      figures: { before, after: figuresOf(net.after ?? model, afterText) },
      dependencies: plan.dependencies,
    },
  };
}

/** Whether an account holds a place that is left by hand. */
function isLeftByHand(ledger: readonly { entry: LedgerEntry['entry'] }[]): boolean {
  return ledger.some(({ entry }) => entry === 'by-hand');
}

/** The account as people read it: file and line in the place of spans, in their order. */
function toldByLine(ledger: readonly LedgerEntry[], sources: Sources): Rewrite['ledger'] {
  const lines = new Map<string, ReturnType<typeof lineIndex>>();
  const lineOf = ({ span }: LedgerEntry): number => {
    const index = lines.get(span.file) ?? lineIndex(sources.text(span.file));
    lines.set(span.file, index);
    return index.lineAt(span.start);
  };
  return ledger
    .map((entry) => ({
      entry: entry.entry,
      file: entry.span.file,
      line: lineOf(entry),
      what: oneLine(entry.what),
      why: entry.why,
    }))
    .sort((a, b) => a.file.localeCompare(b.file) || a.line - b.line);
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
