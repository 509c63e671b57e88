import * as t from '@babel/types';
import { applyEdits, type Edit } from '../../source/edits.js';
import { importedFrom } from '../../source/handed-names.js';
import type { Script } from '../../source/script.js';
import { quoted, styleOf } from '../../source/style.js';
import { declarationNamed } from '../../source/type-members.js';
import { signalForms } from '../signal-model/found-form.js';
import { leaveNode, put, staticPath, support, textAt, typeAt, type Leaving, type RuleFunction } from './leaving.js';

/** A path of a schema, said with values: the expression for its value, and the path under which its errors are kept. */
export interface Target {
  value: string;
  path: string;
}

/** What a name of a schema stands for. */
export type Names = ReadonlyMap<string, Target>;

/** The target that a chain of members spells behind a name of the schema. */
export function targetOf(node: t.Node | null | undefined, names: Names): Target | undefined {
  if (t.isIdentifier(node)) return names.get(node.name);
  if (!t.isMemberExpression(node)) return undefined;
  const { property, computed } = node;
  const key = computed ? (t.isStringLiteral(property) ? property.value : undefined) : nameOf(property);
  const inner = targetOf(node.object, names);
  if (!inner || key === undefined) return undefined;
  const access = /^[A-Za-z_$][\w$]*$/.test(key) ? `.${key}` : `['${key}']`;
  return { value: inner.value + access, path: inner.path === '' ? key : `${inner.path}.${key}` };
}

/** The name that a node is; undefined for anything else. */
export function nameOf(node: t.Node | null | undefined): string | undefined {
  return t.isIdentifier(node) ? node.name : undefined;
}

/** A path as the text of an expression. */
export function pathLiteral(path: string, script: Script): string {
  const alone = /^\$\{([^}]*)\}$/.exec(path)?.[1];
  if (alone !== undefined) return alone;
  return path.includes('${') ? `\`${path}\`` : quoted(path, styleOf(script.text));
}

/** The function of the signal forms' package that a call calls. */
export function calledOf(node: t.Node | null | undefined, script: Script): string | undefined {
  if (!t.isCallExpression(node) || !t.isIdentifier(node.callee)) return undefined;
  const from = importedFrom(script, node.callee.name);
  return from?.module === signalForms ? from.name : undefined;
}

/** A function that a rule is given, said with values: an expression, or statements in braces. */
export interface Said {
  text: string;
  block: boolean;
}

/**
 * What a function of a field's context says, in terms of values.
 * @param of the field whose context it is given
 */
export function said(
  node: t.Node | null | undefined,
  of: Target,
  names: Names,
  script: Script,
  leaving: Leaving,
): Said | undefined {
  if (t.isIdentifier(node)) return calledWith(node, of, script, leaving);
  if (!t.isArrowFunctionExpression(node) && !t.isFunctionExpression(node)) return undefined;
  const edits = contextEdits(node, of, names, script);
  if (!edits || node.async || node.generator) return undefined;
  const { body } = node;
  const start = body.start ?? 0;
  const text = applyEdits(
    textAt(script, body),
    edits.map((edit) => ({ ...edit, start: edit.start - start, end: edit.end - start })),
  );
  return { text, block: t.isBlockStatement(body) };
}

/** The edits that put values in the place of what a context gives; undefined where it is asked for more. */
function contextEdits(fn: RuleFunction, of: Target, names: Names, script: Script): Edit[] | undefined {
  const [parameter, ...more] = fn.params;
  const given = more.length ? undefined : givenNames(parameter);
  if (!given) return undefined;
  const edits: Edit[] = [];
  let unknown = false;
  t.traverseFast(fn.body, (node) => {
    if (t.isThisExpression(node)) unknown = true;
    if (t.isCallExpression(node)) edits.push(...madeError(node, script));
    const member = t.isCallExpression(node) ? askedOf(node.callee, given) : undefined;
    if (member === undefined || !t.isCallExpression(node)) return;
    const target = member === 'value' && !node.arguments.length ? of : targetOf(node.arguments[0], names);
    if ((member !== 'value' && member !== 'valueOf') || !target) unknown = true;
    else edits.push({ start: node.start ?? 0, end: node.end ?? 0, text: target.value });
  });
  const spoken = (name: string): boolean => name === given.context || given.members.has(name) || names.has(name);
  const left = plainIdentifiers(fn.body).some(
    ({ name, start }) => spoken(name) && !edits.some((edit) => edit.start <= (start ?? 0) && edit.end > (start ?? 0)),
  );
  return unknown || left ? undefined : withoutInner(edits);
}

