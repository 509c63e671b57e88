import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import type { FormSite } from './approach.js';
import { componentsOf, type FunctionPath } from './components.js';

/** What a component's file exports it as, and values for its properties, as JavaScript source. */
export interface SampleComponent {
  exported: string | undefined;
  props: { name: string; source: string }[];
}

interface TypeAt {
  node: t.Node;
  script: Script;
}

interface Sampler {
  load: FormSite['load'];
  /** Name of the property or member that a value is for: texts are made from it. */
  valueOf(type: TypeAt, name: string, depth: number): string;
}

function namedType(name: string, script: Script, load: FormSite['load'], depth = 0): TypeAt | undefined {
  for (const statement of script.ast.program.body) {
    const node = t.isExportNamedDeclaration(statement) ? statement.declaration : statement;
    if (
      (t.isTSInterfaceDeclaration(node) || t.isTSTypeAliasDeclaration(node) || t.isTSEnumDeclaration(node)) &&
      node.id.name === name
    )
      return { node, script };
    if (
      t.isImportDeclaration(statement) &&
      depth < 4 &&
      statement.specifiers.some((specifier) => specifier.local.name === name)
    ) {
      const other = load(script.file, statement.source.value);
      const found = other ? namedType(name, other, load, depth + 1) : undefined;
      if (found) return found;
    }
  }
  return undefined;
}

function membersOf(
  type: TypeAt,
  load: FormSite['load'],
  depth = 0,
): { member: t.TSPropertySignature | t.TSMethodSignature; script: Script }[] {
  const { node, script } = type;
  if (depth > 5) return [];
  const own = (list: t.Node[]): { member: t.TSPropertySignature | t.TSMethodSignature; script: Script }[] =>
    list.flatMap((member) =>
      t.isTSPropertySignature(member) || t.isTSMethodSignature(member) ? [{ member, script }] : [],
    );
  if (t.isTSTypeLiteral(node)) return own(node.members);
  if (t.isTSInterfaceDeclaration(node)) {
    const parents = (node.extends ?? []).flatMap((parent) =>
      t.isIdentifier(parent.expression) ? membersNamed(parent.expression.name, script, load, depth) : [],
    );
    return [...parents, ...own(node.body.body)];
  }
  if (t.isTSTypeAliasDeclaration(node)) return membersOf({ node: node.typeAnnotation, script }, load, depth + 1);
  if (t.isTSIntersectionType(node))
    return node.types.flatMap((part) => membersOf({ node: part, script }, load, depth + 1));
  if (t.isTSTypeReference(node) && t.isIdentifier(node.typeName)) {
    const inner = node.typeParameters?.params[0];
    if (inner && /^(Readonly|PropsWithChildren|Partial|Required)$/.test(node.typeName.name))
      return membersOf({ node: inner, script }, load, depth + 1);
    return membersNamed(node.typeName.name, script, load, depth);
  }
  return [];
}

function membersNamed(
  name: string,
  script: Script,
  load: FormSite['load'],
  depth: number,
): ReturnType<typeof membersOf> {
  const found = namedType(name, script, load);
  return found ? membersOf(found, load, depth + 1) : [];
}

function keyOf(member: t.TSPropertySignature | t.TSMethodSignature): string {
  return t.isIdentifier(member.key) ? member.key.name : t.isStringLiteral(member.key) ? member.key.value : '';
}

