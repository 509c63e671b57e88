import * as t from '@babel/types';
import type { Script } from './script.js';

/** A name of another file. */
export interface HandedName {
  /** The module as the file names it. */
  module: string;
  /** What it is called there; `default` for the default. */
  name: string;
}

function textOf(node: t.Identifier | t.StringLiteral): string {
  return t.isIdentifier(node) ? node.name : node.value;
}

/** Where a file imports a name from; undefined where it does not, or takes all of a module under that name. */
export function importedFrom({ ast }: Script, local: string): HandedName | undefined {
  for (const statement of ast.program.body) {
    if (!t.isImportDeclaration(statement)) continue;
    const specifier = statement.specifiers.find((one) => one.local.name === local);
    if (!specifier || t.isImportNamespaceSpecifier(specifier)) continue;
    const name = t.isImportSpecifier(specifier) ? textOf(specifier.imported) : 'default';
    return { module: statement.source.value, name };
  }
  return undefined;
}

/** The name by which a file knows what it exports under another one: `export { Row as default }`. */
export function exportedLocally({ ast }: Script, exported: string): string | undefined {
  for (const statement of ast.program.body) {
    if (t.isExportDefaultDeclaration(statement) && exported === 'default' && t.isIdentifier(statement.declaration))
      return statement.declaration.name;
    if (!t.isExportNamedDeclaration(statement) || statement.source) continue;
    const own = statement.specifiers.find((one) => t.isExportSpecifier(one) && textOf(one.exported) === exported);
    if (t.isExportSpecifier(own)) return own.local.name;
  }
  return undefined;
}

/** Where a file may hand a name on from: by that name, else all files of which it hands on everything. */
export function handedOnFrom({ ast }: Script, exported: string): HandedName[] {
  const all: HandedName[] = [];
  for (const statement of ast.program.body) {
    if (t.isExportAllDeclaration(statement) && exported !== 'default')
      all.push({ module: statement.source.value, name: exported });
    if (!t.isExportNamedDeclaration(statement) || !statement.source) continue;
    const one = statement.specifiers.find((each) => t.isExportSpecifier(each) && textOf(each.exported) === exported);
    if (t.isExportSpecifier(one)) return [{ module: statement.source.value, name: textOf(one.local) }];
  }
  return all;
}