/** An error that a function of the package makes: what it is given, or its kind alone. */
function madeError(node: t.CallExpression, script: Script): Edit[] {
  const called = calledOf(node, script) ?? '';
  const [given, options] = node.arguments;
  const { start, end } = { start: node.start ?? 0, end: node.end ?? 0 };
  if (called === 'customError' && given)
    return [
      { start, end: given.start ?? 0, text: '' },
      { start: given.end ?? 0, end, text: '' },
    ];
  const kind = /^(required|email|minLength|maxLength|min|max|pattern)Error$/.exec(called)?.[1];
  const more = kind !== undefined && /^(required|email)$/.test(kind) ? given : options;
  if (kind === undefined || (more && !t.isObjectExpression(more))) return [];
  const { quote } = styleOf(script.text);
  const inner = more ? textAt(script, more).replace(/^\{\s*|,?\s*\}$/g, '') : '';
  return [{ start, end, text: `{ kind: ${quote}${kind}${quote}${inner === '' ? '' : `, ${inner}`} }` }];
}

/** Names that stand for something: keys of objects and members left out. */
export function plainIdentifiers(body: t.Node): t.Identifier[] {
  const keys = new Set<t.Node>();
  const found: t.Identifier[] = [];
  t.traverseFast(body, (node) => {
    if ((t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) && !node.computed) keys.add(node.property);
    if (
      (t.isObjectProperty(node) || t.isObjectMethod(node) || t.isClassProperty(node) || t.isClassMethod(node)) &&
      !node.computed
    )
      keys.add(node.key);
    if (t.isIdentifier(node)) found.push(node);
  });
  return found.filter((node) => !keys.has(node));
}

function withoutInner(edits: readonly Edit[]): Edit[] {
  return edits.filter(
    (one) => !edits.some((other) => other !== one && other.start <= one.start && other.end >= one.end),
  );
}

/** Names under which a context's members are known, or the name of the context. */
function givenNames(
  parameter: t.Node | undefined,
): { context: string | undefined; members: Map<string, string> } | undefined {
  if (!parameter) return { context: undefined, members: new Map() };
  if (t.isIdentifier(parameter)) return { context: parameter.name, members: new Map() };
  if (!t.isObjectPattern(parameter)) return undefined;
  const members = new Map<string, string>();
  for (const property of parameter.properties) {
    const key = t.isObjectProperty(property) ? nameOf(property.key) : undefined;
    const local = t.isObjectProperty(property) ? nameOf(property.value) : undefined;
    if (key === undefined || local === undefined) return undefined;
    members.set(local, key);
  }
  return { context: undefined, members };
}

function askedOf(
  callee: t.Node,
  { context, members }: { context: string | undefined; members: Map<string, string> },
): string | undefined {
  if (t.isIdentifier(callee)) return members.get(callee.name);
  if (context === undefined || !t.isMemberExpression(callee) || callee.computed) return undefined;
  return t.isIdentifier(callee.object, { name: context }) ? (nameOf(callee.property) ?? '') : undefined;
}

