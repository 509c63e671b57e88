import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { typeMembers, type TypeInFile } from '../source/type-members.js';
import type { FormSite } from './approach.js';
import type { ReducerState } from './reducer/state.js';

function annotationOf(node: t.Node | null | undefined): t.Node | undefined {
  return node && 'typeAnnotation' in node && t.isTSTypeAnnotation(node.typeAnnotation)
    ? node.typeAnnotation.typeAnnotation
    : undefined;
}

/** What tells the type of a reducer's state. */
export type StateHolder = Pick<ReducerState, 'reducer' | 'reducerScript' | 'initialObject'>;

/** The type a reducer gives its state: at its parameter, at its variable, or at the initial state. */
function stateType(state: StateHolder): TypeInFile | undefined {
  const script = state.reducerScript;
  const parameter = state.reducer.node.params[0];
  const own =
    annotationOf(t.isAssignmentPattern(parameter) ? parameter.left : parameter) ?? state.reducer.node.returnType;
  if (own) return { node: t.isTSTypeAnnotation(own) ? own.typeAnnotation : own, script };
  const holder = state.reducer.parentPath;
  const whole = holder.isVariableDeclarator() ? annotationOf(holder.node.id) : undefined;
  const given = t.isTSTypeReference(whole) ? whole.typeParameters?.params[0] : undefined;
  if (given) return { node: given, script };
  const object: NodePath | null | undefined = state.initialObject?.path.parentPath;
  const initial = object?.isVariableDeclarator() ? annotationOf(object.node.id) : undefined;
  return initial && state.initialObject ? { node: initial, script: state.initialObject.script } : undefined;
}

/**
 * The type of one member of a reducer's state, as source text that can stand in the component's file.
 * @returns undefined where it cannot be told, or speaks of names that only another file has
 */
export function memberTypeText(state: StateHolder, name: string, site: FormSite): string | undefined {
  return stateMembers(state, site.load).get(name);
}

/** The members of the type of a reducer's state: name to type, as source text. */
export function stateMembers(state: StateHolder, load: FormSite['load']): Map<string, string> {
  const texts = new Map<string, string>();
  for (const [name, { text, optional }] of typeMembers(stateType(state), load))
    texts.set(name, optional ? `${text} | undefined` : text);
  return texts;
}
