import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { walk } from '../source/traverse.js';

/** How many references a file holds to a name of its own top level, imports included; a member of a namespace counts too. */
export function namedReferences(script: Script, name: string): number {
  const binding = script.program.scope.getBinding(name);
  const direct = binding?.referencePaths.length ?? 0;
  let typeUses = 0;
  walk(script.program, {
    TSTypeReference(path) {
      if (t.isIdentifier(path.node.typeName, { name })) typeUses += 1;
    },
  });
  return direct + typeUses;
}