/** A function that has a name is given the value itself. */
function calledWith(node: t.Identifier, of: Target, script: Script, leaving: Leaving): Said | undefined {
  const declared = declarationNamed(node.name, script, leaving.load);
  const fn = t.isVariableDeclarator(declared?.node) ? declared.node.init : declared?.node;
  if (!declared || !isFunction(fn) || declared.script.file !== script.file) return undefined;
  const [parameter] = fn.params;
  if (!leaving.contexts.has(fn)) {
    const annotation =
      t.isObjectPattern(parameter) && t.isTSTypeAnnotation(parameter.typeAnnotation)
        ? parameter.typeAnnotation.typeAnnotation
        : undefined;
    const type = t.isTSTypeReference(annotation) ? annotation.typeParameters?.params[0] : valueTypeOf(annotation);
    const edits = contextEdits(fn, { value: 'value', path: '' }, new Map(), script);
    if (!type || !edits || !parameter || (t.isVariableDeclarator(declared.node) && hasType(declared.node)))
      return undefined;
    put(leaving, script, parameter.start ?? 0, parameter.end ?? 0, `value: ${textAt(script, type)}`);
    for (const edit of edits) put(leaving, script, edit.start, edit.end, edit.text);
    leaving.contexts.add(fn);
  }
  return { text: `${node.name}(${of.value})`, block: false };
}

/** The type of a value that a type literal says as a function: `{ value: () => string }`. */
function valueTypeOf(type: t.Node | undefined): t.Node | undefined {
  const member = t.isTSTypeLiteral(type)
    ? type.members.find((one) => t.isTSPropertySignature(one) && t.isIdentifier(one.key, { name: 'value' }))
    : undefined;
  const annotation = t.isTSPropertySignature(member) ? member.typeAnnotation?.typeAnnotation : undefined;
  return t.isTSFunctionType(annotation) ? annotation.typeAnnotation?.typeAnnotation : undefined;
}

function hasType({ id }: t.VariableDeclarator): boolean {
  return t.isIdentifier(id) && id.typeAnnotation !== null && id.typeAnnotation !== undefined;
}

/** Whether a node is a function that can state rules, or a part of one. */
export function isFunction(node: t.Node | null | undefined): node is RuleFunction {
  return t.isArrowFunctionExpression(node) || t.isFunctionExpression(node) || t.isFunctionDeclaration(node);
}

const known = /^(required|email|min|max|minLength|maxLength|pattern)$/;

/** Whether a function of the package states a rule of one field by its name alone. */
export function isKnownRule(called: string): boolean {
  return known.test(called);
}

/** A condition as a part of one joined by `&&`. */
export function joined(text: string): string {
  return /\|\||\?|=>/.test(text.replace(/\?\./g, '')) ? `(${text})` : text;
}

/** Where a known rule stands. */
export interface RulePlace {
  names: Names;
  script: Script;
  leaving: Leaving;
  guards: readonly string[];
  /** The path without indices that `at` stands for. */
  base: string | undefined;
  /** Takes attributes of rules that always count; undefined where the rule stands under a condition. */
  attributes: ((path: string, text: string) => void) | undefined;
}

/** A statement by which a known rule says what is wrong; undefined where a part of it is not understood. */
export function knownRule(
  call: t.CallExpression,
  called: string,
  { names, script, leaving, guards, base, attributes }: RulePlace,
): string | undefined {
  const [first, second, third] = call.arguments;
  const target = targetOf(first, names);
  if (!target) return leaveNode(leaving, script, call, 'the field that it is about is not clear');
  const limited = !/^(required|email)$/.test(called);
  const config = limited ? third : second;
  const options = optionsOf(config);
  if (!options) return leaveNode(leaving, script, call, 'what the rule is given is not clear');
  const textOf = (node: t.Node): string | undefined => {
    if (!isFunction(node)) return textAt(script, node);
    const text = said(node, target, names, script, leaving);
    return text && !text.block ? text.text : undefined;
  };
  const limit = limited && second ? textOf(second) : '';
  const when = options.when && textOf(options.when);
  const error = options.error && textOf(options.error);
  const message = options.message && textOf(options.message);
  const parts = [
    [options.when, when],
    [options.error, error],
    [options.message, message],
  ];
  if (limit === undefined || parts.some(([given, text]) => given !== undefined && text === undefined))
    return leaveNode(leaving, script, call, 'its condition or message is not clear');
  const plain = staticPath(base === undefined ? target.path : target.path.replace('${at}', base));
  const type = typeAt(leaving, plain);
  const condition = fails(called, target.value, limit, { script, leaving, type });
  if (condition === undefined) return leaveNode(leaving, script, call, 'its pattern keeps where it was');
  const attribute = attributeOf(called, limit, type);
  // the page bears it as well while the field does not count, when it must not be a rule of the control
  if (when === undefined) attributes?.(target.path, guards.length ? unruled(attribute) : attribute);
  const { quote } = styleOf(script.text);
  const answer = error ?? `{ kind: ${quote}${called}${quote}${message === undefined ? '' : `, message: ${message}`} }`;
  const all = [...guards, ...(when === undefined ? [] : [joined(when)]), condition].join(' && ');
  return `if (${all}) wrong(${pathLiteral(target.path, script)}, ${answer});`;
}

