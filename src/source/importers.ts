import path from 'node:path';
import * as t from '@babel/types';
import { importedFile } from './project-files.js';
import { parseScript } from './script.js';
import type { Workspace } from './workspace.js';

/** A project with more scripts than this is not searched. */
const most = 20_000;

/**
 * The scripts of a project that import a name from a file, or hand it on.
 * @param file absolute path of the file that exports it
 * @param name the exported name; `default` for the default
 * @returns absolute paths; undefined where the project is too large to be searched, or nothing tells where it ends
 */
export function importersOf(workspace: Workspace, file: string, name: string): string[] | undefined {
  const stem = path.basename(file).replace(/\.[^.]+$/, '');
  const root = rootOf(workspace, file);
  const scripts = root === undefined ? undefined : scriptsUnder(root, workspace);
  if (!scripts) return undefined;
  return scripts.filter((script) => {
    const read = workspace.read(script);
    // an index is named by its folder, or by a dot
    const mayName = read.ok && (stem === 'index' || read.text.includes(stem));
    if (script === file || !read.ok || !mayName) return false;
    return takes(script, read.text, (module) => importedFile(workspace, script, module) === file, name);
  });
}

/** Whether a script takes a name from a module: by an import, by handing it on, or with everything else. */
function takes(file: string, text: string, isModule: (module: string) => boolean, name: string): boolean {
  const parsed = parseScript(file, text);
  // what does not parse may take anything
  if (!parsed.ok) return true;
  for (const [, module = ''] of text.matchAll(/\b(?:require|import|mock)\(\s*['"]([^'"]+)['"]/g))
    if (isModule(module)) return true;
  return parsed.script.ast.program.body.some((node) => {
    if (t.isExportAllDeclaration(node)) return isModule(node.source.value);
    if (t.isImportDeclaration(node) && isModule(node.source.value))
      return node.specifiers.some((one) => {
        if (t.isImportNamespaceSpecifier(one)) return true;
        if (t.isImportDefaultSpecifier(one)) return name === 'default';
        return (t.isIdentifier(one.imported) ? one.imported.name : one.imported.value) === name;
      });
    if (!t.isExportNamedDeclaration(node) || !node.source || !isModule(node.source.value)) return false;
    return node.specifiers.some((one) => t.isExportSpecifier(one) && one.local.name === name);
  });
}

/** The folder of the nearest package around a file. */
function rootOf(workspace: Workspace, file: string): string | undefined {
  for (let folder = path.dirname(file); ; folder = path.dirname(folder)) {
    if (workspace.exists(path.join(folder, 'package.json'))) return folder;
    if (path.dirname(folder) === folder) return undefined;
  }
}

function scriptsUnder(root: string, workspace: Workspace): string[] | undefined {
  const found: string[] = [];
  const waiting = [root];
  for (let folder = waiting.pop(); folder !== undefined; folder = waiting.pop()) {
    for (const entry of workspace.list(folder)) {
      if (entry.startsWith('.') || /^(?:node_modules|dist|build|coverage)$/.test(entry)) continue;
      const place = path.join(folder, entry);
      if (/\.[cm]?[jt]sx?$/.test(entry)) found.push(place);
      else if (!entry.includes('.')) waiting.push(place);
      if (found.length > most) return undefined;
    }
  }
  return found;
}
