import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Span } from '../../form/code.js';
import { spanOf } from '../code.js';
import { functionAround } from '../components.js';
import { onlyAssigns } from './control-values.js';

/** Names that a handler declares for a change alone, and that the values of single fields do not need. */
export function sparesOf(call: NodePath, needed: readonly Code[], file: string): Span[] {
  const fn = functionAround(call);
  if (!fn) return [];
  const inside = (node: t.Node, span: { start: number; end: number }): boolean =>
    (node.start ?? 0) >= span.start && (node.end ?? 0) <= span.end;
  const whole = { start: call.node.start ?? 0, end: call.node.end ?? 0 };
  const spares: Span[] = [];
  // what a hole stands for is printed from elsewhere
  const isNeeded = (node: t.Node): boolean =>
    needed.some((code) => inside(node, code) && !code.holes.some((hole) => inside(node, hole)));
  const isSpare = (name: string): boolean => {
    const binding = fn.scope.getOwnBinding(name) ?? call.scope.getBinding(name);
    return (
      binding !== undefined &&
      binding.references > 0 &&
      binding.referencePaths.every(
        ({ node }) => !isNeeded(node) && (inside(node, whole) || spares.some((span) => inside(node, span))),
      )
    );
  };
  const body = fn.get('body') as NodePath;
  const statements = body.isBlockStatement() ? body.get('body') : [];
  for (const statement of [...statements].reverse()) {
    if (statement.isIfStatement()) {
      const assigned = onlyAssigns(statement);
      if (assigned?.length && assigned.every(isSpare)) spares.push(spanOf(file, statement));
      continue;
    }
    if (!statement.isVariableDeclaration() || statement.node.declarations.length !== 1) continue;
    const [declarator] = statement.node.declarations;
    const names = Object.keys(t.getBindingIdentifiers(statement.node));
    if (names.every(isSpare)) spares.push(spanOf(file, statement));
    else if (t.isObjectPattern(declarator?.id)) {
      const { properties } = declarator.id;
      const isGone = (index: number): boolean => {
        const property = properties[index];
        return t.isObjectProperty(property) && t.isIdentifier(property.value) && isSpare(property.value.name);
      };
      for (let first = 0; first < properties.length; first++) {
        if (!isGone(first)) continue;
        let last = first;
        while (isGone(last + 1)) last++;
        const next = properties[last + 1];
        spares.push({
          file,
          start: next ? (properties[first]?.start ?? 0) : (properties[first - 1]?.end ?? properties[first]?.start ?? 0),
          end: next ? (next.start ?? 0) : (properties[last]?.end ?? 0),
        });
        first = last;
      }
    }
  }
  return spares;
}