/** The attribute that the package writes for a rule; empty where it writes none. */
function attributeOf(called: string, limit: string, type: string | undefined): string {
  if (called === 'required') return type === undefined || /\[\]$/.test(type) ? '' : 'required';
  if (/^(min|max)$/.test(called)) return /^-?[\d.]+$/.test(limit) ? `${called}="${limit}"` : '';
  if (/^(min|max)Length$/.test(called))
    return /^\d+$/.test(limit) && type === 'string' ? `${called.toLowerCase()}="${limit}"` : '';
  return '';
}

/** An attribute that no directive takes for a rule. */
export function unruled(attribute: string): string {
  const [, name, value] = /^(\w+)(?:="([^"]*)")?$/.exec(attribute) ?? [];
  return name === undefined ? '' : `[attr.${name}]="${value ?? "''"}"`;
}

interface Options {
  message?: t.Node;
  when?: t.Node;
  error?: t.Node;
}

function optionsOf(node: t.Node | undefined): Options | undefined {
  if (!node) return {};
  if (!t.isObjectExpression(node)) return undefined;
  const options: Options = {};
  for (const property of node.properties) {
    const key = t.isObjectProperty(property) && !property.computed ? nameOf(property.key) : undefined;
    if (!t.isObjectProperty(property) || (key !== 'message' && key !== 'when' && key !== 'error')) return undefined;
    options[key] = property.value;
  }
  return options;
}

/** The condition under which a value breaks a rule. */
function fails(
  called: string,
  value: string,
  given: string,
  { script, leaving, type }: { script: Script; leaving: Leaving; type: string | undefined },
): string | undefined {
  const limit = called === 'pattern' || /^[-\w.$]*$/.test(given) ? given : `(${given})`;
  const text = type === 'string';
  const number = /^number( \| null)?$/.test(type ?? '');
  const list = /\[\]$|^Array</.test(type ?? '');
  const missing = (): string => `${support(leaving, script, 'isMissing')}(${value})`;
  const filled = (): string => (text ? `${value} !== ${quoted('', styleOf(script.text))}` : `!${missing()}`);
  switch (called) {
    case 'required':
      return text || type === 'boolean' ? `!${value}` : missing();
    case 'email':
      return `Validators.email(new FormControl(${value})) !== null`;
    case 'min':
      return number ? `${value} !== null && ${value} < ${limit}` : `${filled()} && Number(${value}) < ${limit}`;
    case 'max':
      return number ? `${value} !== null && ${value} > ${limit}` : `${filled()} && Number(${value}) > ${limit}`;
    case 'minLength':
      return list ? `${value}.length < ${limit}` : `${filled()} && ${value}.length < ${limit}`;
    case 'maxLength':
      return list || text ? `${value}.length > ${limit}` : `${filled()} && ${value}.length > ${limit}`;
    default:
      return /^\/.*\/[dimsuv]*$/s.test(limit) || /^[A-Za-z_$][\w$.]*$/.test(limit)
        ? `${filled()} && !${limit}.test(${value})`
        : undefined;
  }
}
