import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';

/** The place in a parsed JSON file that a JSON pointer leads to; undefined where it leads nowhere. */
export function followPointer(root: NodePath, pointer: string): NodePath | undefined {
  let at: NodePath | undefined = root;
  for (const part of pointer.split('/').slice(1)) {
    const name = part.replace(/~1/g, '/').replace(/~0/g, '~');
    if (at?.isArrayExpression()) at = at.get('elements')[Number(name)] as NodePath | undefined;
    else if (at?.isObjectExpression()) {
      const property: NodePath | undefined = at
        .get('properties')
        .find((one) => t.isObjectProperty(one.node) && t.isStringLiteral(one.node.key, { value: name }));
      at = property?.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    } else return undefined;
  }
  return at;
}
