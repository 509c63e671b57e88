import * as t from '@babel/types';
import { expandedType, type TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import type { ReducerCase } from './cases.js';
import type { HeldObject } from './held.js';

/**
 * The types of what a case is given, as the union of actions says them.
 * @param keys the members of the action that are asked for
 * @returns the text of the state's type and of each member's; undefined where they are not written
 */
export function typesOf(
  found: ReducerCase,
  keys: readonly string[],
  { fn, script, cases }: NonNullable<HeldObject['reducer']>,
  load: FormSite['load'],
): { state: string; keys: Map<string, { text: string; optional: boolean }> } | undefined {
  const [first, second] = fn.node.params;
  const annotation = (node: t.Node | undefined): t.Node | undefined => {
    const own = t.isAssignmentPattern(node) ? node.left : node;
    return own && 'typeAnnotation' in own && t.isTSTypeAnnotation(own.typeAnnotation)
      ? own.typeAnnotation.typeAnnotation
      : undefined;
  };
  const state = annotation(first);
  const action = annotation(second);
  if (!state) return undefined;
  const types = new Map<string, { text: string; optional: boolean }>();
  const members = action ? membersOf({ node: action, script }, load) : [];
  const own = members.filter((one) => found.types.includes(typeOfMember(one, cases.discriminant) ?? ''));
  for (const key of keys) {
    const texts = own.flatMap((member) => propertyOf(member, key) ?? []);
    const [one] = texts;
    if (!one || texts.some(({ file, text }) => file !== script.file && !isPlainType(text))) return undefined;
    types.set(key, {
      text: [...new Set(texts.map(({ text }) => text))].join(' | '),
      optional: texts.some(({ optional }) => optional),
    });
  }
  return { state: script.text.slice(state.start ?? 0, state.end ?? 0), keys: types };
}

/** Whether a type speaks of no names that a file would have to import. */
function isPlainType(text: string): boolean {
  return /^(?:string|number|boolean|null|undefined|unknown|['"][^'"]*['"]|[\s|[\]])+$/.test(text);
}

/** The members of a union, each down to what it is made of. */
function membersOf(type: TypeInFile, load: FormSite['load'], depth = 0): TypeInFile[] {
  const found = expandedType(type, load);
  if (!t.isTSUnionType(found.node) || depth > 4) return [found];
  return found.node.types.flatMap((node) => membersOf({ node, script: found.script }, load, depth + 1));
}

function signatures({ node }: TypeInFile): t.TSPropertySignature[] {
  const list = t.isTSTypeLiteral(node) ? node.members : t.isTSInterfaceBody(node) ? node.body : [];
  return list.filter((one): one is t.TSPropertySignature => t.isTSPropertySignature(one));
}

function typeOfMember(member: TypeInFile, discriminant: string): string | undefined {
  const own = signatures(member).find(({ key }) => t.isIdentifier(key, { name: discriminant }));
  const type = own?.typeAnnotation?.typeAnnotation;
  return t.isTSLiteralType(type) && t.isStringLiteral(type.literal) ? type.literal.value : undefined;
}

function propertyOf(member: TypeInFile, name: string): { text: string; optional: boolean; file: string } | undefined {
  const own = signatures(member).find(({ key }) => t.isIdentifier(key, { name }));
  const type = own?.typeAnnotation?.typeAnnotation;
  if (!own || !type) return undefined;
  const { script } = member;
  return {
    text: script.text.slice(type.start ?? 0, type.end ?? 0),
    optional: own.optional === true,
    file: script.file,
  };
}
