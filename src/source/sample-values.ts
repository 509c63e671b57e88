import * as t from '@babel/types';
import type { LoadScript } from './project-files.js';
import type { Script } from './script.js';
import { declarationNamed, type TypeInFile } from './type-members.js';

/** A value of a type as JavaScript source; functions record their calls, and answer where their type says so. */
export interface Sampler {
  /** @param name of the property or member that the value is for: texts are made from it */
  valueOf(type: TypeInFile, name: string, depth: number): string;
}

function namedType(name: string, script: Script, load: LoadScript): TypeInFile | undefined {
  const found = declarationNamed(name, script, load);
  const isType =
    t.isTSInterfaceDeclaration(found?.node) ||
    t.isTSTypeAliasDeclaration(found?.node) ||
    t.isTSEnumDeclaration(found?.node);
  return isType ? found : undefined;
}

/** The members that a type has for a sample, those of the types it extends first. */
export function sampledMembers(
  type: TypeInFile,
  load: LoadScript,
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
  if (t.isTSTypeAliasDeclaration(node)) return sampledMembers({ node: node.typeAnnotation, script }, load, depth + 1);
  if (t.isTSIntersectionType(node))
    return node.types.flatMap((part) => sampledMembers({ node: part, script }, load, depth + 1));
  if (t.isTSTypeReference(node) && t.isIdentifier(node.typeName)) {
    const inner = node.typeParameters?.params[0];
    if (inner && /^(Readonly|PropsWithChildren|Partial|Required)$/.test(node.typeName.name))
      return sampledMembers({ node: inner, script }, load, depth + 1);
    return membersNamed(node.typeName.name, script, load, depth);
  }
  return [];
}

function membersNamed(
  name: string,
  script: Script,
  load: LoadScript,
  depth: number,
): ReturnType<typeof sampledMembers> {
  const found = namedType(name, script, load);
  return found ? sampledMembers(found, load, depth + 1) : [];
}

/** The name of a member. */
export function sampledKey(member: t.TSPropertySignature | t.TSMethodSignature): string {
  return t.isIdentifier(member.key) ? member.key.name : t.isStringLiteral(member.key) ? member.key.value : '';
}

/** Words made of a name. */
export function sampleText(name: string): string {
  const words = name.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A function that records its calls. */
export function spySource(name: string): string {
  return `spy(${JSON.stringify(name)})`;
}

/** @param load parses another file of the project */
export function samplerWith(load: LoadScript): Sampler {
  const sampler: Sampler = {
    valueOf({ node, script }, name, depth) {
      const inner = (next: t.Node): string => sampler.valueOf({ node: next, script }, name, depth + 1);
      if (depth > 6) return 'undefined';
      if (t.isTSTypeAnnotation(node)) return inner(node.typeAnnotation);
      if (t.isTSParenthesizedType(node)) return inner(node.typeAnnotation);
      if (t.isTSStringKeyword(node)) return JSON.stringify(sampleText(name));
      if (t.isTSNumberKeyword(node)) return '3';
      if (t.isTSBooleanKeyword(node)) return 'false';
      if (t.isTSNullKeyword(node)) return 'null';
      if (t.isTSFunctionType(node)) return functionSource(node, name, inner);
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
      const members = sampledMembers({ node, script }, load);
      if (!members.length) return t.isTSTypeAliasDeclaration(node) ? inner(node.typeAnnotation) : 'undefined';
      const parts = members.map(
        ({ member, script: home }) => `${JSON.stringify(sampledKey(member))}: ${memberSource(member, home)}`,
      );
      return `{ ${parts.join(', ')} }`;

      function memberSource(member: t.TSPropertySignature | t.TSMethodSignature, home: Script): string {
        const sampleOf = (next: t.Node): string =>
          sampler.valueOf({ node: next, script: home }, sampledKey(member), depth + 1);
        if (t.isTSMethodSignature(member)) return functionSource(member, sampledKey(member), sampleOf);
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
        if (title === 'Observable') return `stream(Promise.resolve(${first ? inner(first) : ''}))`;
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

/**
 * A function that records its calls and answers as its result says: with a promise, a stream, or nothing. What it is given
 * beyond the parameters of its type does not reach it.
 * @param sampleOf a value of a type that stands in the result
 */
export function functionSource(
  {
    parameters,
    typeAnnotation: result,
  }: { parameters?: readonly t.Node[]; typeAnnotation?: t.Node | null | undefined },
  name: string,
  sampleOf: (type: t.Node) => string,
): string {
  const most = !parameters || parameters.some((one) => t.isRestElement(one)) ? '' : `.slice(0, ${parameters.length})`;
  const recorded = `${spySource(name)}(...values${most})`;
  const type = t.isTSTypeAnnotation(result) ? result.typeAnnotation : result;
  const awaited = t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : '';
  if (!t.isTSTypeReference(type) || !/^(?:Promise|Observable)$/.test(awaited)) return `((...values) => ${recorded})`;
  const promised = type.typeParameters?.params[0];
  // what is promised is good news
  const sample = t.isTSBooleanKeyword(promised) ? 'true' : promised ? sampleOf(promised) : 'undefined';
  const given = sample === 'undefined' ? '' : `, () => (${sample})`;
  const answer = `answer(${JSON.stringify(name)}${given})`;
  return `((...values) => { ${recorded}; return ${awaited === 'Observable' ? `stream(${answer})` : answer}; })`;
}
