import * as t from '@babel/types';
import { fieldsOf, type FormModel } from '../form/model.js';
import { parseScript, type Script } from '../source/script.js';
import { overlaid, type Workspace } from '../source/workspace.js';
import { formsOfFile, type ReadSettings } from './forms.js';
import type { FileChange } from './rewrite.js';

/**
 * Checks a rewrite before anyone sees it: files parse, no name is unresolved, unused or declared twice that was not
 * before, every comment is still there, and the target's reader finds the same fields.
 * @returns what failed, in words; empty where all is well
 */
export function selfCheck(model: FormModel, files: readonly FileChange[], to: string, workspace: Workspace, settings: ReadSettings): string[] {
  const failed: string[] = [];
  for (const change of files) {
    if (change.after === null) continue;
    const after = parseScript(change.file, change.after);
    if (!after.ok) {
      failed.push(`the result does not parse: line ${after.problem.line}: ${after.problem.reason}`);
      continue;
    }
    const before = change.before === null ? undefined : parseScript(change.file, change.before);
    const old = before?.ok ? before.script : undefined;
    failed.push(...unresolvedNames(old, after.script), ...unusedNames(old, after.script));
  }
  failed.push(...lostComments(files));
  if (failed.length) return failed;
  const result = overlaid(workspace, new Map(files.map((change) => [change.file, change.after])));
  const read = result.read(model.file);
  const found = read.ok ? formsOfFile(model.file, read.text, result, settings) : undefined;
  const form = found?.ok ? found.forms.find((candidate) => candidate.name === model.name) : undefined;
  if (form?.approach !== to) return [`the result is read as ${form?.approach ?? 'no form'}, not as ${to}`];
  return missingFields(model, form);
}

/** Fields that a control edits and that the target's reader does not find, and values it does not find at all. */
function missingFields(model: FormModel, form: { fieldNames: string[]; read: (() => FormModel) | undefined }): string[] {
  const edited = new Set(model.controls.map((control) => /^[^.[]+/.exec(control.field)?.[0] ?? control.field));
  const names = new Map(model.fields.map((field) => [field.name, field.names.value ?? field.name]));
  const known = (name: string): boolean => form.fieldNames.includes(name) || form.fieldNames.includes(names.get(name) ?? name) || form.fieldNames.includes(`${name}Value`);
  const lost = fieldsOf(model).filter(({ name }) => edited.has(name) && !known(name));
  return lost.map(({ name }) => `the field ${name} is not found in the result, which has ${form.fieldNames.join(', ')}`);
}

/** Names that values refer to and that no scope of the file declares. Types are the compiler's business. */
function globalsOf(script: Script | undefined): Set<string> {
  const globals = new Set<string>();
  script?.program.traverse({
    ReferencedIdentifier(path) {
      const { name } = path.node as t.Identifier | t.JSXIdentifier;
      if (path.isJSXIdentifier() && /^[a-z]/.test(name)) return;
      const inType = path.parent.type.startsWith('TS') && !/^TS(As|NonNull|Satisfies|TypeAssertion|ExportAssignment|EnumMember)/.test(path.parent.type);
      if (!inType && !path.scope.hasBinding(name, true) && !path.findParent((parent) => parent.isTSType())) globals.add(name);
    },
  });
  return globals;
}

function unresolvedNames(before: Script | undefined, after: Script): string[] {
  const known = globalsOf(before);
  const common = /^(undefined|Object|Partial|Date|Math|Number|String|Boolean|Array|Set|Map|NaN|Infinity)$/;
  return [...globalsOf(after)].filter((name) => !known.has(name) && !common.test(name)).map((name) => `the name ${name} is not resolved`);
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
  return [...unusedOf(after)].filter((name) => !known.has(name) && name !== 'React').map((name) => `the name ${name} is left unused`);
}

function commentsOf(file: string, text: string | null): string[] {
  const parsed = text === null ? undefined : parseScript(file, text);
  if (!parsed?.ok) return [];
  return (parsed.script.ast.comments ?? []).map((comment) => comment.value.replace(/\s+/g, ' ').trim());
}

/** Comments that stood in some file before and stand in none after. */
function lostComments(files: readonly FileChange[]): string[] {
  const after = files.flatMap((change) => commentsOf(change.file, change.after));
  const lost: string[] = [];
  for (const comment of files.flatMap((change) => commentsOf(change.file, change.before))) {
    const index = after.indexOf(comment);
    if (index >= 0) after.splice(index, 1);
    else lost.push(`the comment "${comment}" is lost`);
  }
  return lost;
}
