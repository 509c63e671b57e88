import * as t from '@babel/types';
import { exportedLocally, handedOnFrom, importedFrom } from './handed-names.js';
import type { LoadScript } from './project-files.js';
import type { Script } from './script.js';

/** A type's node with the file it stands in. */
export interface TypeInFile {
  node: t.Node;
  script: Script;
}

/**
 * What a name declares: a type, an interface, a class or a value; followed through imports, and through files that only
 * hand it on.
 */
export function declarationNamed(name: string, script: Script, load: LoadScript, depth = 0): TypeInFile | undefined {
  const own = declaredIn(name, script);
  if (own) return { node: own, script };
  if (depth > 4) return undefined;
  const local = exportedLocally(script, name);
  if (local !== undefined && local !== name) return declarationNamed(local, script, load, depth + 1);
  const taken = importedFrom(script, name);
  for (const { module, name: there } of taken ? [taken] : handedOnFrom(script, name)) {
    const other = load(script.file, module);
    const found = other && declarationNamed(there, other, load, depth + 1);
    if (found) return found;
  }
  return undefined;
}

/** What a file itself declares under a name, or as its default. */
function declaredIn(name: string, { ast }: Script): t.Node | undefined {
  for (const statement of ast.program.body) {
    const isDefault = t.isExportDefaultDeclaration(statement);
    const node = t.isExportNamedDeclaration(statement) || isDefault ? statement.declaration : statement;
    if (
      (t.isTSInterfaceDeclaration(node) ||
        t.isTSTypeAliasDeclaration(node) ||
        t.isClassDeclaration(node) ||
        t.isFunctionDeclaration(node) ||
        t.isTSEnumDeclaration(node)) &&
      (node.id?.name === name || (isDefault && name === 'default'))
    )
      return node;
    if (!t.isVariableDeclaration(node)) continue;
    const declarator = node.declarations.find((one) => t.isIdentifier(one.id, { name }));
    if (declarator) return declarator;
  }
  return undefined;
}

/** The type that a name stands for, down to its literal or its interface's body. */
export function expandedType(type: TypeInFile, load: LoadScript): TypeInFile {
  const found = declared(type, load);
  return t.isTSInterfaceDeclaration(found.node) ? { node: found.node.body, script: found.script } : found;
}

/** A member of a type. */
export interface TypeMember extends TypeInFile {
  /** Its type as source text of its own file. */
  text: string;
  optional: boolean;
}

/**
 * The members of a type: of an interface with those it extends, a type literal, parts joined by `&`, a class's
 * properties and constructor, and what `Partial`, `Required`, `Readonly`, `Pick` and `Omit` leave of another type.
 */
export function typeMembers(type: TypeInFile | undefined, load: LoadScript, depth = 0): Map<string, TypeMember> {
  const members = new Map<string, TypeMember>();
  if (!type || depth > 6) return members;
  const addAll = (node: t.Node, script: Script): void => {
    for (const [name, member] of typeMembers({ node, script }, load, depth + 1)) members.set(name, member);
  };
  const utility = utilityMembers(type, load, depth);
  if (utility) return utility;
  const { node, script } = declared(type, load);
  const add = (key: t.Node, annotation: t.Node | null | undefined, optional: boolean): void => {
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    if (name === undefined || !t.isTSTypeAnnotation(annotation)) return;
    const inner = annotation.typeAnnotation;
    members.set(name, { node: inner, script, text: script.text.slice(inner.start ?? 0, inner.end ?? 0), optional });
  };
  if (t.isTSIntersectionType(node)) for (const part of node.types) addAll(part, script);
  else if (t.isTSTypeReference(node) && node !== type.node) addAll(node, script);
  if (t.isTSInterfaceDeclaration(node))
    for (const { expression, typeParameters } of node.extends ?? [])
      if (t.isIdentifier(expression)) addAll(t.tsTypeReference(expression, typeParameters), script);
  const body = t.isTSInterfaceDeclaration(node) ? node.body : node;
  const list = t.isTSTypeLiteral(body) ? body.members : t.isTSInterfaceBody(body) ? body.body : [];
  for (const member of list)
    if (t.isTSPropertySignature(member)) add(member.key, member.typeAnnotation, member.optional === true);
  if (t.isClassDeclaration(node)) {
    for (const member of node.body.body) {
      if (t.isClassProperty(member)) add(member.key, member.typeAnnotation, member.optional === true);
      if (!t.isClassMethod(member) || member.kind !== 'constructor') continue;
      for (const parameter of member.params) {
        const given = t.isTSParameterProperty(parameter) ? parameter.parameter : undefined;
        const inner = t.isAssignmentPattern(given) ? given.left : given;
        if (t.isIdentifier(inner)) add(inner, inner.typeAnnotation, inner.optional === true);
      }
    }
  }
  return members;
}

/** What a type's name declares, followed through aliases; an interface as a whole, with what it extends. */
function declared(type: TypeInFile, load: LoadScript): TypeInFile {
  let found = type;
  for (let depth = 0; depth < 4; depth++) {
    if (t.isTSTypeAliasDeclaration(found.node)) found = { node: found.node.typeAnnotation, script: found.script };
    else if (t.isTSParenthesizedType(found.node)) found = { node: found.node.typeAnnotation, script: found.script };
    else if (t.isTSTypeReference(found.node) && t.isIdentifier(found.node.typeName)) {
      const next = declarationNamed(found.node.typeName.name, found.script, load);
      if (!next) return found;
      found = next;
    } else return found;
  }
  return found;
}

/** The members that a type of the language's own leaves of another one; undefined for every other type. */
function utilityMembers(type: TypeInFile, load: LoadScript, depth: number): Map<string, TypeMember> | undefined {
  const { node, script } = type;
  if (!t.isTSTypeReference(node) || !t.isIdentifier(node.typeName)) return undefined;
  const [of, keys] = node.typeParameters?.params ?? [];
  const kind = /^(?:Partial|Required|Readonly|Pick|Omit)$/.exec(node.typeName.name)?.[0];
  if (!of || kind === undefined) return undefined;
  const all = [...typeMembers({ node: of, script }, load, depth + 1)];
  if (kind === 'Readonly') return new Map(all);
  if (kind === 'Partial' || kind === 'Required')
    return new Map(all.map(([name, member]) => [name, { ...member, optional: kind === 'Partial' }]));
  const named = t.isTSUnionType(keys) ? keys.types : keys ? [keys] : [];
  const names = named.map((one) =>
    t.isTSLiteralType(one) && t.isStringLiteral(one.literal) ? one.literal.value : undefined,
  );
  if (names.includes(undefined)) return new Map();
  return new Map(all.filter(([name]) => names.includes(name) === (kind === 'Pick')));
}
