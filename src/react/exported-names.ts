import * as t from '@babel/types';
import type { Script } from '../source/script.js';

/** The name under which a file exports something it declares; undefined where it keeps it to itself. */
export function exportedAs(script: Script, name: string): string | undefined {
  for (const statement of script.ast.program.body) {
    if (t.isExportDefaultDeclaration(statement)) {
      const { declaration } = statement;
      const text = script.text.slice(declaration.start ?? 0, declaration.end ?? 0);
      if (t.isFunctionDeclaration(declaration) || t.isClassDeclaration(declaration)) {
        if ((declaration.id?.name ?? name) === name) return 'default';
      } else if (new RegExp(`\\b${name}\\b`).test(text) || !t.isIdentifier(declaration)) return 'default';
    }
    if (!t.isExportNamedDeclaration(statement)) continue;
    if (statement.declaration && name in t.getBindingIdentifiers(statement.declaration, false, true)) return name;
    if (t.isClassDeclaration(statement.declaration) && statement.declaration.id?.name === name) return name;
    for (const specifier of statement.specifiers) {
      if (t.isExportSpecifier(specifier) && specifier.local.name === name)
        return t.isIdentifier(specifier.exported) ? specifier.exported.name : specifier.exported.value;
    }
  }
  return undefined;
}