function sampleText(name: string): string {
  const words = name.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function spySource(name: string): string {
  return `spy(${JSON.stringify(name)})`;
}

function samplerWith(load: FormSite['load']): Sampler {
  const sampler: Sampler = {
    load,
    valueOf({ node, script }, name, depth) {
      const inner = (next: t.Node): string => sampler.valueOf({ node: next, script }, name, depth + 1);
      if (depth > 6) return 'undefined';
      if (t.isTSTypeAnnotation(node)) return inner(node.typeAnnotation);
      if (t.isTSParenthesizedType(node)) return inner(node.typeAnnotation);
      if (t.isTSStringKeyword(node)) return JSON.stringify(sampleText(name));
      if (t.isTSNumberKeyword(node)) return '3';
      if (t.isTSBooleanKeyword(node)) return 'false';
      if (t.isTSNullKeyword(node)) return 'null';
      if (t.isTSFunctionType(node)) return functionSource(node.typeAnnotation, name, inner);
      if (t.isTSLiteralType(node)) return script.text.slice(node.literal.start ?? 0, node.literal.end ?? 0);
      if (t.isTSArrayType(node)) return listSource(node.elementType);
      if (t.isTSTypeOperator(node)) return inner(node.typeAnnotation);
      if (t.isTSTupleType(node))
        return `[${node.elementTypes.map((element) => inner(t.isTSNamedTupleMember(element) ? element.elementType : element)).join(', ')}]`;
      if (t.isTSUnionType(node)) {
        const useful = node.types.find((part) => !t.isTSNullKeyword(part) && !t.isTSUndefinedKeyword(part));
        return useful ? inner(useful) : 'undefined';
      }
      if (t.isTSTypeReference(node)) return referenceSource(node);
      if (t.isTSEnumDeclaration(node)) return '0';
      const members = membersOf({ node, script }, load);
      if (!members.length) return t.isTSTypeAliasDeclaration(node) ? inner(node.typeAnnotation) : 'undefined';
      const parts = members.map(
        ({ member, script: home }) => `${JSON.stringify(keyOf(member))}: ${memberSource(member, home)}`,
      );
      return `{ ${parts.join(', ')} }`;

      function memberSource(member: t.TSPropertySignature | t.TSMethodSignature, home: Script): string {
        const sampleOf = (next: t.Node): string =>
          sampler.valueOf({ node: next, script: home }, keyOf(member), depth + 1);
        if (t.isTSMethodSignature(member)) return functionSource(member.typeAnnotation, keyOf(member), sampleOf);
        return member.typeAnnotation ? sampleOf(member.typeAnnotation) : 'undefined';
      }

      function listSource(element: t.Node): string {
        if (t.isTSStringKeyword(element)) {
          const word = sampleText(name.replace(/s$/, ''));
          return JSON.stringify([`${word} one`, `${word} two`, `${word} three`]);
        }
        if (t.isTSNumberKeyword(element)) return '[1, 2, 3]';
        const one = sampler.valueOf({ node: element, script }, name.replace(/s$/, ''), depth + 1);
        const second = one.replace(/"([A-Z][^"]*)"(?!:)/g, '"$1 two"').replace(/: 3\b/g, ': 4');
        return one === second ? `[${one}]` : `[${one}, ${second}]`;
      }

      function referenceSource(reference: t.TSTypeReference): string {
        const title = script.text.slice(reference.typeName.start ?? 0, reference.typeName.end ?? 0);
        const given = reference.typeParameters?.params;
        const first = given?.[0];
        if (/(^|\.)(Array|ReadonlyArray)$/.test(title) && first) return listSource(first);
        if (/(^|\.)Promise$/.test(title)) return 'Promise.resolve()';
        if (title === 'Date') return 'new Date(Date.UTC(2026, 8, 12))';
        if (/(^|\.)(ReactNode|ReactElement|Element|CSSProperties)$/.test(title)) return 'undefined';
        if (/Handler$|Dispatch$/.test(title)) return spySource(name);
        if (title === 'Record') return '{}';
        if (title === 'Partial' && first) return inner(first);
        const found = t.isIdentifier(reference.typeName) ? namedType(reference.typeName.name, script, load) : undefined;
        return found ? sampler.valueOf(found, name, depth + 1) : 'undefined';
      }
    },
  };
  return sampler;
}

function functionSource(result: t.Node | null | undefined, name: string, sampleOf: (type: t.Node) => string): string {
  const type = t.isTSTypeAnnotation(result) ? result.typeAnnotation : result;
  if (!t.isTSTypeReference(type) || !t.isIdentifier(type.typeName, { name: 'Promise' })) return spySource(name);
  const promised = type.typeParameters?.params[0];
  // what is promised is good news
  const sample = t.isTSBooleanKeyword(promised) ? 'true' : promised ? sampleOf(promised) : 'undefined';
  const given = sample === 'undefined' ? '' : `, () => (${sample})`;
  return `((...values) => { ${spySource(name)}(...values); return answer(${JSON.stringify(name)}${given}); })`;
}

