import path from 'node:path';
import * as t from '@babel/types';
import { importedFile } from './project-files.js';
import { parseScript } from './script.js';
import type { Workspace } from './workspace.js';

/** A project with more scripts than this is not searched. */
const most = 20_000;

/**
 * Says which scripts of a project import a name from a file, or hand it on. The project is searched when it is first
 * asked, and each of its files is parsed at most once.
 * @returns asked with the absolute path of the file and the exported name (`default` for the default): absolute paths;
 *   undefined where the project is too large to be searched, or nothing tells where it ends
 */
export function importersIn(workspace: Workspace): (file: string, name: string) => string[] | undefined {
  const scripts = remembered((root: string) => scriptsUnder(root, workspace));
  const taken = remembered((script: string) => {
    const read = workspace.read(script);
    return read.ok ? takenBy(script, read.text) : [];
  });
  return (file, name) => {
    const stem = path.basename(file).replace(/\.[^.]+$/, '');
    const root = rootOf(workspace, file);
    const all = root === undefined ? undefined : scripts(root);
    return all?.filter((script) => {
      const read = workspace.read(script);
      // an index is named by its folder, or by a dot
      const mayName = read.ok && (stem === 'index' || read.text.includes(stem));
      if (script === file || !mayName) return false;
      // what does not parse may take anything
      return (
        taken(script)?.some(
          (one) =>
            (one.name === undefined || one.name === name) && importedFile(workspace, script, one.module) === file,
        ) ?? true
      );
    });
  };
}

function remembered<Value>(work: (key: string) => Value): (key: string) => Value {
  const known = new Map<string, Value>();
  return (key) => {
    const value = known.has(key) ? (known.get(key) as Value) : work(key);
    known.set(key, value);
    return value;
  };
}

/** What a script takes from modules; without a name it takes all. Undefined where it does not parse. */
function takenBy(file: string, text: string): { module: string; name?: string }[] | undefined {
  const parsed = parseScript(file, text);
  if (!parsed.ok) return undefined;
  const asked = [...text.matchAll(/\b(?:require|import|mock)\(\s*['"]([^'"]+)['"]/g)];
  const whole = asked.map(([, module = '']) => ({ module }));
  const nameOf = (node: t.Identifier | t.StringLiteral): string => (t.isIdentifier(node) ? node.name : node.value);
  const named = parsed.script.ast.program.body.flatMap((node): { module: string; name?: string }[] => {
    if (t.isExportAllDeclaration(node)) return [{ module: node.source.value }];
    if (t.isImportDeclaration(node))
      return node.specifiers.map((one) => {
        if (t.isImportNamespaceSpecifier(one)) return { module: node.source.value };
        const name = t.isImportDefaultSpecifier(one) ? 'default' : nameOf(one.imported);
        return { module: node.source.value, name };
      });
    const { source, specifiers } = t.isExportNamedDeclaration(node) ? node : {};
    if (!source) return [];
    return (specifiers ?? []).map((one) =>
      t.isExportSpecifier(one) ? { module: source.value, name: nameOf(one.local) } : { module: source.value },
    );
  });
  return [...whole, ...named];
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
