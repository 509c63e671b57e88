import * as t from '@babel/types';
import { parseDecorated } from './script.js';

/** A token of a text, without comments and white space. Offsets count in the text. */
export interface Token {
  /** `words`: text that a person reads; `cast`: what a value is cast to; `type`: a part of a type, which only the compiler asks. */
  kind: 'name' | 'text' | 'number' | 'pattern' | 'operator' | 'words' | 'cast' | 'type';
  value: string;
  start: number;
  end: number;
}

interface RawToken {
  type: { label?: string; binop?: number | null; isAssign?: boolean; prefix?: boolean; keyword?: string };
  value: unknown;
  start: number;
  end: number;
}

/** Keywords that say what is computed; others only give code its shape. */
const telling = new Set(['await', 'delete', 'false', 'in', 'instanceof', 'new', 'null', 'throw', 'true', 'typeof']);

/**
 * The tokens of a file that say something: names, literals, operators, text that is shown, casts.
 * @param file its path; the ending tells the language. Data and unknown languages are read as words, names and literals
 * @throws SyntaxError where a script does not parse
 */
export function tokensOf(file: string, text: string): Token[] {
  if (/\.json$/.test(file)) return dataTokens(text);
  return /\.[cm]?[jt]sx?$/.test(file) ? scriptTokens(file, text) : templateTokens(text, 0);
}

function scriptTokens(file: string, text: string): Token[] {
  const typescript = /\.[cm]?tsx?$/.test(file);
  const ast = parseDecorated(text, {
    sourceType: 'unambiguous',
    allowReturnOutsideFunction: true,
    tokens: true,
    plugins: [
      ...(typescript ? (['typescript'] as const) : (['flow'] as const)),
      ...(/\.[cm]?ts$/.test(file) ? [] : (['jsx'] as const)),
      'decoratorAutoAccessors',
      'explicitResourceManagement',
    ],
  });
  const types: { start: number; end: number }[] = [];
  const casts: Token[] = [];
  t.traverseFast(ast, (node) => {
    const place = { start: node.start ?? 0, end: node.end ?? 0 };
    if (t.isTSType(node) || t.isTSTypeAnnotation(node) || t.isTSTypeParameterInstantiation(node) || isTypeOnly(node))
      types.push(place);
    if ((t.isTSAsExpression(node) || t.isTSTypeAssertion(node) || t.isTSSatisfiesExpression(node)) && !isConst(node))
      casts.push({
        kind: 'cast',
        value: text.slice(node.typeAnnotation.start ?? 0, node.typeAnnotation.end ?? 0).replace(/\s+/g, ' '),
        start: node.typeAnnotation.start ?? 0,
        end: node.typeAnnotation.end ?? 0,
      });
    // the word between a value and what it is cast to
    if (t.isTSAsExpression(node) || t.isTSSatisfiesExpression(node))
      types.push({ start: node.expression.end ?? 0, end: node.typeAnnotation.start ?? 0 });
    // a promise to the compiler, not to the reader
    if ((t.isClassProperty(node) || t.isVariableDeclarator(node)) && node.definite)
      types.push(definiteMark(node, text));
    if (t.isTSNonNullExpression(node)) casts.push({ kind: 'cast', value: '!', start: place.end - 1, end: place.end });
  });
  const inType = insideOf(types);
  const raw = (ast.tokens ?? []) as RawToken[];
  const tokens = raw.flatMap((token): Token[] => {
    if (!token.type.label) return [];
    if (inType(token)) return [{ kind: 'type', value: text.slice(token.start, token.end), ...placeOf(token) }];
    return tokenOf(token, text);
  });
  return [...tokens, ...casts].sort((a, b) => a.start - b.start);
}

function definiteMark(node: t.ClassProperty | t.VariableDeclarator, text: string): { start: number; end: number } {
  const name = t.isClassProperty(node) ? node.key : node.id;
  const from = t.isVariableDeclarator(node) ? (node.start ?? 0) : (name.start ?? 0);
  const start = text.indexOf('!', from);
  return { start, end: start + 1 };
}

function isTypeOnly(node: t.Node): boolean {
  return (
    t.isTSTypeParameterDeclaration(node) ||
    t.isTSInterfaceDeclaration(node) ||
    t.isTSTypeAliasDeclaration(node) ||
    (t.isImportDeclaration(node) && node.importKind === 'type') ||
    t.isFlow(node)
  );
}

function isConst(node: t.TSAsExpression | t.TSTypeAssertion | t.TSSatisfiesExpression): boolean {
  const type = node.typeAnnotation;
  return t.isTSTypeReference(type) && t.isIdentifier(type.typeName, { name: 'const' });
}

