import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Component } from '../components.js';
import type { Block } from './block.js';
import { says, saysAt, stays, takeStatement, type Leaving } from './leaving.js';

/** A component that is given what it needs of a form as properties, in place of what it was handed of a package. */
export interface Given {
  /** That of the component’s own file. */
  leaving: Leaving;
  component: Component & { kind: 'function' };
  /** Properties of its parameter that go with the package. */
  handed: readonly NodePath<t.ObjectProperty>[];
}

/** Where a component takes apart what it is given: its parameter, or the one statement that does nothing else with it. */
export function patternIn(component: NodePath): NodePath<t.ObjectPattern> | undefined {
  const [parameter] = component.isFunction() ? (component.get('params') as NodePath[]) : [];
  if (parameter?.isObjectPattern()) return parameter;
  const binding = parameter?.isIdentifier() ? parameter.scope.getBinding(parameter.node.name) : undefined;
  const [only, ...more] = binding?.referencePaths ?? [];
  const declarator = only?.key === 'init' && !more.length ? only.parentPath : undefined;
  const id = declarator?.isVariableDeclarator() ? (declarator.get('id') as NodePath) : undefined;
  return id?.isObjectPattern() ? id : undefined;
}

/** A property that a component takes apart, with the name that it gets there. */
export function takenProperty(
  component: NodePath,
  name: string,
): { property: NodePath<t.ObjectProperty>; local: NodePath<t.Identifier> } | undefined {
  const property = patternIn(component)
    ?.get('properties')
    .find((one) => t.isObjectProperty(one.node) && t.isIdentifier(one.node.key, { name }));
  const local = property?.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
  return property?.isObjectProperty() && local?.isIdentifier() ? { property, local } : undefined;
}

/** The name of all that a component is given, or of what it does not take apart of it. */
export function restOf(component: NodePath): string | undefined {
  const pattern = patternIn(component);
  const [parameter] = component.isFunction() ? component.node.params : [];
  if (!pattern) return t.isIdentifier(parameter) ? parameter.name : undefined;
  const last = pattern.node.properties.at(-1);
  return t.isRestElement(last) && t.isIdentifier(last.argument) ? last.argument.name : undefined;
}

/** Whether an element is given all that a name stands for: `{...rest}`. */
export function spreads(element: NodePath<t.JSXElement>, name: string | undefined): boolean {
  return element.node.openingElement.attributes.some(
    (one) => t.isJSXSpreadAttribute(one) && t.isIdentifier(one.argument) && one.argument.name === name,
  );
}

/** The type that is written for what a component is given. */
function noteOf({ node }: NodePath): t.TSType | undefined {
  const note = t.isObjectPattern(node) || t.isIdentifier(node) ? node.typeAnnotation : undefined;
  return t.isTSTypeAnnotation(note) ? note.typeAnnotation : undefined;
}

/** The members of a type that is written out, with the statement that declares it where it has a name. */
interface TypeMembers {
  nodes: t.TSPropertySignature[];
  /** How many members it has, of whatever kind. */
  all: number;
  literal: t.Node;
  declared: t.Node | undefined;
}

/** The members of the type of what a component is given: written out beside it, or a type of its file. */
export function membersOf(parameter: NodePath): TypeMembers | undefined {
  const type = noteOf(parameter);
  const members = (all: readonly t.Node[], literal: t.Node, declared?: t.Node): TypeMembers => ({
    nodes: all.filter((one) => t.isTSPropertySignature(one)),
    all: all.length,
    literal,
    declared,
  });
  if (t.isTSTypeLiteral(type)) return members(type.members, type);
  const name = t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : undefined;
  const program = parameter.scope.getProgramParent().path.node;
  for (const one of t.isProgram(program) ? program.body : []) {
    const own = t.isExportNamedDeclaration(one) ? one.declaration : one;
    if (t.isTSInterfaceDeclaration(own) && own.id.name === name) return members(own.body.body, own.body, one);
    if (t.isTSTypeAliasDeclaration(own) && own.id.name === name && t.isTSTypeLiteral(own.typeAnnotation))
      return members(own.typeAnnotation.members, own.typeAnnotation, one);
  }
  return undefined;
}

