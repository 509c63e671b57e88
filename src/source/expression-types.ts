import type { Binding, NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from './script.js';

const textMethods =
  /^(trim|trimStart|trimEnd|toUpperCase|toLowerCase|slice|substring|substr|replace|replaceAll|padStart|padEnd|repeat|concat|charAt|toFixed|toString|toISOString|toLocaleString|toLocaleDateString|join|normalize|toLocaleUpperCase|toLocaleLowerCase)$/;
const numberMethods =
  /^(getTime|getFullYear|getMonth|getDate|getDay|getHours|getMinutes|valueOf|indexOf|lastIndexOf|findIndex|charCodeAt|now)$/;
const yesNoMethods = /^(includes|startsWith|endsWith|test|some|every|has|isArray|isInteger|isNaN|isFinite)$/;
const sameListMethods = /^(filter|slice|concat|reverse|sort|toSorted|toReversed|splice|toSpliced|with)$/;

/** Finds a type alias or interface that the file declares. */
function declaredType(script: Script, name: string): t.TSType | t.TSInterfaceBody | undefined {
  for (const statement of script.ast.program.body) {
    const node = t.isExportNamedDeclaration(statement) ? statement.declaration : statement;
    if (t.isTSTypeAliasDeclaration(node) && node.id.name === name && !node.typeParameters) return node.typeAnnotation;
    if (t.isTSInterfaceDeclaration(node) && node.id.name === name && !node.typeParameters && !node.extends?.length)
      return node.body;
  }
  return undefined;
}

/** Whether a name stands for an enum of the file: each of its members is of its type. */
function isEnum(script: Script, name: string): boolean {
  return script.ast.program.body.some((statement) => {
    const node = t.isExportNamedDeclaration(statement) ? statement.declaration : statement;
    return t.isTSEnumDeclaration(node) && node.id.name === name;
  });
}

/** A type that was found: its text, and its node where the file holds it. */
interface Found {
  text: string;
  node?: t.TSType | t.TSInterfaceBody | undefined;
  /** The type without null and undefined, where those were added to it. */
  bare?: Found;
}

/**
 * Tells the type of expressions as source text, from annotations, literals and well-known methods.
 * It never guesses: where the text does not tell, the answer is undefined.
 */
export interface ExpressionTypes {
  /** The type `useState(expression)` would give its value, written so that it can stand at the top of the file. */
  typeOf(expression: NodePath): string | undefined;
}

/**
 * @param script the file of the expressions
 * @param known types of variables that are known from elsewhere, by binding
 */
export function expressionTypes(
  script: Script,
  known: (binding: Binding) => string | undefined = () => undefined,
): ExpressionTypes {
  const textOf = (node: t.Node): string => script.text.slice(node.start ?? 0, node.end ?? 0);

  function fromNode(node: t.TSType | t.TSInterfaceBody): Found {
    if (t.isTSParenthesizedType(node)) return fromNode(node.typeAnnotation);
    return { text: textOf(node), node };
  }

  function expand(node: t.TSType | t.TSInterfaceBody | undefined, depth = 0): t.TSType | t.TSInterfaceBody | undefined {
    if (depth > 4 || !t.isTSTypeReference(node) || !t.isIdentifier(node.typeName)) return node;
    if (
      node.typeParameters?.params.length === 1 &&
      /^(Readonly|Required|PropsWithChildren|NonNullable)$/.test(node.typeName.name)
    ) {
      return expand(node.typeParameters.params[0], depth + 1);
    }
    return expand(declaredType(script, node.typeName.name), depth + 1) ?? node;
  }

  function memberOf(found: Found, name: string): Found | undefined {
    const node = expand(found.node);
    const wrapped = t.isTSTypeReference(node) ? wrappedMember(node, name) : undefined;
    if (wrapped) return wrapped.member;
    if (t.isTSIntersectionType(node))
      return node.types.map((part) => memberOf(fromNode(part), name)).find((member) => member !== undefined);
    if (found.text === 'string' || t.isTSStringKeyword(node)) return name === 'length' ? { text: 'number' } : undefined;
    if (isList(found)) return name === 'length' ? { text: 'number' } : undefined;
    const members = t.isTSTypeLiteral(node) ? node.members : t.isTSInterfaceBody(node) ? node.body : undefined;
    if (members) {
      for (const member of members) {
        if (!t.isTSPropertySignature(member) || !member.typeAnnotation) continue;
        const key = t.isIdentifier(member.key)
          ? member.key.name
          : t.isStringLiteral(member.key)
            ? member.key.value
            : undefined;
        if (key !== name) continue;
        const inner = fromNode(member.typeAnnotation.typeAnnotation);
        return member.optional ? { text: `${inner.text} | undefined`, bare: inner } : inner;
      }
      return undefined;
    }
    if (
      t.isTSTypeReference(node) &&
      t.isIdentifier(node.typeName) &&
      !/^(Array|ReadonlyArray|Map|Set|Promise|Partial|Record)$/.test(node.typeName.name)
    ) {
      return { text: `${textOf(node)}[${JSON.stringify(name)}]` };
    }
    return undefined;
  }

  /** A member of `Partial<T>`, `Pick<T, …>` or `Omit<T, …>`. */
  function wrappedMember(
    { typeName, typeParameters }: t.TSTypeReference,
    name: string,
  ): { member: Found | undefined } | undefined {
    const [inner, keys] = typeParameters?.params ?? [];
    if (!t.isIdentifier(typeName) || !inner || !/^(Partial|Pick|Omit)$/.test(typeName.name)) return undefined;
    const member = memberOf(fromNode(inner), name);
    if (typeName.name === 'Partial')
      return { member: member && { text: `${member.text} | undefined`, bare: member.bare ?? member } };
    const listed = t.isTSUnionType(keys) ? keys.types : keys ? [keys] : [];
    const isListed = listed.some((key) => t.isTSLiteralType(key) && t.isStringLiteral(key.literal, { value: name }));
    return { member: isListed === (typeName.name === 'Pick') ? member : undefined };
  }

  function isList(found: Found): boolean {
    const node = expand(found.node);
    return t.isTSArrayType(node) || /\[\]$/.test(found.text) || /^(Readonly)?Array</.test(found.text);
  }

  function elementOf(found: Found): Found | undefined {
    const node = expand(found.node);
    if (t.isTSArrayType(node)) return fromNode(node.elementType);
    if (t.isTSTypeOperator(node) && t.isTSArrayType(node.typeAnnotation))
      return fromNode(node.typeAnnotation.elementType);
    if (t.isTSTypeReference(node) && t.isIdentifier(node.typeName) && /^(Readonly)?Array$/.test(node.typeName.name)) {
      const inner = node.typeParameters?.params[0];
      return inner ? fromNode(inner) : undefined;
    }
    const written = /^([\w.]+)\[\]$/.exec(found.text)?.[1];
    if (written === undefined) return undefined;
    const declared = declaredType(script, written);
    return { text: written, node: declared };
  }

  function annotationOf(node: t.Node): Found | undefined {
    if ('typeAnnotation' in node && t.isTSTypeAnnotation(node.typeAnnotation))
      return fromNode(node.typeAnnotation.typeAnnotation);
    return undefined;
  }

  function ofBinding(binding: Binding): Found | undefined {
    const given = known(binding);
    if (given !== undefined) {
      const node = /^\w+$/.test(given) ? declaredType(script, given) : undefined;
      return { text: given, node };
    }
    const identifier = binding.identifier;
    const own = annotationOf(identifier);
    if (own) return own;
    if (binding.kind === 'param') return ofParameter(binding);
    const declared = binding.path;
    if (!declared.isVariableDeclarator()) return undefined;
    const init = declared.get('init') as NodePath;
    if (!init.node || !binding.constant) return undefined;
    if (t.isIdentifier(declared.node.id)) {
      const direct = find(init);
      if (direct) return direct;
      // a constant of the module can be asked for its own type
      return binding.scope.path.isProgram() ? { text: `typeof ${identifier.name}` } : undefined;
    }
    const holder = annotationOf(declared.node.id) ?? find(init);
    return holder ? throughPattern(declared.node.id, identifier.name, holder) : undefined;
  }

  function throughPattern(pattern: t.Node, name: string, holder: Found): Found | undefined {
    if (t.isIdentifier(pattern)) return pattern.name === name ? holder : undefined;
    if (t.isAssignmentPattern(pattern)) {
      const given = holder.bare && / \| undefined$/.test(holder.text) ? holder.bare : holder;
      const inner = throughPattern(pattern.left, name, given);
      return inner ? { ...inner, text: inner.text.replace(/ \| undefined$/, '') } : undefined;
    }
    if (!t.isObjectPattern(pattern)) return undefined;
    for (const property of pattern.properties) {
      if (!t.isObjectProperty(property) || !t.isIdentifier(property.key)) continue;
      const member = memberOf(holder, property.key.name);
      const inner = member ? throughPattern(property.value, name, member) : undefined;
      if (inner) return inner;
    }
    return undefined;
  }

  function ofParameter(binding: Binding): Found | undefined {
    const owner = binding.scope.path;
    if (!owner.isFunction()) return undefined;
    const index = owner.node.params.findIndex((parameter) => {
      const names = Object.keys(t.getBindingIdentifiers(parameter));
      return names.includes(binding.identifier.name);
    });
    const parameter = owner.node.params[index];
    if (!parameter) return undefined;
    const pattern = t.isAssignmentPattern(parameter) ? parameter.left : parameter;
    const holder = annotationOf(pattern) ?? parameterFromCaller(owner, index);
    if (holder) return throughPattern(pattern, binding.identifier.name, holder);
    if (t.isAssignmentPattern(parameter) && t.isIdentifier(parameter.left)) {
      const fallback = owner.get(`params.${index}.right`) as NodePath;
      return find(fallback);
    }
    return undefined;
  }

  /** The type a caller such as `rows.map(…)` or `React.FC<Props>` gives a parameter. */
  function parameterFromCaller(owner: NodePath<t.Function>, index: number): Found | undefined {
    const call = owner.parentPath;
    if (call?.isVariableDeclarator() && t.isIdentifier(call.node.id) && index === 0) {
      const written = annotationOf(call.node.id)?.node;
      if (t.isTSTypeReference(written) && /(^|\.)(FC|FunctionComponent|VFC)$/.test(textOf(written.typeName))) {
        const props = written.typeParameters?.params[0];
        return props ? fromNode(props) : undefined;
      }
    }
    if (!call?.isCallExpression() || owner.key !== 0) return undefined;
    const callee = call.get('callee');
    if (!callee.isMemberExpression() || !t.isIdentifier(callee.node.property)) return undefined;
    if (!/^(map|filter|forEach|flatMap|find|findIndex|some|every)$/.test(callee.node.property.name)) return undefined;
    if (index === 1) return { text: 'number' };
    const list = index === 0 ? find(callee.get('object')) : undefined;
    return list ? elementOf(list) : undefined;
  }

  function same(parts: (Found | undefined)[]): Found | undefined {
    const texts = new Set(parts.map((part) => part?.text));
    const first = parts[0];
    if (parts.some((part) => part === undefined)) return undefined;
    if (texts.size === 1) return first;
    return { text: [...texts].join(' | ') };
  }

  /** The value that a constant object is written with: `blank.town` where `const blank = { town: '' }`. */
  function writtenMember(object: NodePath, name: string): Found | undefined {
    const declared = object.isIdentifier() ? object.scope.getBinding(object.node.name)?.path : undefined;
    if (!declared?.isVariableDeclarator() || !t.isIdentifier(declared.node.id) || declared.node.id.typeAnnotation)
      return undefined;
    const init = declared.get('init') as NodePath;
    if (!init.isObjectExpression()) return undefined;
    for (const property of init.get('properties'))
      if (property.isObjectProperty() && t.isIdentifier(property.node.key, { name }) && !property.node.computed)
        return find(property.get('value') as NodePath);
    return undefined;
  }

  function ofMember(path: NodePath<t.MemberExpression>): Found | undefined {
    const object = path.get('object');
    const { property } = path.node;
    if (path.node.computed) {
      const list = find(object);
      const index = path.get('property');
      if (list && isList(list) && find(index as NodePath)?.text === 'number') return elementOf(list);
      return undefined;
    }
    if (!t.isIdentifier(property)) return undefined;
    const holder = textOf(object.node);
    if (/(^|\.)(target|currentTarget)$/.test(holder)) {
      if (property.name === 'value' || property.name === 'name') return { text: 'string' };
      if (property.name === 'checked') return { text: 'boolean' };
      if (property.name === 'valueAsNumber') return { text: 'number' };
      if (property.name === 'files') return { text: 'FileList | null' };
    }
    if (object.isIdentifier() && isEnum(script, object.node.name)) return { text: object.node.name };
    const found = find(object);
    return (found && memberOf(found, property.name)) ?? writtenMember(object, property.name);
  }

  function ofCall(path: NodePath<t.CallExpression>): Found | undefined {
    const callee = path.get('callee');
    if (callee.isIdentifier()) {
      const name = callee.node.name;
      const binding = callee.scope.getBinding(name);
      if (!binding) {
        if (/^(Number|parseInt|parseFloat)$/.test(name)) return { text: 'number' };
        if (/^(String|encodeURIComponent)$/.test(name)) return { text: 'string' };
        if (/^(Boolean|isNaN)$/.test(name)) return { text: 'boolean' };
        return undefined;
      }
      const owner = binding.path;
      const node = owner.isFunctionDeclaration()
        ? owner.node
        : owner.isVariableDeclarator()
          ? owner.node.init
          : undefined;
      if (t.isFunction(node) && !node.async && t.isTSTypeAnnotation(node.returnType))
        return fromNode(node.returnType.typeAnnotation);
      if (binding.scope.path.isProgram()) return { text: `ReturnType<typeof ${name}>` };
      return undefined;
    }
    if (!callee.isMemberExpression() || !t.isIdentifier(callee.node.property)) return undefined;
    const method = callee.node.property.name;
    const object = callee.get('object');
    if (object.isIdentifier({ name: 'Math' }) && !object.scope.getBinding('Math')) return { text: 'number' };
    if (object.isIdentifier({ name: 'crypto' }) && method === 'randomUUID') return { text: 'string' };
    if (object.isIdentifier({ name: 'JSON' })) return method === 'stringify' ? { text: 'string' } : undefined;
    if (numberMethods.test(method)) return { text: 'number' };
    if (yesNoMethods.test(method)) return { text: 'boolean' };
    const holder = find(object);
    if (holder && isList(holder)) {
      if (method === 'join') return { text: 'string' };
      if (method === 'map') return ofMapped(path.get('arguments')[0]);
      return sameListMethods.test(method) && method !== 'splice' ? holder : undefined;
    }
    if (
      textMethods.test(method) &&
      method !== 'concat' &&
      (holder?.text === 'string' || !/^(slice|replace)$/.test(method))
    ) {
      return { text: 'string' };
    }
    if (method === 'split' && holder?.text === 'string') return { text: 'string[]' };
    return undefined;
  }

  /** The list that `map` gives, where its function is one expression or a conversion. */
  function ofMapped(given: NodePath | undefined): Found | undefined {
    const body = given?.isArrowFunctionExpression() ? given.get('body') : undefined;
    if (body && !body.isBlockStatement()) return listOf(find(body));
    const isGlobal = given?.isIdentifier() === true && !given.scope.getBinding(given.node.name);
    const text = { String: 'string', Number: 'number' }[isGlobal ? given.node.name : ''];
    return text === undefined ? undefined : { text: `${text}[]` };
  }

  function find(path: NodePath): Found | undefined {
    const node = path.node;
    if (t.isStringLiteral(node) || t.isTemplateLiteral(node)) return { text: 'string' };
    if (t.isNumericLiteral(node)) return { text: 'number' };
    if (t.isBooleanLiteral(node)) return { text: 'boolean' };
    if (t.isRegExpLiteral(node)) return { text: 'RegExp' };
    if (path.isTSAsExpression() || path.isTSSatisfiesExpression() || path.isTSTypeAssertion()) {
      const written = (path.node as t.TSAsExpression).typeAnnotation;
      if (textOf(written) === 'const') return find(path.get('expression') as NodePath);
      return fromNode(written);
    }
    if (path.isTSNonNullExpression() || path.isParenthesizedExpression()) {
      const inner = find(path.get('expression') as NodePath);
      return inner && (path.isTSNonNullExpression() ? withoutNull(inner) : inner);
    }
    if (path.isIdentifier()) {
      const binding = path.scope.getBinding(path.node.name);
      return binding ? ofBinding(binding) : undefined;
    }
    if (path.isMemberExpression()) return ofMember(path);
    if (path.isOptionalMemberExpression() && !path.node.computed && t.isIdentifier(path.node.property)) {
      const holder = find(path.get('object'));
      const bare = holder && withoutNull(holder);
      const member = bare ? memberOf(bare, path.node.property.name) : undefined;
      return member ? { text: `${member.text} | undefined`, bare: member } : undefined;
    }
    if (path.isCallExpression()) return ofCall(path);
    if (path.isNewExpression() && t.isIdentifier(path.node.callee)) {
      const { name } = path.node.callee;
      const given = path.node.typeParameters;
      if (name === 'Date') return { text: 'Date' };
      return given ? { text: `${name}${textOf(given)}` } : undefined;
    }
    if (path.isUnaryExpression()) {
      if (path.node.operator === '!') return { text: 'boolean' };
      return /^[-+~]$/.test(path.node.operator) ? { text: 'number' } : undefined;
    }
    if (path.isBinaryExpression()) return ofBinary(path);
    if (path.isLogicalExpression()) {
      const left = find(path.get('left'));
      const right = find(path.get('right'));
      if (path.node.operator !== '&&' && left) return same([withoutNull(left), right]);
      return left?.text === right?.text ? left : undefined;
    }
    if (path.isConditionalExpression()) return same([find(path.get('consequent')), find(path.get('alternate'))]);
    if (path.isArrayExpression()) return ofArray(path);
    if (path.isObjectExpression()) return ofObject(path);
    return undefined;
  }

  function withoutNull(found: Found): Found {
    if (found.bare) return found.bare;
    const node = expand(found.node);
    if (t.isTSUnionType(node)) {
      const rest = node.types.filter((part) => !t.isTSNullKeyword(part) && !t.isTSUndefinedKeyword(part));
      if (rest.length === 1 && rest[0]) return fromNode(rest[0]);
    }
    return { ...found, text: found.text.replace(/ \| (undefined|null)\b/g, '') };
  }

  function ofBinary(path: NodePath<t.BinaryExpression>): Found | undefined {
    const { operator } = path.node;
    if (/^(===|!==|==|!=|<|>|<=|>=|in|instanceof)$/.test(operator)) return { text: 'boolean' };
    if (operator !== '+') return { text: 'number' };
    const sides = [find(path.get('left') as NodePath), find(path.get('right'))];
    if (sides.some((side) => side?.text === 'string')) return { text: 'string' };
    return sides.every((side) => side?.text === 'number') ? { text: 'number' } : undefined;
  }

  function ofArray(path: NodePath<t.ArrayExpression>): Found | undefined {
    const parts = (path.get('elements') as NodePath[]).map((element) => {
      if (!element.isSpreadElement()) return find(element);
      const inner = find(element.get('argument'));
      return inner ? elementOf(inner) : undefined;
    });
    return listOf(parts.length ? same(parts) : undefined);
  }

  function listOf(element: Found | undefined): Found | undefined {
    if (!element) return undefined;
    return {
      text: /[|&\s]/.test(element.text) && !element.text.startsWith('{') ? `(${element.text})[]` : `${element.text}[]`,
    };
  }

  function ofObject(path: NodePath<t.ObjectExpression>): Found | undefined {
    const members: string[] = [];
    for (const property of path.get('properties')) {
      if (!property.isObjectProperty() || property.node.computed) return undefined;
      const value = find(property.get('value') as NodePath);
      if (!value) return undefined;
      members.push(`${textOf(property.node.key)}: ${value.text}`);
    }
    return members.length ? { text: `{ ${members.join('; ')} }` } : undefined;
  }

  return { typeOf: (expression) => find(expression)?.text };
}
