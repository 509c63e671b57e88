import * as t from '@babel/types';
import { fieldsOf, type FormModel } from '../form/model.js';
import { plainComment } from '../source/comments.js';
import { parseScript, type Script } from '../source/script.js';
import { overlaid, type Workspace } from '../source/workspace.js';
import { formsOfFile, type FoundForm, type ReadSettings } from './forms.js';
import type { FileChange } from './results.js';
import type { Sources } from './sources.js';

/** What the checks of a rewrite gave: what failed, in words, and the form as the target's reader sees it. */
export interface SelfCheck {
  failed: string[];
  model: FormModel | undefined;
}

/**
 * Checks a rewrite before anyone sees it: files parse, no name is unresolved, unused or declared twice that was not
 * before, every comment is still there, and the target's reader finds the same fields.
 * @param goal the approach that is wanted; a step that only leaves one may reach any other
 * @param sources the files as they were
 */
export async function selfCheck(
  model: FormModel,
  files: readonly FileChange[],
  goal: { to: string; leaves: boolean },
  workspace: Workspace,
  settings: ReadSettings,
  sources: Sources,
): Promise<SelfCheck> {
  const failed: string[] = [];
  const result = overlaid(workspace, new Map(files.map((change) => [change.file, change.after])));
  const comments: { before: string[]; after: string[] } = { before: [], after: [] };
  let form: FoundForm | undefined;
  for (const change of files) {
    const isScript = /\.[cm]?[jt]sx?$/.test(change.file);
    const old = change.before === null || !isScript ? undefined : sources.script(change.file);
    if (old) comments.before.push(...commentsOf(old));
    else if (change.file.endsWith('.json')) comments.before.push(...dataComments(change.before ?? '{}'));
    else comments.before.push(...markupComments(change.before));
    if (change.after === null) continue;
    if (!isScript) {
      comments.after.push(
        ...(change.file.endsWith('.json') ? dataComments(change.after) : markupComments(change.after)),
      );
      continue;
    }
    const parsed = parseScript(change.file, change.after);
    if (!parsed.ok) {
      failed.push(`the result does not parse: line ${parsed.problem.line}: ${parsed.problem.reason}`);
      continue;
    }
    comments.after.push(...commentsOf(parsed.script));
    failed.push(...unresolvedNames(old, parsed.script), ...unusedNames(old, parsed.script));
  }
  const text = result.read(model.file);
  const found = failed.length || !text.ok ? undefined : await formsOfFile(model.file, text.text, result, settings);
  if (found && !found.ok) failed.push(`the result does not parse: line ${found.problem.line}: ${found.problem.reason}`);
  if (found?.ok) {
    form = sameForm(model, found.forms, goal);
    failed.push(...(form?.trouble?.(sources.script(model.file), workspace) ?? []));
  }
  failed.push(...lostComments(comments.before, comments.after));
  if (failed.length) return { failed, model: undefined };
  // a group of values that becomes a variable of its own is one object: the next step takes it apart
  const halfway = goal.to === 'field-state' && form?.approach === 'object-state';
  const reached = form && (goal.leaves || halfway || form.approach === goal.to);
  if (!form || !reached) {
    return { failed: [`the result is read as ${form?.approach ?? 'no form'}, not as ${goal.to}`], model: undefined };
  }
  const read = form.read?.();
  return { failed: missingFields(model, form), model: read };
}

/** The form of the result that the rewritten one became: its name may speak of the old approach. */
function sameForm(
  model: FormModel,
  forms: readonly FoundForm[],
  { to, leaves }: { to: string; leaves: boolean },
): FoundForm | undefined {
  const named = forms.find(({ name }) => name === model.name);
  if (named && (named.approach === to || leaves)) return named;
  const shared = (form: FoundForm): number => model.fields.filter(({ name }) => form.fieldNames.includes(name)).length;
  const others = forms.filter(
    ({ component, approach }) => component === model.component && (approach === to || leaves),
  );
  return others.sort((a, b) => shared(b) - shared(a))[0] ?? named;
}

