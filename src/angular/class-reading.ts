import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code } from '../form/code.js';
import type { Surrounding } from '../form/uses.js';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import { declarationNamed, typeMembers, type TypeInFile } from '../source/type-members.js';
import type { AngularComponent, Member } from './component.js';

/** Code without special places. */
export function codeOf(file: string, place: { start: number; end: number }): Code {
  return { file, start: place.start, end: place.end, holes: [] };
}

/** The member of the class around a path, by name; `constructor` for the constructor. */
export function methodAround(path: NodePath): string | undefined {
  const member = path.findParent((parent) => parent.isClassMethod() || parent.isClassProperty());
  if (!member) return undefined;
  const { key } = member.node as t.ClassMethod | t.ClassProperty;
  return t.isIdentifier(key) ? key.name : undefined;
}

/** In which surrounding of the class a path stands. */
export function classSurrounding(path: NodePath, submits: ReadonlySet<string>): Surrounding {
  const method = methodAround(path);
  if (method === undefined) return 'module';
  if (submits.has(method)) return 'submit';
  if (method === 'constructor' || /^ng[A-Z]/.test(method)) return 'effect';
  const member = path.findParent((parent) => parent.isClassMethod());
  return member && t.isClassMethod(member.node) && member.node.kind === 'get' ? 'render' : 'event';
}

/** The written type of a property of the class. */
export function writtenType(member: Member | undefined): t.TSType | undefined {
  const node = member?.node;
  if (!t.isClassProperty(node) || !t.isTSTypeAnnotation(node.typeAnnotation)) return undefined;
  return node.typeAnnotation.typeAnnotation;
}

/** The initial value of a property of the class, with what a signal or an assertion wraps taken off. */
export function initialNode(member: Member | undefined): t.Expression | undefined {
  const node = member?.node;
  if (!(t.isClassProperty(node) || t.isClassPrivateProperty(node)) || !node.value) return undefined;
  return bare(node.value);
}

function bare(node: t.Expression): t.Expression {
  if (t.isTSAsExpression(node) || t.isTSSatisfiesExpression(node) || t.isTSTypeAssertion(node))
    return bare(node.expression);
  return node;
}

/** The first argument of `signal(…)`, where a property is a signal. */
export function signalArgument(
  member: Member | undefined,
): { value: t.Expression | undefined; type: t.TSType | undefined } | undefined {
  const value = initialNode(member);
  if (!t.isCallExpression(value) || !t.isIdentifier(value.callee, { name: 'signal' })) return undefined;
  const [first] = value.arguments;
  const type = value.typeParameters?.params[0];
  return { value: t.isExpression(first) ? bare(first) : undefined, type };
}

/** The type a value has if nobody writes one, as source text. */
export function typeOfValue(node: t.Node | undefined): string | undefined {
  if (t.isStringLiteral(node) || t.isTemplateLiteral(node)) return 'string';
  if (t.isNumericLiteral(node)) return 'number';
  if (t.isUnaryExpression(node, { operator: '-' })) return typeOfValue(node.argument);
  if (t.isBooleanLiteral(node)) return 'boolean';
  if (t.isNewExpression(node) && t.isIdentifier(node.callee)) return node.callee.name;
  return undefined;
}

/** A part of an initial value: its node where the source has one, and its type. */
export interface InitialPart {
  node: t.Expression | undefined;
  script: Script;
  type: string | undefined;
  /** Its type's node, where the source writes one. */
  written: TypeInFile | undefined;
  optional: boolean;
}

/** What a class's object starts with: each of its keys, as far as the source tells. */
export interface InitialObject {
  parts: Map<string, InitialPart>;
  /** Whether every key of it is known. */
  known: boolean;
}

function typedParts(type: TypeInFile | undefined, load: LoadScript): Map<string, InitialPart> {
  const parts = new Map<string, InitialPart>();
  for (const [name, { text, optional, script, node }] of typeMembers(type, load))
    parts.set(name, {
      node: undefined,
      script,
      type: optional ? `${text} | undefined` : text,
      written: { node, script },
      optional,
    });
  return parts;
}

/**
 * The keys of an object that a property of the class holds, with initial values and types.
 * @param value the object, the class instance, or a name that stands for one of them
 */