function typeOfProps(fn: FunctionPath): t.Node | undefined {
  const parameter = fn.node.params[0];
  const pattern = t.isAssignmentPattern(parameter) ? parameter.left : parameter;
  if (pattern && 'typeAnnotation' in pattern && t.isTSTypeAnnotation(pattern.typeAnnotation))
    return pattern.typeAnnotation.typeAnnotation;
  let holder: NodePath | null = fn.parentPath;
  while (holder?.isCallExpression()) {
    const given = holder.node.typeParameters?.params;
    if (given?.length) return given.at(-1);
    holder = holder.parentPath;
  }
  const id = holder?.isVariableDeclarator() ? holder.node.id : undefined;
  const written =
    t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation) ? id.typeAnnotation.typeAnnotation : undefined;
  return t.isTSTypeReference(written) ? written.typeParameters?.params[0] : undefined;
}

function typeOfClassProps(path: NodePath<t.Class>): t.Node | undefined {
  const given = path.node.superTypeParameters;
  return t.isTSTypeParameterInstantiation(given) ? given.params[0] : undefined;
}

/** Properties that a class gives a value by itself. */
function defaultKeys(path: NodePath<t.Class>): string[] {
  return path.node.body.body.flatMap((member) => {
    if (!t.isClassProperty(member) || !t.isIdentifier(member.key, { name: 'defaultProps' })) return [];
    const value = t.isTSAsExpression(member.value) ? member.value.expression : member.value;
    return t.isObjectExpression(value)
      ? value.properties.flatMap((one) => (t.isObjectProperty(one) && t.isIdentifier(one.key) ? [one.key.name] : []))
      : [];
  });
}

/** Properties of a class without types: what it asks of `this.props`. */
function classProps(path: NodePath<t.Class>): SampleComponent['props'] {
  const uses = new Map<string, PropUse>();
  const add = (name: string, use: PropUse): void => {
    const known = uses.get(name);
    uses.set(name, {
      called: use.called || known?.called === true,
      listed: use.listed || known?.listed === true,
      optional: use.optional || known?.optional === true,
    });
  };
  path.traverse({
    MemberExpression(member) {
      const { object, property } = member.node;
      if (!t.isThisExpression(object) || !t.isIdentifier(property, { name: 'props' })) return;
      const outer = member.parentPath;
      if (outer.isMemberExpression() && t.isIdentifier(outer.node.property) && !outer.node.computed)
        add(outer.node.property.name, { ...useOfProp(outer), optional: false });
      const pattern = outer.isVariableDeclarator() ? outer.node.id : undefined;
      if (!t.isObjectPattern(pattern)) return;
      for (const one of pattern.properties) {
        if (!t.isObjectProperty(one) || !t.isIdentifier(one.key)) continue;
        const local = t.isAssignmentPattern(one.value) ? one.value.left : one.value;
        const references = t.isIdentifier(local) ? (outer.scope.getBinding(local.name)?.referencePaths ?? []) : [];
        const found = references.map((reference) => useOfProp(reference));
        add(one.key.name, {
          called: found.some(({ called }) => called),
          listed: found.some(({ listed }) => listed),
          optional: t.isAssignmentPattern(one.value),
        });
      }
    },
  });
  const given = defaultKeys(path);
  return [...uses]
    .filter(([name, { optional }]) => !optional && name !== 'children' && !given.includes(name))
    .map(([name, use]) => ({ name, source: untypedSource(name, use) }));
}

interface PropUse {
  called: boolean;
  listed: boolean;
  optional: boolean;
}

/** What is done with a property at one place. */
function useOfProp(path: NodePath): Omit<PropUse, 'optional'> {
  const outer = path.parentPath;
  const member = outer?.isMemberExpression() && path.key === 'object' ? outer : undefined;
  const asked = member && t.isIdentifier(member.node.property) ? member.node.property.name : '';
  return {
    called: outer?.isCallExpression() === true && path.key === 'callee',
    listed:
      member?.node.computed === true ||
      /^(map|forEach|filter|find|length|indexOf|includes|some|every|join)$/.test(asked),
  };
}

function untypedSource(name: string, { called, listed }: Omit<PropUse, 'optional'>): string {
  if (called || /^(on|set|handle)[A-Z]/.test(name)) return spySource(name);
  const word = sampleText(name.replace(/s$/, ''));
  return listed ? JSON.stringify([`${word} one`, `${word} two`]) : JSON.stringify(sampleText(name));
}

