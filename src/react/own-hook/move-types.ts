import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOf } from '../code.js';
import { expressionTypes } from '../../source/expression-types.js';
import { type Move, leave } from './move.js';
import { walk } from '../../source/traverse.js';

/** The types that stand for the hook's type parameters where the component calls it. */
export function givenTypes(move: Move): Map<string, string> {
  const { hook, site } = move;
  const found = new Map<string, string>();
  const parameters = hook.fn.node.typeParameters;
  if (!t.isTSTypeParameterDeclaration(parameters)) return found;
  const given = hook.call.node.typeParameters?.params ?? [];
  for (const [index, parameter] of parameters.params.entries()) {
    const name = String(parameter.name);
    const written = given[index];
    const text = written ? site.script.text.slice(written.start ?? 0, written.end ?? 0) : inferredType(move, name);
    if (text !== undefined) found.set(name, text);
  }
  return found;
}

/** The hook's type parameters give way to the types the component names. */
export function typeEdits(move: Move): void {
  const { hook } = move;
  const parameters = hook.fn.node.typeParameters;
  if (!t.isTSTypeParameterDeclaration(parameters)) return;
  const types = givenTypes(move);
  const body = hook.fn.get('body') as NodePath;
  for (const parameter of parameters.params) {
    const name = String(parameter.name);
    const text = types.get(name);
    walk(body, {
      ForInStatement(loop) {
        leave(
          move,
          spanOf(hook.script.file, loop),
          `for … in`,
          `its keys are typed by ${name}, which only the hook knows`,
        );
        loop.skip();
      },
      TSTypeReference(reference) {
        if (!t.isIdentifier(reference.node.typeName, { name })) return;
        if (text === undefined) {
          const span = spanOf(hook.script.file, reference);
          leave(move, span, name, 'which type it stands for is not written where the hook is called');
          reference.stop();
          return;
        }
        move.edits.push({ start: reference.node.start ?? 0, end: reference.node.end ?? 0, text });
      },
    });
  }
}

/** The type of the argument whose parameter is typed by nothing but the type parameter. */
function inferredType({ hook, site }: Move, name: string): string | undefined {
  for (const [index, parameter] of hook.fn.node.params.entries()) {
    const inner = t.isAssignmentPattern(parameter) ? parameter.left : parameter;
    const annotation = t.isIdentifier(inner) ? inner.typeAnnotation : undefined;
    if (!t.isTSTypeAnnotation(annotation)) continue;
    const type = annotation.typeAnnotation;
    if (!t.isTSTypeReference(type) || !t.isIdentifier(type.typeName, { name })) continue;
    const argument = hook.call.node.arguments[index];
    if (t.isObjectExpression(argument))
      return expressionTypes(site.script).typeOf((hook.call.get('arguments') as NodePath[])[index] as NodePath);
    if (!t.isIdentifier(argument)) return undefined;
    const declared = hook.call.scope.getBinding(argument.name)?.path;
    const id = declared?.isVariableDeclarator() ? declared.node.id : undefined;
    const own = t.isIdentifier(id) ? id.typeAnnotation : undefined;
    if (t.isTSTypeAnnotation(own))
      return site.script.text.slice(own.typeAnnotation.start ?? 0, own.typeAnnotation.end ?? 0);
    return `typeof ${argument.name}`;
  }
  return undefined;
}