export function initialObject(
  component: AngularComponent,
  value: t.Expression | undefined,
  written: t.TSType | TypeInFile | undefined,
  load: LoadScript,
): InitialObject {
  const { script } = component;
  const type = written && ('script' in written ? written : { node: written, script });
  const parts = typedParts(type, load);
  const put = (name: string, node: t.Expression | undefined, from: Script): void => {
    const known = parts.get(name);
    parts.set(name, {
      node,
      script: from,
      type: known?.type ?? typeOfValue(node),
      written: known?.written,
      optional: known?.optional ?? false,
    });
  };
  if (!value) return { parts, known: false };
  const own = ownMember(value);
  if (own !== undefined) {
    const member = component.members.get(own);
    const inner = initialObject(component, initialNode(member), written ?? writtenType(member), load);
    return member?.kind === 'property' ? inner : { parts, known: false };
  }
  if (t.isObjectExpression(value)) {
    let known = true;
    for (const property of value.properties) {
      if (t.isSpreadElement(property)) {
        const inner = initialObject(component, bare(property.argument), undefined, load);
        known &&= inner.known;
        for (const [name, part] of inner.parts) if (part.node) put(name, part.node, part.script);
      } else if (!t.isObjectProperty(property) || property.computed || !t.isExpression(property.value)) known = false;
      else {
        const name = t.isIdentifier(property.key)
          ? property.key.name
          : t.isStringLiteral(property.key)
            ? property.key.value
            : '';
        put(name, bare(property.value), script);
      }
    }
    return { parts, known };
  }
  if (t.isNewExpression(value) && t.isIdentifier(value.callee)) {
    const found = declarationNamed(value.callee.name, script, load);
    if (!found || !t.isClassDeclaration(found.node) || found.node.superClass) return { parts, known: false };
    for (const [name, part] of typedParts(found, load)) parts.set(name, part);
    for (const member of found.node.body.body) {
      if (t.isClassProperty(member) && t.isIdentifier(member.key) && !member.static)
        put(member.key.name, member.value ? bare(member.value) : undefined, found.script);
      if (!t.isClassMethod(member) || member.kind !== 'constructor') continue;
      member.params.forEach((parameter, index) => {
        if (!t.isTSParameterProperty(parameter)) return;
        const given = value.arguments[index];
        const inner = parameter.parameter;
        const target = t.isAssignmentPattern(inner) ? inner.left : inner;
        if (!t.isIdentifier(target)) return;
        const fallback = t.isAssignmentPattern(inner) ? bare(inner.right) : undefined;
        put(target.name, t.isExpression(given) ? given : fallback, t.isExpression(given) ? script : found.script);
      });
    }
    return { parts, known: true };
  }
  const made = returnedObject(component, value, load);
  if (made) {
    for (const [name, part] of typedParts(made.type, load)) if (!parts.has(name)) parts.set(name, part);
    const whole = made.object.properties.every((property) => t.isObjectProperty(property) && !property.computed);
    for (const property of made.object.properties)
      if (t.isObjectProperty(property) && t.isIdentifier(property.key) && t.isExpression(property.value))
        put(property.key.name, bare(property.value), made.script);
    return { parts, known: whole };
  }
  if (t.isIdentifier(value)) {
    const found = declarationNamed(value.name, script, load);
    if (found && t.isVariableDeclarator(found.node) && t.isObjectExpression(found.node.init)) {
      const annotation = t.isIdentifier(found.node.id) ? found.node.id.typeAnnotation : undefined;
      if (!written && t.isTSTypeAnnotation(annotation))
        for (const [name, part] of typedParts({ node: annotation.typeAnnotation, script: found.script }, load))
          parts.set(name, part);
      for (const property of found.node.init.properties)
        if (t.isObjectProperty(property) && t.isIdentifier(property.key) && t.isExpression(property.value))
          put(property.key.name, bare(property.value), found.script);
      return { parts, known: true };
    }
  }
  if (t.isObjectExpression(value)) return { parts, known: true };
  return { parts, known: false };
}

/** The member of the class that an expression names: `this.start`, `this.#start`; undefined for anything else. */
export function ownMember(node: t.Node | null | undefined): string | undefined {
  if (!t.isMemberExpression(node) || !t.isThisExpression(node.object)) return undefined;
  const { property } = node;
  if (t.isPrivateName(property)) return `#${property.id.name}`;
  return t.isIdentifier(property) && !node.computed ? property.name : undefined;
}

/** The object that a method of the class or a function gives, where it does nothing but give one. */
function returnedObject(
  { members, script }: AngularComponent,
  value: t.Expression,
  load: LoadScript,
): { object: t.ObjectExpression; script: Script; type: TypeInFile | undefined } | undefined {
  if (!t.isCallExpression(value) || value.arguments.length) return undefined;
  const { callee } = value;
  const own =
    t.isMemberExpression(callee) && t.isThisExpression(callee.object) && t.isIdentifier(callee.property)
      ? members.get(callee.property.name)?.node
      : undefined;
  const found = t.isIdentifier(callee) ? declarationNamed(callee.name, script, load) : undefined;
  const from = own ? script : (found?.script ?? script);
  const fn = own ?? (t.isVariableDeclarator(found?.node) ? found.node.init : found?.node);
  if (
    !t.isClassMethod(fn) &&
    !t.isFunctionDeclaration(fn) &&
    !t.isArrowFunctionExpression(fn) &&
    !t.isFunctionExpression(fn)
  )
    return undefined;
  const only = t.isBlockStatement(fn.body) ? fn.body.body[0] : undefined;
  const given = t.isBlockStatement(fn.body)
    ? fn.body.body.length === 1 && t.isReturnStatement(only)
      ? only.argument
      : undefined
    : fn.body;
  const object = given && t.isExpression(given) ? bare(given) : undefined;
  if (!t.isObjectExpression(object) || fn.params.length) return undefined;
  const type = t.isTSTypeAnnotation(fn.returnType) ? { node: fn.returnType.typeAnnotation, script: from } : undefined;
  return { object, script: from, type };
}

/** The part of an object at a path of keys. */
export function partAt(
  component: AngularComponent,
  object: InitialObject,
  keys: readonly string[],
  load: LoadScript,
): InitialPart | undefined {
  const [first, ...rest] = keys;
  const part = first === undefined ? undefined : object.parts.get(first);
  if (!part || !rest.length) return part;
  // what a part begins with stands where the whole does
  const home = { ...component, script: part.script };
  return partAt(home, initialObject(home, part.node, part.written, load), rest, load);
}

/** The parameters of a method whose references are wanted, as paths of identifiers. */
export function parameterReferences(
  member: Member,
  index: number,
): { name: string; node: t.Identifier; references: NodePath[] } | undefined {
  if (!member.path.isClassMethod()) return undefined;
  const parameter = member.path.get('params')[index];
  if (!parameter) return undefined;
  const node = parameter.isIdentifier() ? parameter.node : undefined;
  if (!node) return undefined;
  const binding = member.path.scope.getOwnBinding(node.name);
  return { name: node.name, node, references: binding?.referencePaths ?? [] };
}
