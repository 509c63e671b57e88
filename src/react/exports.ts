import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { functionOf, type FunctionPath } from './components.js';

/** What a file exports under a name: the expression behind it, or the function it declares. */
export function exportedValue(script: Script, name: string): NodePath | undefined {
  for (const statement of script.program.get('body')) {
    if (name === 'default' && statement.isExportDefaultDeclaration()) {
      const value = statement.get('declaration') as NodePath;
      return value.isIdentifier() ? declaredValue(script, value.node.name) : value;
    }
    if (!statement.isExportNamedDeclaration()) continue;
    for (const specifier of statement.node.specifiers) {
      const exported =
        t.isExportSpecifier(specifier) && t.isIdentifier(specifier.exported) ? specifier.exported.name : undefined;
      if (exported === name && t.isExportSpecifier(specifier)) return declaredValue(script, specifier.local.name);
    }
    if (statement.node.declaration && Object.keys(t.getBindingIdentifiers(statement.node.declaration)).includes(name))
      return declaredValue(script, name);
  }
  return undefined;
}

function declaredValue(script: Script, name: string): NodePath | undefined {
  const declared = script.program.scope.getBinding(name)?.path;
  if (declared?.isVariableDeclarator() && t.isIdentifier(declared.node.id)) return declared.get('init') as NodePath;
  return declared?.isFunctionDeclaration() ? declared : undefined;
}

/** The function that a file exports under a name. */
export function exportedFunction(script: Script, name: string): FunctionPath | undefined {
  const value = exportedValue(script, name);
  return value?.node ? functionOf(value) : undefined;
}