/** The name of a member of a type; empty where it has none. */
export function nameOfMember({ key }: t.TSPropertySignature): string {
  return t.isIdentifier(key) ? key.name : '';
}

/**
 * The pattern of a component’s parameter with further names, and without those that it was handed.
 * @param names asked for in the end
 */
export function sayPattern(
  { handed, leaving: own }: Given,
  parameter: NodePath | undefined,
  names: readonly string[],
): void {
  if (!parameter?.isObjectPattern()) {
    // by its properties alone the type can be told
    if (parameter && !parameter.isIdentifier()) stays(own, parameter, 'what it is given has no plain name');
    return;
  }
  const { text } = own.script;
  const gone = new Set(handed.map(({ node }) => node as t.Node));
  const kept = parameter.node.properties.filter((one) => !gone.has(one));
  const texts = kept.map(({ start, end }) => text.slice(start ?? 0, end ?? 0));
  const isRest = t.isRestElement(kept.at(-1));
  const typed = parameter.node.typeAnnotation?.start ?? undefined;
  const end = typed === undefined ? (parameter.node.end ?? 0) : text.lastIndexOf('}', typed) + 1;
  saysAt(own, parameter.node.start ?? 0, end, () => {
    if (!names.length && !handed.length) return text.slice(parameter.node.start ?? 0, end);
    const all = isRest ? [...texts.slice(0, -1), ...names, ...texts.slice(-1)] : [...texts, ...names];
    return `{ ${all.join(', ')} }`;
  });
}

/**
 * The type of what a component is given: with what it is given now, and without what it was handed.
 * @param typeName the type of what it is given in place of that; undefined where it is given nothing
 * @returns why it could not be said
 */
export function sayTypeOf(
  { handed, leaving: own }: Given,
  parameter: NodePath,
  typeName: string | undefined,
): string | undefined {
  const { text } = own.script;
  if (!handed.length && typeName === undefined) return undefined;
  const told = 'the type of what it is given is told elsewhere';
  const note = noteOf(parameter);
  if (!note) return told;
  const names = handed.map(({ node }) => (node.key as t.Identifier).name);
  const members = membersOf(parameter);
  const types = members?.nodes.filter((one) => names.includes(nameOfMember(one))) ?? [];
  if (types.length < names.length) return told;
  if (members && handed.length && types.length === members.all) {
    says(own, { node: note }, typeName ?? '{}');
    if (members.declared) takeStatement(own, { node: members.declared });
    return undefined;
  }
  const isOnLines = members !== undefined && members.literal.loc?.start.line !== members.literal.loc?.end.line;
  for (const node of types) {
    const rest = /^[ \t]*/.exec(text.slice(node.end ?? 0))?.[0].length ?? 0;
    if (isOnLines) takeStatement(own, { node });
    else saysAt(own, node.start ?? 0, (node.end ?? 0) + rest, '');
  }
  if (typeName !== undefined) saysAt(own, note.end ?? 0, note.end ?? 0, ` & ${typeName}`);
  return undefined;
}

/** The type of what a component is given, above it. */
export function sayType(
  { component, leaving: own }: Given,
  props: readonly [string, string | undefined][],
  block: Block,
): string {
  const { style, freeName } = own.context;
  const name = freeName(`${component.name}Form`, `${component.name}Given`);
  const lines = props.map(([prop, type]) => `${style.indent}${prop}: ${type ?? ''}${style.semicolon}`);
  const { node } = component.statement;
  const at = node.leadingComments?.[0]?.start ?? node.start ?? 0;
  saysAt(own, at, at, [`interface ${name} {`, ...lines, '}', '', ''].join(style.newline));
  for (const type of ['ChangeEvent', 'FocusEvent', 'Dispatch', 'SetStateAction'])
    if (props.some(([, said]) => new RegExp(`\\b${type}<`).test(said ?? ''))) block.types.add(type);
  return name;
}

/** The parameter of a component that took none. */
export function sayParameter(
  { component, leaving: own }: Given,
  names: readonly string[],
  typeName: string | undefined,
): void {
  if (!names.length) return;
  const open = own.script.text.indexOf('(', component.path.node.start ?? 0);
  const typed = typeName === undefined ? '' : `: ${typeName}`;
  saysAt(own, open + 1, open + 1, `{ ${names.join(', ')} }${typed}`);
}
