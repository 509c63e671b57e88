import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { declarationNamed } from '../../source/type-members.js';
import { put, textAt, type Leaving, type RuleFunction, type RuleSource, type Stated } from './leaving.js';
import { calledOf, isFunction, plainIdentifiers } from './rule-texts.js';

/** The function that a schema is: in place, or by a name of this file or another. */
export function ruleSource(node: t.Node | undefined, script: Script, leaving: Leaving): RuleSource | undefined {
  if (isFunction(node)) return { fn: node, script, wrap: undefined, declared: undefined, name: undefined };
  if (t.isCallExpression(node) && calledOf(node, script) === 'schema') {
    const inner = ruleSource(node.arguments[0], script, leaving);
    return inner && { ...inner, wrap: node };
  }
  if (!t.isIdentifier(node)) return undefined;
  const found = declarationNamed(node.name, script, leaving.load);
  if (!found) return undefined;
  const of = t.isVariableDeclarator(found.node) ? (found.node.init ?? undefined) : found.node;
  const own = t.isIdentifier(of) ? undefined : ruleSource(of, found.script, leaving);
  return own && { ...own, declared: found.node, name: node.name };
}

/** Whether a schema that has a name is asked for by other files than those of the form. */
export function usedElsewhere({ script, name }: RuleSource, { context, component, supports }: Leaving): boolean {
  const users = context.importers(script.file, name ?? '');
  if (script.file === component.script.file) return users === undefined || users.length > 0;
  const own = new Set([component.script.file, ...[...supports.keys()].map(({ file }) => file)]);
  return users === undefined || users.some((file) => !own.has(file));
}

/** Takes the call away that makes a schema of a function. */
export function unwrap(wrap: t.CallExpression | undefined, fn: RuleFunction, script: Script, leaving: Leaving): void {
  if (!wrap) return;
  put(leaving, script, wrap.start ?? 0, fn.start ?? 0, '');
  put(leaving, script, fn.end ?? 0, wrap.end ?? 0, '');
}

/** A name for the values where the schema speaks of a path. */
export function valueName(name: string, fn: RuleFunction, role: 'whole' | 'part', { found, type }: Leaving): string {
  if (!/^(path|p|paths|schemaPath|schema|root|f|form|field)$/.test(name)) return name;
  const taken = new Set(plainIdentifiers(fn.body).map((one) => one.name));
  let declares = false;
  t.traverseFast(fn.body, (node) => {
    if (t.isVariableDeclarator(node) && t.isIdentifier(node.id, { name: 'value' })) declares = true;
  });
  if (role === 'part')
    return [...(declares ? [] : ['value']), 'given'].find((one) => one === 'value' || !taken.has(one)) ?? name;
  const named = /^[A-Z]\w*$/.test(type) ? type.charAt(0).toLowerCase() + type.slice(1) : found.model.name;
  return [named, 'values', 'given'].find((one) => !taken.has(one)) ?? name;
}

/** The type of the values at a path, as its parameter, the call around it, or its declaration says. */
export function typeOfPath(
  parameter: t.Identifier,
  wrap: t.CallExpression | undefined,
  declared: t.Node | undefined,
  script: Script,
): string | undefined {
  const inner = (node: t.Node | null | undefined): string | undefined => {
    const type = t.isTSTypeAnnotation(node) ? node.typeAnnotation : undefined;
    const first = t.isTSTypeReference(type) ? type.typeParameters?.params[0] : undefined;
    return first && textAt(script, first);
  };
  const own = inner(parameter.typeAnnotation);
  if (own !== undefined) return own;
  const given = wrap?.typeParameters?.params[0];
  if (given) return textAt(script, given);
  return t.isVariableDeclarator(declared) && t.isIdentifier(declared.id)
    ? inner(declared.id.typeAnnotation)
    : undefined;
}

/** Further parameters of a function of rules that are paths as well. */
export function pathParameters({ params }: RuleFunction, script: Script): Stated['others'] {
  return params.flatMap((one, index) => {
    const type =
      t.isIdentifier(one) && t.isTSTypeAnnotation(one.typeAnnotation) ? textAt(script, one.typeAnnotation) : '';
    return index > 0 && t.isIdentifier(one) && /\bSchemaPath/.test(type)
      ? [{ name: one.name, index, keeps: false }]
      : [];
  });
}