function placeOf({ start, end }: { start: number; end: number }): { start: number; end: number } {
  return { start, end };
}

/** Asks whether a place lies in one of some spans. */
function insideOf(
  spans: readonly { start: number; end: number }[],
): (place: { start: number; end: number }) => boolean {
  const ordered = [...spans].sort((a, b) => a.start - b.start);
  const outer: { start: number; end: number }[] = [];
  for (const span of ordered) if (span.end > (outer.at(-1)?.end ?? -1)) outer.push(span);
  return ({ start, end }) => {
    let low = 0;
    let high = outer.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((outer[middle]?.end ?? 0) < end) low = middle + 1;
      else high = middle;
    }
    const span = outer[low];
    return span !== undefined && span.start <= start && span.end >= end;
  };
}

function tokenOf(token: RawToken, text: string): Token[] {
  const place = placeOf(token);
  const { label = '', keyword } = token.type;
  const value = String(token.value);
  switch (label) {
    case 'name':
    case 'jsxName':
    case '#name':
      return [{ kind: 'name', value, ...place }];
    case 'string':
      return markupIn(value)
        ? templateTokens(text.slice(token.start, token.end), token.start)
        : [{ kind: 'text', value, ...place }];
    case 'num':
    case 'bigint':
      return [{ kind: 'number', value, ...place }];
    case 'regexp':
      return [
        { kind: 'pattern', value: /^\/(.*)\/\w*$/s.exec(text.slice(token.start, token.end))?.[1] ?? value, ...place },
      ];
    case 'jsxText':
      return wordsOf(value, token.start);
    case 'template':
      return markupIn(value)
        ? templateTokens(text.slice(token.start, token.end), token.start)
        : value === ''
          ? []
          : [{ kind: 'text', value, ...place }];
    default:
      break;
  }
  if (keyword !== undefined) return telling.has(keyword) ? [{ kind: 'name', value: keyword, ...place }] : [];
  const spelled = text.slice(token.start, token.end);
  // the end of an element
  if (spelled === '/' && (text.charAt(token.end) === '>' || text.charAt(token.start - 1) === '<')) return [];
  // a member or a parameter that may be left out: a part of its type
  if (spelled === '?' && text[token.end] === ':') return [];
  // assignments, arrows and commas are how an approach says things; what computes a value is not
  if (/^(?:[-+*/%!~^&|?<>]|\*\*|&&|\|\||\?\?|[=!]==?|[<>]=|<<|>>>?|\.\.\.|\?\.|[-+*/%]=|\+\+|--)$/.test(spelled))
    return /^[<>/]$/.test(spelled) && /jsx/i.test(label) ? [] : [{ kind: 'operator', value: spelled, ...place }];
  return [];
}

function wordsOf(value: string, start: number): Token[] {
  return [...value.matchAll(/[^\s]+/g)].map((match) => ({
    kind: 'words',
    value: match[0],
    start: start + match.index,
    end: start + match.index + match[0].length,
  }));
}

function markupIn(value: string): boolean {
  return /<[a-z][\w-]*[\s>/]/i.test(value);
}

/** Tokens of a template: names of elements and attributes, code of bindings, text. */
function templateTokens(text: string, from: number): Token[] {
  const bare = text.replace(/<!--[\s\S]*?-->/g, (comment) => ' '.repeat(comment.length));
  const pattern = /(?<name>[A-Za-z_$][\w$-]*)|(?<number>\d+(?:\.\d+)?)|(?<operator>&&|\|\||[!=]==?|\?\?|\?\.|[!?+*])/g;
  return [...bare.matchAll(pattern)].map((match) => ({
    kind:
      match.groups?.['name'] !== undefined ? 'name' : match.groups?.['number'] !== undefined ? 'number' : 'operator',
    value: match[0],
    start: from + match.index,
    end: from + match.index + match[0].length,
  }));
}

/** Keys and values of data as the literals they would be in code. */
function dataTokens(text: string): Token[] {
  const tokens: Token[] = [];
  const add = (kind: Token['kind'], value: string): void => {
    tokens.push({ kind, value, start: 0, end: text.length });
  };
  JSON.parse(text, (key, value: unknown) => {
    if (key && !/^\d+$/.test(key)) add('name', key);
    if (typeof value === 'string') {
      add('text', value);
      add('pattern', value);
      for (const [word] of value.matchAll(/[A-Za-z_$][\w$]*|\d+/g)) add(/^\d/.test(word) ? 'number' : 'name', word);
    } else if (typeof value === 'number') {
      if (value < 0) add('operator', '-');
      add('number', String(Math.abs(value)));
    } else if (typeof value === 'boolean' || value === null) add('name', String(value));
    return value;
  });
  return tokens;
}
