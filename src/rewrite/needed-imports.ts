import * as t from '@babel/types';
import type { RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { applyEdits } from '../source/edits.js';
import { importedFile } from '../source/project-files.js';
import { parseScript, type Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';
import { unresolvedOf } from './net/soundness.js';
import type { Sources } from './sources.js';

/**
 * A plan that also imports what values ask for which stood in another file and come into the form’s own: names that the
 * other file exports.
 */
export function withNeededImports(
  plan: RewritePlan,
  model: FormModel,
  sources: Sources,
  workspace: Workspace,
): RewritePlan {
  const { file } = model;
  const homes = new Set(model.fields.flatMap(({ initial }) => initial.code?.file ?? []));
  homes.delete(file);
  const own = plan.edits.filter((edit) => edit.file === file);
  if (!homes.size || !own.length) return plan;
  const before = sources.script(file);
  let edits = plan.edits;
  const parsed = afterEdits(before, own);
  const known = new Set(unresolvedOf(before));
  for (const name of parsed ? new Set(unresolvedOf(parsed)) : []) {
    if (known.has(name)) continue;
    const home = [...homes].find((one) => /\.[cm]?[jt]sx?$/.test(one) && exportsName(sources.script(one), name));
    const declared = home && importOf(before, home, workspace);
    if (declared) edits = withSpecifier(edits, file, declared, name);
  }
  return edits === plan.edits ? plan : { ...plan, edits };
}

function afterEdits({ file, text }: Script, edits: RewritePlan['edits']): Script | undefined {
  try {
    const parsed = parseScript(file, applyEdits(text, edits));
    return parsed.ok ? parsed.script : undefined;
  } catch {
    // edits that touch one another are told by the net
    return undefined;
  }
}

function exportsName({ ast }: Script, name: string): boolean {
  return ast.program.body.some((node) => {
    if (!t.isExportNamedDeclaration(node)) return false;
    const { declaration, specifiers } = node;
    if (t.isVariableDeclaration(declaration))
      return declaration.declarations.some(({ id }) => t.isIdentifier(id, { name }));
    if (t.isFunctionDeclaration(declaration) || t.isClassDeclaration(declaration) || t.isTSEnumDeclaration(declaration))
      return declaration.id?.name === name;
    return specifiers.some((one) => t.isExportSpecifier(one) && t.isIdentifier(one.exported, { name }));
  });
}

/** The import by which a file takes values of another one by name. */
function importOf({ ast, file }: Script, home: string, workspace: Workspace): t.ImportDeclaration | undefined {
  return ast.program.body.find(
    (node): node is t.ImportDeclaration =>
      t.isImportDeclaration(node) &&
      node.importKind !== 'type' &&
      node.specifiers.some((one) => t.isImportSpecifier(one)) &&
      importedFile(workspace, file, node.source.value) === home,
  );
}

/** Edits with a name more in an import: behind what another edit writes of it, or behind its last name. */
function withSpecifier(
  edits: RewritePlan['edits'],
  file: string,
  declared: t.ImportDeclaration,
  name: string,
): RewritePlan['edits'] {
  const last = declared.specifiers.findLast((one) => t.isImportSpecifier(one))?.end ?? 0;
  const [start, end] = [declared.start ?? 0, declared.end ?? 0];
  const index = edits.findIndex(
    (edit) =>
      edit.file === file && edit.start > start && edit.end <= last && edit.end >= last && edit.text.trim() !== '',
  );
  const known = edits[index];
  if (known) return edits.map((edit) => (edit === known ? { ...known, text: `${known.text}, ${name}` } : edit));
  const isTouched = edits.some((edit) => edit.file === file && edit.start < end && edit.end > start);
  return isTouched ? edits : [...edits, { file, start: last, end: last, text: `, ${name}` }];
}
