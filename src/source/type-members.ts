import * as t from '@babel/types';
import type { LoadScript } from './project-files.js';
import type { Script } from './script.js';

/** A type's node with the file it stands in. */
export interface TypeInFile {
  node: t.Node;
  script: Script;
}

/** What a name declares: a type, an interface, a class or a value; followed through relative imports. */
export function declarationNamed(name: string, script: Script, load: LoadScript, depth = 0): TypeInFile | undefined {
  for (const statement of script.ast.program.body) {
    const node =
      t.isExportNamedDeclaration(statement) || t.isExportDefaultDeclaration(statement)
        ? statement.declaration
        : statement;
    if (
      (t.isTSInterfaceDeclaration(node) ||
        t.isTSTypeAliasDeclaration(node) ||
        t.isClassDeclaration(node) ||
        t.isFunctionDeclaration(node) ||
        t.isTSEnumDeclaration(node)) &&
      node.id?.name === name
    )
      return { node, script };
    if (t.isVariableDeclaration(node)) {
      const declarator = node.declarations.find((one) => t.isIdentifier(one.id, { name }));
      if (declarator) return { node: declarator, script };
    }
    if (depth < 4 && t.isImportDeclaration(statement) && statement.source.value.startsWith('.')) {
      const specifier = statement.specifiers.find((one) => one.local.name === name);
      const other = specifier ? load(script.file, statement.source.value) : undefined;
      const imported =
        t.isImportSpecifier(specifier) && t.isIdentifier(specifier.imported) ? specifier.imported.name : name;
      if (other) return declarationNamed(imported, other, load, depth + 1);
    }
  }
  return undefined;
}

/** The type that a name stands for, down to its literal or its interface's body. */
export function expandedType(type: TypeInFile, load: LoadScript): TypeInFile {
  let found = type;
  for (let depth = 0; depth < 4; depth++) {
    if (t.isTSInterfaceDeclaration(found.node)) return { node: found.node.body, script: found.script };
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

/** A member of a type. */
export interface TypeMember extends TypeInFile {
  /** Its type as source text of its own file. */
  text: string;
  optional: boolean;
}

/** The members of a type: of an interface, a type literal, or a class's properties and constructor. */
export function typeMembers(type: TypeInFile | undefined, load: LoadScript): Map<string, TypeMember> {
  const members = new Map<string, TypeMember>();
  if (!type) return members;
  const { node, script } = expandedType(type, load);
  const add = (key: t.Node, annotation: t.Node | null | undefined, optional: boolean): void => {
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    if (name === undefined || !t.isTSTypeAnnotation(annotation)) return;
    const inner = annotation.typeAnnotation;
    members.set(name, { node: inner, script, text: script.text.slice(inner.start ?? 0, inner.end ?? 0), optional });
  };
  const list = t.isTSTypeLiteral(node) ? node.members : t.isTSInterfaceBody(node) ? node.body : [];
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
