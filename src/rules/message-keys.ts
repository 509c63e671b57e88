import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare } from '../source/behind-names.js';
import { keyAt, meaningOf, type Meaning, type Names, type RuleLens } from './meanings.js';
import { asked, type Context } from './stated-rule.js';

/** Words by which variables and elements for messages are known. */
export const errorWords = /err|problem|invalid|warn|message|fault|complaint|wrong|hint|issue|missing|alert|danger/i;

/** Names under which a message for the whole form is kept. */
export const wholeForm =
  /^(form|root|_\w*|all|general|global|server|submit|base|summary|common|top|message|request|api|network|other)$/i;

/** The name of a member that is asked for by it or by a plain text; undefined where it is worked out. */
function memberName({ property, computed }: t.MemberExpression): string | undefined {
  if (!computed) return t.isIdentifier(property) ? property.name : undefined;
  return t.isStringLiteral(property) ? property.value : undefined;
}

/** A test of which field is asked for: `if (name === 'place')`. */
export function keyTested(test: NodePath, context: Context): { name: string; binding: unknown } | undefined {
  if (!test.isBinaryExpression() || !/^===?$/.test(test.node.operator)) return undefined;
  const [left, right] = [test.get('left') as NodePath, test.get('right')];
  const asksKey = (path: NodePath): boolean => meaningOf(asked(path, context))?.kind === 'key';
  const side = asksKey(left) ? left : asksKey(right) ? right : undefined;
  const literal = side === left ? right.node : left.node;
  if (!side?.isIdentifier() || !t.isStringLiteral(literal)) return undefined;
  return { name: literal.value, binding: side.scope.getBinding(side.node.name) };
}

/** Names of a branch that is for one field by its name. */
export function named(key: string, binding: unknown, context: Context): Pick<Context, 'key' | 'names'> {
  return { key, names: new Map<unknown, Meaning>([...context.names, [binding, { kind: 'key', name: key }]]) };
}

/** Whether an object has a member of a field's name. */
export function namesAField(path: NodePath, lens: RuleLens): boolean {
  const object = bare(path);
  return (
    object.isObjectExpression() &&
    object.node.properties.some(
      (one) => t.isObjectProperty(one) && t.isIdentifier(one.key) && lens.fields.includes(one.key.name),
    )
  );
}

/** The name under which a message is kept: `errors.place`, `errors['place']`; true for a variable of one message. */
export function keyOfTarget(target: NodePath, context: Context, lens: RuleLens): string | true | undefined {
  if (target.isIdentifier()) return true;
  if (!target.isMemberExpression()) return undefined;
  if (standsForNode(target.get('object'))) return undefined;
  const name = memberName(target.node);
  if (name !== undefined) return holdsMessages(target.get('object'), name, lens) ? name : undefined;
  if (!target.node.computed) return undefined;
  const key = keyAt(asked(target.get('property') as NodePath, context));
  return key ? (key.name ?? context.key) : undefined;
}

/** Whether an object that gets a member holds messages: by its name, or because a member of a field's name is put there. */
function holdsMessages(object: NodePath, name: string, lens: RuleLens): boolean {
  const isOne = (key: string): boolean =>
    lens.fields.includes(key) || lens.fields.some((field) => field.endsWith(`.${key}`));
  if (isOne(name) || !object.isIdentifier() || lens.fields.some((field) => lens.kindOf(field) === 'group')) return true;
  if (errorWords.test(object.node.name) || /^(?:found|result)/.test(object.node.name)) return true;
  const binding = object.scope.getBinding(object.node.name);
  return (binding?.referencePaths ?? []).some(({ parent }) => {
    if (!t.isMemberExpression(parent)) return false;
    const key = memberName(parent);
    return key === undefined ? parent.computed : isOne(key);
  });
}

/** An element of the page, or a reference to one. */
function standsForNode(path: NodePath): boolean {
  return (
    path.isMemberExpression() &&
    t.isIdentifier(path.node.property) &&
    /^(current|target|style)$/.test(path.node.property.name)
  );
}

/** Whether a switch asks for names of fields and nothing else. */
export function namesFields(statement: NodePath<t.SwitchStatement>, lens: RuleLens): boolean {
  const labels = statement.node.cases.flatMap(({ test }) => test ?? []);
  const asks = bare(statement.get('discriminant')).isIdentifier();
  return asks && labels.length > 0 && labels.every((one) => t.isStringLiteral(one) && lens.fields.includes(one.value));
}

/** The names of a function that is asked for a field by its name, with the parameter that brings the field's value. */
export function withValueOf(label: string | undefined, discriminant: NodePath, { names }: Context): Names {
  const binding = discriminant.isIdentifier() ? discriminant.scope.getBinding(discriminant.node.name) : undefined;
  const fn = binding?.kind === 'param' ? binding.scope.path : undefined;
  if (!fn?.isFunction() || label === undefined) return names;
  const value = fn.node.params.find(
    (one) => t.isIdentifier(one) && /^(v|val|value|text|input|entry|next)$/i.test(one.name),
  );
  if (!t.isIdentifier(value)) return names;
  const own = fn.scope.getOwnBinding(value.name);
  return names.has(own) ? names : new Map<unknown, Meaning>([...names, [own, { kind: 'field', name: label }]]);
}

/** The property of a message that says which field it is about: `{ field: 'place', text: 'Where?' }`. */
export function subjectOf(
  path: NodePath<t.ObjectExpression>,
  lens: RuleLens,
): { node: t.Node; name: string } | undefined {
  for (const property of path.node.properties) {
    if (!t.isObjectProperty(property) || !t.isIdentifier(property.key) || !t.isStringLiteral(property.value)) continue;
    const says = /^(field|name|key|path|id|which|where|at|of)$/i.test(property.key.name);
    if (says && lens.fields.includes(property.value.value)) return { node: property, name: property.value.value };
  }
  return undefined;
}

/** Words for what a message consists of. */
const parts = /^(message|msg|text|title|subtitle|description|detail|details|kind|type|severity|level|variant)$/i;

/**
 * What an object of one message says, where it is none of messages by field: `{ type: 'error', message: 'Too heavy' }`.
 * @returns undefined where its members go by names of fields; the text's member where there is one
 */
export function oneMessage(path: NodePath<t.ObjectExpression>, lens: RuleLens): { text?: NodePath } | undefined {
  const members = new Map<string, NodePath>();
  for (const property of path.get('properties')) {
    if (!property.isObjectProperty() || property.node.computed) return undefined;
    const { key } = property.node;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : '';
    members.set(name, property.get('value') as NodePath);
  }
  const names = [...members.keys()];
  // the members of a group go by their own names
  if (names.some((name) => lens.fields.includes(name)) || lens.fields.some((field) => lens.kindOf(field) === 'group'))
    return undefined;
  const isOne =
    names.some((name) => parts.test(name)) || (names.length > 1 && !names.some((name) => wholeForm.test(name)));
  if (!isOne) return undefined;
  const text = names.find((name) => /^(message|msg|text|detail|details|description|subtitle)$/i.test(name));
  const value = text === undefined ? undefined : members.get(text);
  return value ? { text: value } : {};
}