/** Properties of a component without types: names it takes out of its parameter, and what it does with them. */
function untypedProps(fn: FunctionPath): SampleComponent['props'] {
  const pattern = fn.node.params[0];
  const names = new Map<string, { local: string | undefined; optional: boolean; use?: Omit<PropUse, 'optional'> }>();
  const take = (taken: t.Node | undefined): void => {
    for (const property of t.isObjectPattern(taken) ? taken.properties : []) {
      if (!t.isObjectProperty(property) || !t.isIdentifier(property.key)) continue;
      const value = t.isAssignmentPattern(property.value) ? property.value.left : property.value;
      names.set(property.key.name, {
        local: t.isIdentifier(value) ? value.name : undefined,
        optional: t.isAssignmentPattern(property.value),
      });
    }
  };
  if (t.isObjectPattern(pattern)) take(pattern);
  else if (t.isIdentifier(pattern)) {
    for (const reference of fn.scope.getBinding(pattern.name)?.referencePaths ?? []) {
      const member = reference.parentPath;
      if (member?.isVariableDeclarator() && reference.key === 'init') take(member.node.id);
      if (member?.isMemberExpression() && t.isIdentifier(member.node.property) && !member.node.computed) {
        const { name } = member.node.property;
        const use = useOfProp(member);
        const before = names.get(name)?.use;
        names.set(name, {
          local: undefined,
          optional: false,
          use: { called: use.called || before?.called === true, listed: use.listed || before?.listed === true },
        });
      }
    }
  }
  return [...names]
    .filter(([name, { optional }]) => !optional && name !== 'children')
    .map(([name, { local, use: seen }]) => {
      if (seen) return { name, source: untypedSource(name, seen) };
      const references = local === undefined ? [] : (fn.scope.getBinding(local)?.referencePaths ?? []);
      const found = references.map((reference) => useOfProp(reference));
      const called = found.some((use) => use.called);
      return { name, source: untypedSource(name, { called, listed: found.some((use) => use.listed) }) };
    });
}

function exportedAs(script: Script, name: string): string | undefined {
  for (const statement of script.ast.program.body) {
    if (t.isExportDefaultDeclaration(statement)) {
      const { declaration } = statement;
      const text = script.text.slice(declaration.start ?? 0, declaration.end ?? 0);
      if (t.isFunctionDeclaration(declaration) || t.isClassDeclaration(declaration)) {
        if ((declaration.id?.name ?? name) === name) return 'default';
      } else if (new RegExp(`\\b${name}\\b`).test(text) || !t.isIdentifier(declaration)) return 'default';
    }
    if (!t.isExportNamedDeclaration(statement)) continue;
    if (statement.declaration && name in t.getBindingIdentifiers(statement.declaration, false, true)) return name;
    if (t.isClassDeclaration(statement.declaration) && statement.declaration.id?.name === name) return name;
    for (const specifier of statement.specifiers) {
      if (t.isExportSpecifier(specifier) && specifier.local.name === name)
        return t.isIdentifier(specifier.exported) ? specifier.exported.name : specifier.exported.value;
    }
  }
  return undefined;
}

/** What is needed to show a component by itself: how it is exported, and plain values for what it is given. */
export function sampleComponent(script: Script, name: string, load: FormSite['load']): SampleComponent {
  const exported = exportedAs(script, name);
  const component = componentsOf(script).find((candidate) => candidate.name === name);
  if (!component) return { exported, props: [] };
  const isClass = component.kind === 'class';
  const type = isClass ? typeOfClassProps(component.path) : typeOfProps(component.path);
  if (!type) return { exported, props: isClass ? classProps(component.path) : untypedProps(component.path) };
  const given = isClass ? defaultKeys(component.path) : [];
  const sampler = samplerWith(load);
  const props = membersOf({ node: type, script }, load).flatMap(({ member, script: home }) => {
    const key = keyOf(member);
    if (key === 'children' || key === 'ref' || given.includes(key)) return [];
    const sampleOf = (next: t.Node): string => sampler.valueOf({ node: next, script: home }, key, 0);
    const source = t.isTSMethodSignature(member)
      ? functionSource(member.typeAnnotation, key, sampleOf)
      : member.typeAnnotation
        ? sampleOf(member.typeAnnotation)
        : 'undefined';
    const optional = member.optional === true && !/^\(?spy\(|^\(\(\.\.\.values/.test(source);
    return optional || source === 'undefined' ? [] : [{ name: key, source }];
  });
  return { exported, props };
}