/** Fields that a control edits and that the target's reader does not find, and values it does not find at all. */
function missingFields(
  model: FormModel,
  form: { fieldNames: string[]; read: (() => FormModel) | undefined },
): string[] {
  const inGroup = (name: string): boolean => {
    const members = model.controls.flatMap(({ field }) =>
      field.startsWith(`${name}.`) ? field.split('.').slice(1) : [],
    );
    return members.length > 0 && members.every((member) => form.fieldNames.includes(member));
  };
  const edited = new Set(model.controls.map((control) => /^[^.[]+/.exec(control.field)?.[0] ?? control.field));
  const names = new Map(model.fields.map((field) => [field.name, field.names.value ?? field.name]));
  const known = (name: string): boolean =>
    form.fieldNames.includes(name) ||
    form.fieldNames.includes(names.get(name) ?? name) ||
    form.fieldNames.includes(`${name}Value`) ||
    inGroup(name);
  const lost = fieldsOf(model).filter(({ name }) => edited.has(name) && !known(name));
  return lost.map(
    ({ name }) => `the field ${name} is not found in the result, which has ${form.fieldNames.join(', ')}`,
  );
}

/** Names that values refer to and that no scope of the file declares. Types are the compiler's business. */
function globalsOf(script: Script | undefined): Set<string> {
  const globals = new Set<string>();
  script?.program.traverse({
    ReferencedIdentifier(path) {
      const { name } = path.node as t.Identifier | t.JSXIdentifier;
      if (path.isJSXIdentifier() && /^[a-z]/.test(name)) return;
      const inType =
        path.parent.type.startsWith('TS') &&
        !/^TS(As|NonNull|Satisfies|TypeAssertion|ExportAssignment|EnumMember)/.test(path.parent.type);
      if (!inType && !path.scope.hasBinding(name, true) && !path.findParent((parent) => parent.isTSType()))
        globals.add(name);
    },
  });
  return globals;
}

function unresolvedNames(before: Script | undefined, after: Script): string[] {
  const known = globalsOf(before);
  const common =
    /^(undefined|Object|Partial|Date|Math|Number|String|Boolean|Array|Set|Map|NaN|Infinity|Promise|Error|JSON|RegExp|Function|FormData|HTML\w*Element)$/;
  return [...globalsOf(after)]
    .filter((name) => !known.has(name) && !common.test(name))
    .map((name) => `the name ${name} is not resolved`);
}

/** Names declared in a file that nothing refers to; types and values alike. */
function unusedOf(script: Script | undefined): Set<string> {
  const unused = new Set<string>();
  if (!script) return unused;
  const typeNames = new Set<string>();
  script.program.traverse({
    TSTypeReference(path) {
      const name = path.node.typeName;
      const root = t.isTSQualifiedName(name) ? name.left : name;
      if (t.isIdentifier(root)) typeNames.add(root.name);
    },
    TSTypeQuery(path) {
      const name = path.node.exprName;
      if (t.isIdentifier(name)) typeNames.add(name.name);
    },
    TSExpressionWithTypeArguments(path) {
      if (t.isIdentifier(path.node.expression)) typeNames.add(path.node.expression.name);
    },
  });
  script.program.traverse({
    Scope(path) {
      for (const [name, binding] of Object.entries(path.scope.bindings)) {
        const exported = binding.path.findParent((parent) => parent.isExportDeclaration()) !== null;
        const parameter = binding.kind === 'param' || t.isFunctionExpression(binding.path.node);
        if (!binding.referenced && !exported && !parameter && !typeNames.has(name)) unused.add(name);
      }
    },
  });
  return unused;
}

function unusedNames(before: Script | undefined, after: Script): string[] {
  const known = unusedOf(before);
  return [...unusedOf(after)]
    .filter((name) => !known.has(name) && name !== 'React')
    .map((name) => `the name ${name} is left unused`);
}

function commentsOf(script: Script): string[] {
  return (script.ast.comments ?? []).map((comment) => plainComment(comment.value));
}

function markupComments(text: string | null): string[] {
  return [...(text ?? '').matchAll(/<!--([\s\S]*?)-->/g)].map(([, words]) => (words ?? '').replace(/\s+/g, ' ').trim());
}

/** Comments that a schema holds, a line each. */
function dataComments(text: string): string[] {
  const found: string[] = [];
  JSON.parse(text, (key, value: unknown) => {
    if (key === '$comment' && typeof value === 'string') found.push(...value.split('\n').map(plainComment));
    return value;
  });
  return found;
}

/** Comments that stood in some file before and stand in none after. */
function lostComments(before: readonly string[], after: readonly string[]): string[] {
  const left = [...after];
  const lost: string[] = [];
  for (const comment of before) {
    const index = left.indexOf(comment);
    if (index >= 0) left.splice(index, 1);
    else lost.push(`the comment "${comment}" is lost`);
  }
  return lost;
}
