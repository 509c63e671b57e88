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
  const wanted = fieldsOf(model).map((field) => field.name).sort().join(', ');
  const got = [...form.fieldNames].sort().join(', ');
  return wanted === got ? [] : [`the result has the fields ${got} instead of ${wanted}`];
}

function globalsOf(script: Script | undefined): Set<string> {
  const globals = new Set(Object.keys(script ? script.program.scope.getProgramParent().globals : {}));
  // types are no bindings of a scope, so references to the file's own stand among the globals
  script?.program.traverse({
    'TSTypeAliasDeclaration|TSInterfaceDeclaration|TSEnumDeclaration|TSTypeParameter'(path) {
      const { node } = path;
      if (t.isTSTypeAliasDeclaration(node) || t.isTSInterfaceDeclaration(node) || t.isTSEnumDeclaration(node)) globals.delete(node.id.name);
      else if (t.isTSTypeParameter(node)) globals.delete(String(node.name));
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
